import { nextSteps, type NextStep } from '../../diagnose';
import type { TicketEvidence } from '../../ticket';
import { toMajor } from '../../units';
import type { Chapter } from '../chapter';
import type { Settings } from '../settings';
import type { Lore } from './causes';
import type { Jobs } from './jobs';

/** A step as it crosses to the page: its check by id. */
export type ShownStep = NextStep extends infer Step ? (Step extends NextStep ? Omit<Step, 'check'> : never) : never;

/** What giving it up costs where nothing better is known. */
const ESCALATE_AT_LEAST = 200;

/** What to look at or mend next. `open`: operations that are open already; `worthUpTo`: the most that a repair may cost, major units. */
export const stepsChapter: Chapter<
  'steps',
  {
    lore: Lore;
    evidence: TicketEvidence;
    jobs: Jobs;
    settings: Settings;
    open: readonly string[];
    worthUpTo: number | null;
  },
  ShownStep[]
> = {
  name: 'steps',
  byContent: ['evidence', 'settings', 'open'],
  answer: ({ lore, evidence, jobs, settings, open, worthUpTo }) =>
    nextSteps(lore.knowledge, evidence, {
      perMinute: toMajor(settings.labourPerHour) / 60,
      parts: (causeId) => jobs.get(causeId)?.costMajor ?? 0,
      escalate: Math.max(toMajor(settings.inspectionFee), worthUpTo ?? ESCALATE_AT_LEAST),
      open,
      priors: lore.priors,
    }).map(({ check: _check, ...step }) => step),
};
