import { knowledgeFor, livesOf, type Catalogue, type Knowledge, type Life, type Platform } from '../../catalogue';
import {
  ageFactors,
  priorsOf,
  rankCauses,
  tellingFindings,
  type CauseRanking,
  type PriorFactors,
  type RankedCause,
  type Telling,
} from '../../diagnose';
import type { Step } from '../../labour';
import { cureHours, type Room } from '../../measure';
import {
  causeFactor,
  learnedLives,
  rescueChance,
  stepTime,
  timeFactor,
  type Learned,
  type StepTime,
} from '../../learn';
import type { TicketEvidence, TicketState } from '../../ticket';
import type { Chapter } from '../chapter';
import type { Machine } from './machine';

/** What is known about this platform, and what this shop has learned of it. */
export type Lore = {
  knowledge: Knowledge;
  /** Of the shop, over all steps of this design. */
  timeFactor: number;
  /** Of each step, by the clock at the bench. */
  times: (step: Step, listMinutes: number) => StepTime;
  priors: PriorFactors;
  /** Of components, as this shop has seen them fail; for what owning comes to. Causes by age have their own word from the shop. */
  lives: readonly Life[];
};

export const loreChapter: Chapter<
  'lore',
  {
    catalogue: Catalogue;
    platform: Platform;
    designs: Machine['designs'];
    learned: Learned;
    lackingTools: readonly string[];
    /** Where joints cure. */
    room: Room;
  },
  Lore
> = {
  name: 'lore',
  byContent: ['lackingTools', 'room'],
  answer: ({ catalogue, platform, designs, learned, lackingTools, room }) => {
    const known = knowledgeFor(catalogue, platform, designs);
    const knowledge = {
      ...known,
      operations: withRescues(withCures(withLacking(known.operations, lackingTools), known.joints, room), learned),
    };
    const priors = priorsOf(knowledge);
    const factors = new Map(
      knowledge.causes.map((cause, index) => [
        cause.id,
        causeFactor(learned, platform.design, cause.id, priors[index] ?? 0),
      ]),
    );
    const factor = timeFactor(learned, platform.design);
    return {
      knowledge,
      timeFactor: factor,
      times: (step, listMinutes) => stepTime(learned.steps, platform.id, factor, step, listMinutes),
      priors: { causeFactor: (id) => factors.get(id) ?? 1 },
      lives: learnedLives(catalogue.lives, learned.failures),
    };
  },
};

/** Operations with what the shop has not got for them. */
function withLacking(operations: Knowledge['operations'], lackingTools: readonly string[]): Knowledge['operations'] {
  if (lackingTools.length === 0) return operations;
  return operations.map((operation) => {
    const lacks = operation.tools.filter((tool) => lackingTools.includes(tool));
    return lacks.length ? { ...operation, lacks } : operation;
  });
}

/** How often an operation needs its rescue, as this shop has seen it. */
const withRescues = (operations: Knowledge['operations'], { rescues }: Learned): Knowledge['operations'] =>
  operations.map((operation) =>
    rescues[operation.id]
      ? { ...operation, rescueChance: rescueChance(rescues, operation.id, operation.rescueChance) }
      : operation,
  );

/** Operations that close a joint wait for as long as it cures here. */
const withCures = (
  operations: Knowledge['operations'],
  joints: Knowledge['joints'],
  room: Room,
): Knowledge['operations'] =>
  operations.map((operation) => {
    const joint = joints.get(operation.id);
    return joint
      ? { ...operation, elapsedHours: cureHours(joint.cureDepthMm ?? 0, joint.mmPerDay ?? 0, room) }
      : operation;
  });

/** What is known before anything is found: by the platform, by what this shop has seen of it, and by the machine's age. */
export const priorsChapter: Chapter<
  'priors',
  { lore: Lore; lives: readonly Life[]; platform: Platform; ageYears: number | null },
  PriorFactors
> = {
  name: 'priors',
  answer: ({ lore, lives, platform, ageYears }) =>
    agedPriors(lore.priors, ageFactors(livesOf(lives, platform.design, platform.id), ageYears)),
};

/** Factors by age upon those that are there. */
export const agedPriors = (priors: PriorFactors, aged: ReturnType<typeof ageFactors>): PriorFactors =>
  aged.size === 0 ? priors : { ...priors, causeFactor: (id) => (priors.causeFactor?.(id) ?? 1) * (aged.get(id) ?? 1) };

export const causesChapter: Chapter<
  'causes',
  { lore: Lore; priors: PriorFactors; evidence: TicketEvidence },
  CauseRanking
> = {
  name: 'causes',
  byContent: ['evidence'],
  answer: ({ lore, priors, evidence }) => rankCauses(lore.knowledge, evidence, priors),
};

/** More than these are not put beside the complaint. */
const MOST_TOLD = 8;

/** Findings that would tell most about this machine, and that nobody has answered. */
export const tellingChapter: Chapter<
  'telling',
  { lore: Lore; priors: PriorFactors; evidence: TicketEvidence; findings: TicketState['findings'] },
  Telling[]
> = {
  name: 'telling',
  byContent: ['evidence', 'findings'],
  answer: ({ lore, priors, evidence, findings }) =>
    tellingFindings(lore.knowledge, evidence, new Set(findings.map(({ findingId }) => findingId)), priors).slice(
      0,
      MOST_TOLD,
    ),
};

/** What moves a cause by less, in bits, is not worth a word; nor what it brings more rarely. */
const SPEAKS = 0.3;
const MOST_MOVES = 6;
const LEAST_BROUGHT = 0.01;

/** A ranking as it crosses to the page: the causes by their ids. */
export type ShownRanking = Omit<CauseRanking, 'causes'> & { causes: Omit<RankedCause, 'cause'>[] };
export const shownRanking = ({ causes, ...said }: CauseRanking): ShownRanking => ({
  ...said,
  causes: causes.map(({ cause: _row, moves, with: brought, ...shown }) => ({
    ...shown,
    moves: moves
      .filter(({ bits }) => Math.abs(bits) >= SPEAKS)
      .sort((a, b) => Math.abs(b.bits) - Math.abs(a.bits))
      .slice(0, MOST_MOVES),
    with: brought.filter(({ probability }) => probability >= LEAST_BROUGHT),
  })),
});
