import type { Condition } from '../../catalogue';
import { conditionsSeen, rescueFactor } from '../../diagnose';
import type { TicketEvidence } from '../../ticket';
import type { Chapter } from '../chapter';
import type { Lore } from './causes';

export type ConditionsShown = {
  seen: readonly Condition[];
  /** How much likelier than usual something will not come. */
  rescues: number;
};

/** The same object each time: the page is sent nothing. */
const NONE: ConditionsShown = { seen: [], rescues: 1 };

/** Which conditions the evidence speaks of: most findings speak of none, and then nothing that rests on them is asked again. */
export const conditionIds = (lore: Lore, evidence: TicketEvidence): string[] =>
  conditionsSeen(lore.knowledge, evidence).map(({ id }) => id);

/** What was seen or told of the machine's state and its place, that shortens its life and makes the work longer. */
export const conditionsChapter: Chapter<'conditions', { lore: Lore; ids: readonly string[] }, ConditionsShown> = {
  name: 'conditions',
  byContent: ['ids'],
  answer: ({ lore, ids }) => {
    const seen = lore.knowledge.conditions.filter(({ id }) => ids.includes(id));
    return seen.length > 0 ? { seen, rescues: rescueFactor(seen) } : NONE;
  },
};
