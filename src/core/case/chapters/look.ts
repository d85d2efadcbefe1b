import { livesOf, type Catalogue } from '../../catalogue';
import { ageFactors, doableOn, nextSteps } from '../../diagnose';
import { designsBy, type KindAnswers } from '../../identify';
import type { Learned } from '../../learn';
import type { TicketEvidence } from '../../ticket';
import { unique } from '../../units';
import type { Chapter } from '../chapter';
import { roomOf, type Settings } from '../settings';
import { agedPriors, loreChapter } from './causes';
import type { Jobs } from './jobs';
import type { Machine } from './machine';
import { costsOf, escalationOf, type ShownStep } from './steps';

/** A look that tells how the machine is built, weighed as a check is: what it saves on average until the machine is mended, and what it takes; major units. */
export type Look = { questionId: string; saves: number; minutes: number; cost: number };

type In = {
  catalogue: Catalogue;
  machine: Machine;
  learned: Learned;
  settings: Settings;
  jobs: Jobs;
  open: readonly string[];
  evidence: TicketEvidence;
  steps: readonly ShownStep[];
  worthUpTo: number | null;
  ageYears: number | null;
};

/** What is seen from outside takes a minute; the rest a panel. */
const OUTSIDE_STEPS = 2;
const MINUTES = { outside: 1, panel: 6 };
/** Designs and answers rarer than this change no average. */
const RARE = 0.02;

/** The cheapest expected course where the design is known as far as these answers tell it. */
function bestCourse(input: In, kind: KindAnswers): number | null {
  const { catalogue, machine, learned, settings, jobs, open, evidence, worthUpTo, ageYears } = input;
  const designs = designsBy(catalogue, kind).filter(({ probability }) => probability >= RARE);
  const [lead] = designs;
  if (!lead) return null;
  const platform = {
    ...machine.platform,
    design: lead.design.id,
    tags: unique(designs.flatMap(({ design }) => design.tags)),
  };
  const { lackingTools } = settings;
  const lore = loreChapter.answer({ catalogue, platform, designs, learned, lackingTools, room: roomOf(settings) });
  const { knowledge } = lore;
  const priors = agedPriors(lore.priors, ageFactors(livesOf(catalogue.lives, platform.design, platform.id), ageYears));
  const costs = costsOf({ jobs, settings, open });
  const doable = doableOn(knowledge, costs);
  const all = { ...costs, escalate: escalationOf(settings, worthUpTo), priors };
  return nextSteps(knowledge, evidence, all, doable)[0]?.expectedCost ?? null;
}

function weighed(input: In): Look | null {
  const { machine, steps } = input;
  const { ask, seen } = machine;
  const now = steps[0]?.expectedCost;
  if (!ask || now === undefined) return null;
  const answered = Object.fromEntries(seen.map(({ id, answerId }) => [id, answerId]));
  let after = 0;
  let told = 0;
  for (const { id, probability } of ask.answers) {
    if (probability < RARE) continue;
    const course = bestCourse(input, { ...answered, [ask.id]: id });
    if (course === null) return null;
    after += probability * course;
    told += probability;
  }
  if (told === 0) return null;
  const minutes = ask.step <= OUTSIDE_STEPS ? MINUTES.outside : MINUTES.panel;
  const { perMinute } = costsOf(input);
  return { questionId: ask.id, saves: Math.max(0, now - after / told), minutes, cost: minutes * perMinute };
}

/** Whether telling the design pays, like any other check: computed for each answer while the page shows the rest. null: nothing to look at, or not weighed yet. */
export const lookChapter: Chapter<'look', In, Look | null> = {
  name: 'look',
  byContent: ['settings', 'open', 'evidence', 'steps'],
  answer: () => null,
  refine: function* (input) {
    const look = weighed(input);
    if (look) yield look;
  },
};
