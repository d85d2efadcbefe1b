import type { ChapterName, Settings, Weighed } from '@/core/case';
import type { TicketDecision, TicketState } from '@/core/ticket';
import type { Moment } from '@/words';

/** Goes through the one door; false when it was refused, which has been said by then. Saved when it resolves with true. */
export type Ask = (decision: TicketDecision) => Promise<boolean>;

/** What every station has, and the chapters of the assessment that this one shows. */
export type StationProps<Chapters extends ChapterName = never> = {
  state: TicketState;
  settings: Settings;
  /** Fields of the settings whose figures are defaults that nobody in this shop has looked at. */
  defaults: readonly (keyof Settings)[];
  at: Moment;
  ask: Ask;
} & Pick<Weighed, Chapters>;

/** The control that does the next thing: the key d brings the focus here. */
export const DO_NEXT = { 'data-do-next': '' } as const;
