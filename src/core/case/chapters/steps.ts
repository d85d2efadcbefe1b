import {
  barredChecks,
  DEEP,
  doableOn,
  nextSteps,
  ONE_STEP,
  type Barred,
  type Doable,
  type Effort,
  type NextStep,
  type PriorFactors,
} from '../../diagnose';
import type { TicketEvidence } from '../../ticket';
import { toMajor, type CauseId } from '../../units';
import type { Chapter } from '../chapter';
import type { Settings } from '../settings';
import type { Lore } from './causes';
import type { Jobs } from './jobs';

/** A step as it crosses to the page: its check by id. */
export type ShownStep = NextStep extends infer Step ? (Step extends NextStep ? Omit<Step, 'check'> : never) : never;

/** Dearer ways to mend it blindly are nobody's next step; every check can be one that was done. */
const MOST_FIXES = 6;

/** What giving it up costs where nothing better is known. */
const ESCALATE_AT_LEAST = 200;

const ownJob = (jobs: Jobs, causeId: CauseId, fixId: string | null) =>
  jobs.get(causeId)?.find(({ way }) => way.fixId === fixId);

/** What an hour and the parts of a way of mending cost, and whether the shop does it. */
export const costsOf = ({ jobs, settings, open }: { jobs: Jobs; settings: Settings; open: readonly string[] }) => ({
  perMinute: toMajor(settings.labourPerHour) / 60,
  parts: (causeId: CauseId, fixId: string | null = null) => ownJob(jobs, causeId, fixId)?.costMajor ?? 0,
  wait: (causeId: CauseId, fixId: string | null = null) =>
    (ownJob(jobs, causeId, fixId)?.waitDays ?? 0) * toMajor(settings.latePerDay),
  does: (causeId: CauseId, fixId: string | null) => ownJob(jobs, causeId, fixId)?.isDone ?? true,
  open,
});

/** What giving it up costs: a repair is worth no more than that. */
export const escalationOf = (settings: Settings, worthUpTo: number | null): number =>
  Math.max(toMajor(settings.inspectionFee), worthUpTo ?? ESCALATE_AT_LEAST);

type DoableWorld = { lore: Lore; jobs: Jobs; settings: Settings; open: readonly string[] };

/** Checks, fixes and the ways to them, with what each costs: no evidence in it. `open`: operations that are open already. */
export const doableChapter: Chapter<'doable', DoableWorld, Doable> = {
  name: 'doable',
  byContent: ['settings', 'open'],
  answer: (world) => doableOn(world.lore.knowledge, costsOf(world)),
};

/** The same object each time: the page is sent nothing. */
const NOTHING_BARRED: Barred[] = [];

/** Checks that must not be done as the machine stands, each with why and what would allow it. */
export const barredChapter: Chapter<
  'barred',
  { lore: Lore; evidence: TicketEvidence; open: readonly string[] },
  Barred[]
> = {
  name: 'barred',
  byContent: ['evidence', 'open'],
  answer: ({ lore, evidence, open }) => {
    const barred = barredChecks(lore.knowledge, evidence, open);
    return barred.length > 0 ? barred : NOTHING_BARRED;
  },
};

type StepsIn = DoableWorld & {
  priors: PriorFactors;
  doable: Doable;
  evidence: TicketEvidence;
  worthUpTo: number | null;
};

function stepsOf({ evidence, doable, priors, worthUpTo, ...world }: StepsIn, effort: Effort): ShownStep[] {
  const { lore, settings } = world;
  const escalate = escalationOf(settings, worthUpTo);
  const costs = { ...costsOf(world), escalate, priors };
  let fixes = 0;
  const unclear = new Set(evidence.unclear);
  const isUnclear = ({ kind, id }: Pick<NextStep, 'kind' | 'id'>) => kind === 'check' && unclear.has(id);
  return (
    worthwhile(nextSteps(lore.knowledge, evidence, costs, doable, effort), costs.perMinute)
      // What could not tell once is not asked for again; it can be done again all the same.
      .sort((a, b) => Number(isUnclear(a)) - Number(isUnclear(b)))
      .filter(({ kind }) => kind !== 'fix' || (fixes += 1) <= MOST_FIXES)
      .map(({ check: _check, ...step }) => step)
  );
}

/** A check that saves less than a minute of work is nobody's next step: what would be done without any check comes first. */
function worthwhile(steps: NextStep[], perMinute: number): NextStep[] {
  const [best] = steps;
  if (best?.kind !== 'check' || best.withoutChecks - best.expectedCost >= perMinute) return steps;
  const blind = steps.find(({ kind }) => kind !== 'check');
  return blind ? [blind, ...steps.filter((step) => step !== blind)] : steps;
}

/** What to look at or mend next: one step ahead at once, then as far as it pays. `worthUpTo`: the most that a repair may cost, major units. */
export const stepsChapter: Chapter<'steps', StepsIn, ShownStep[]> = {
  name: 'steps',
  byContent: ['evidence', 'settings', 'open'],
  answer: (input) => stepsOf(input, ONE_STEP),
  *refine(input) {
    yield stepsOf(input, DEEP);
  },
};
