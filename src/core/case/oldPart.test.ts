import { describe, expect, it } from 'vitest';
import { assessed, tickets } from '../../../tests/support/demoCases';
import { applyEvents, type TicketEvent, type TicketEventData, type TicketState } from '../ticket';
import { addHours, asId, defined, type PartId } from '../units';

/** A ticket whose part is chosen and not yet ordered. */
const chosen = defined(
  [...tickets.values()].find((events) => {
    const state = applyEvents(events);
    const { rung } = state.plate && !state.closed ? assessed(state).next : { rung: 'none' };
    return ['offer', 'ring-customer', 'order'].includes(rung) && state.round.parts.some(({ companion }) => !companion);
  }),
  'a ticket with a part chosen',
);
const then = (...more: TicketEventData[]): TicketState => {
  const last = defined(chosen.at(-1), 'an event');
  return applyEvents([
    ...chosen,
    ...more.map((data, index): TicketEvent => ({
      ...last,
      id: `${last.id}+${index}` as TicketEvent['id'],
      sequence: last.sequence + 1 + index,
      at: addHours(last.at, index + 1),
      data,
    })),
  ]);
};
const known = applyEvents(chosen);
const main = defined(
  known.round.parts.find(({ companion }) => !companion),
  'the part',
);
const read = (text: string): TicketEventData => ({ type: 'old-number-read', roleId: main.roleId, text });

describe('a number read on the old part after another was chosen', () => {
  it('is looked at before anything more is built on that part', () => {
    const { part, next } = assessed(then(read('QX 11-7790')));
    expect(part.oldDiffers).toBe(true);
    expect(next).toMatchObject({ station: 'part', doNext: { kind: 'old-number-differs' } });
  });

  it('stands in nobody’s way where the lists lead from it to that part', () => {
    const { part, next } = assessed(then(read(main.bought.partNumber)));
    expect(part.oldDiffers).toBe(false);
    expect(part.parts?.main?.old?.candidates[0]?.part.id).toBe(main.bought.partId);
    expect(next.doNext).toEqual(assessed(known).next.doNext);
  });

  it('is no other number where the part that was chosen was typed under it', () => {
    const on = { modelId: known.plate?.modelId ?? null, serial: known.serial, causeId: main.causeId };
    const bought = { ...main.bought, partId: asId<PartId>('typed:QX117790'), partNumber: 'QX 11-7790' };
    const typed: TicketEventData = {
      type: 'parts-chosen',
      causeId: defined(main.causeId, 'its cause'),
      parts: [{ ...main, route: 'typed', bought, alternatives: [] }],
      on,
    };
    expect(assessed(then(typed, read('P/N QX-11 7790'))).part.oldDiffers).toBe(false);
    expect(assessed(then(typed, read('QX 11-7791'))).part.oldDiffers).toBe(true);
  });

  it('is settled by keeping the part, by choosing it again, or by taking the number back', () => {
    const on = { modelId: known.plate?.modelId ?? null, serial: known.serial, causeId: main.causeId };
    const keep: TicketEventData = { type: 'decision-kept', decision: 'part', on };
    const again: TicketEventData = {
      type: 'parts-chosen',
      causeId: defined(main.causeId, 'its cause'),
      parts: known.round.parts,
      on,
    };
    for (const after of [keep, again, read('')]) {
      const { part, next } = assessed(then(read('QX 11-7790'), after));
      expect(part.oldDiffers, after.type).toBe(false);
      expect(next.doNext.kind, after.type).not.toBe('old-number-differs');
    }
  });

  it('is kept with the ticket until it is taken back', () => {
    expect(then(read('FJ-1')).oldNumbers[main.roleId]?.text).toBe('FJ-1');
    expect(then(read('FJ-1'), read('')).oldNumbers).toEqual({});
  });
});
