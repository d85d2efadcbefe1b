import { describe, expect, it } from 'vitest';
import { asId, asInstant, type EventId } from '../units';
import { applyEvents, basisNow, standing, type TicketEvent, type TicketEventData } from '.';

const ticket = (...data: TicketEventData[]) =>
  applyEvents(
    [{ type: 'opened' as const, number: 1, customerId: null, machineId: null }, ...data].map(
      (entry, index): TicketEvent => ({
        id: asId<EventId>(`e${index}`),
        stream: 'ticket:t',
        sequence: index + 1,
        version: 2,
        at: asInstant('2026-11-24T08:00:00.000Z'),
        groupId: `g${index}`,
        data: entry,
      }),
    ),
  );
const relative = { modelId: asId<never>('m1'), modelNumber: 'M 1', platformId: asId<never>('p1'), probability: 0.9 };
const taken: TicketEventData = { type: 'relative-judged', relative };
const begun: TicketEventData[] = [
  { type: 'plate-not-listed', text: 'M 19' },
  taken,
  { type: 'cause-decided', causeId: asId('c'), name: 'c', needsPart: true },
];
const chosen: TicketEventData = { type: 'parts-chosen', causeId: asId('c'), parts: [], on: basisNow(ticket(...begun)) };

describe('a part that was chosen because a machine was taken for a sister', () => {
  it('stands while it is taken for that one', () => {
    expect(standing(ticket(...begun, chosen)).part).toBe('stands');
  });

  it('is shaken when it is none after all, or another one’s', () => {
    const none: TicketEventData = { type: 'relative-judged', relative: null };
    expect(standing(ticket(...begun, chosen, none)).shaken).toContainEqual({ decision: 'part', by: 'plate' });
    const other: TicketEventData = { type: 'relative-judged', relative: { ...relative, modelId: asId('m2') } };
    expect(standing(ticket(...begun, chosen, other)).part).toBe('shaken');
    // Judged back, it stands again.
    expect(standing(ticket(...begun, chosen, none, taken)).part).toBe('stands');
  });
});
