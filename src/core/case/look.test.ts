import { describe, expect, it } from 'vitest';
import { demoCatalogue, knowledgeFiles } from '../../../tests/support/demo';
import { emptyCatalogue } from '../catalogue';
import { nothingLearned } from '../learn';
import { readPackage } from '../package';
import { applyEvents, type TicketEvent, type TicketEventData } from '../ticket';
import { asId, asInstant } from '../units';
import { compose, defaultSettings } from '.';
import { fromScratchRefined } from './chapter';

const now = asInstant('2026-11-24T08:00:00.000Z');
const ticket = (...data: TicketEventData[]) =>
  applyEvents(
    [{ type: 'opened' as const, number: 1, customerId: null, machineId: null }, ...data].map(
      (entry, index): TicketEvent => ({
        id: asId(`e${index}`),
        stream: 'ticket:t',
        sequence: index + 1,
        version: 2,
        at: now,
        groupId: `g${index}`,
        data: entry,
      }),
    ),
  );
const world = {
  catalogue: { ...emptyCatalogue(), ...readPackage(knowledgeFiles()).catalogue },
  settings: defaultSettings(),
  learned: nothingLearned(),
};
const plate: TicketEventData = { type: 'plate-not-listed', text: 'KX 1' };
const kind = (questionId: string, answerId: string | null): TicketEventData => ({
  type: 'kind-judged',
  questionId,
  answerId,
});
const finding = (findingId: string): TicketEventData => ({
  type: 'finding-noted',
  findingId,
  answer: 'yes',
  threeWords: '',
});

function lookOf(...data: TicketEventData[]) {
  const assessment = compose(fromScratchRefined, world, ticket(...data), now);
  if (assessment.kind !== 'weighed') throw new Error('not weighed');
  return { look: assessment.look, asks: assessment.machine.ask?.id ?? null };
}

describe('a look that tells how a machine is built', () => {
  it('is weighed by what it saves, for the question that is open', () => {
    const shows = world.catalogue.findings.slice(0, 12).map(({ id }) => lookOf(plate, finding(id)));
    expect(shows.every(({ look, asks }) => look?.questionId === asks)).toBe(true);
    expect(shows.every(({ look }) => look !== null && look.saves >= 0 && look.cost > 0)).toBe(true);
    // Where the washing goes in tells so much that it pays for nearly every complaint.
    expect(shows.filter(({ look }) => (look?.saves ?? 0) > (look?.cost ?? 0)).length).toBeGreaterThan(shows.length / 2);
  });

  it('is none where nothing is left to tell, nor for a machine that is listed', () => {
    const told = ['loading', 'drive', 'motor', 'pump', 'hung', 'control'].map((id) => kind(id, null));
    expect(lookOf(plate, ...told).look).toBeNull();
    const catalogue = demoCatalogue();
    const [model] = catalogue.models;
    if (!model) throw new Error('no model');
    const read: TicketEventData = {
      type: 'plate-read',
      text: model.modelNumber,
      modelId: model.id,
      modelNumber: model.modelNumber,
      makerId: model.makerId,
      platformId: model.platformId,
      badge: '',
      probability: 1,
      others: [],
      confirmed: true,
    };
    const assessment = compose(fromScratchRefined, { ...world, catalogue }, ticket(read), now);
    expect(assessment.kind === 'weighed' && assessment.look).toBeNull();
  });
});
