import { assess, type Assessment, type Settings, type Weighed } from '@/core/case';
import type { Catalogue } from '@/core/catalogue';
import { nothingLearned, type Learned } from '@/core/learn';
import {
  applyEvents,
  type TicketDecision,
  type TicketEvent,
  type TicketEventData,
  type TicketState,
} from '@/core/ticket';
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

export const modelOn = (platformId: string) =>
  defined(
    catalogue.models.find((model) => model.platformId === platformId),
    platformId,
  );

/** An open ticket of which no cause is settled yet, its plate read as this model. */
export function readAs({ id: modelId, modelNumber, platformId }: ReturnType<typeof modelOn>): TicketEvent[] {
  const [, events] = defined(
    live.find(([, all]) => applyEvents(all).plate && !applyEvents(all).round.cause),
    'an open ticket with a plate',
  );
  return events.map((event) =>
    event.data.type === 'plate-read' ? { ...event, data: { ...event.data, modelId, modelNumber, platformId } } : event,
  );
}

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
