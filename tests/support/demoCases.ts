import { assess, type Assessment, type Settings, type Weighed } from '@/core/case';
import type { Catalogue } from '@/core/catalogue';
import { nothingLearned, type Learned } from '@/core/learn';
import type { TicketDecision, TicketEvent, TicketEventData, TicketState } from '@/core/ticket';
import { asInstant, defined, type CauseId } from '@/core/units';
import { eventsAfter } from './acts';
import { demoCatalogue, demoSettings, demoTickets } from './demo';

/** A morning in the demo's shop, and what is worked out there of its tickets. */
export const NOW = asInstant('2026-11-24T08:00:00.000Z');
export const catalogue = demoCatalogue();
export const settings = demoSettings();
export const tickets = demoTickets();

/** Of the machines that stand in the shop. */
export const live = [...tickets].filter(([number]) => number > 200);

export const eventsOf = (number: number): TicketEvent[] => defined(tickets.get(number), `ticket ${number}`);

export const weighed = (assessment: Assessment): Weighed => {
  if (assessment.kind === 'unread') throw new Error('not read yet');
  return assessment;
};

export type World = { catalogue?: Catalogue; settings?: Settings; learned?: Learned };
export const assessed = (state: TicketState, world: World = {}): Weighed =>
  weighed(
    assess(world.catalogue ?? catalogue, state, world.settings ?? settings, world.learned ?? nothingLearned(), NOW),
  );

export const add = (events: readonly TicketEvent[], ...acts: (TicketEventData | TicketDecision)[]) =>
  eventsAfter(events, NOW, ...acts);

export const finding = (findingId: string, answer: 'yes' | 'no' = 'yes'): TicketEventData => ({
  type: 'finding-noted',
  findingId,
  answer,
  threeWords: findingId,
});

export const causeOf = (result: Weighed, causeId: CauseId) =>
  defined(
    result.lore.causes.find(({ id }) => id === causeId),
    `cause ${causeId}`,
  );
