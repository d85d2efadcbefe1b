import type { CauseId } from '../units';
import type { Knowledge, Operation, Role, Way } from '../catalogue';
import type { AlongShown } from './chapters/along';
import type { ConditionsShown } from './chapters/conditions';
import type { Age, Machine } from './chapters/machine';
import type { BenchShown } from './chapters/bench';
import type { Choice } from './chapters/choices';
import type { OfferMade, QuoteRange } from './chapters/jobs';
import type { Next } from './chapters/next';
import type { Look } from './chapters/look';
import type { WhyShown } from './chapters/why';
import type { Market } from './chapters/market';
import type { PartShown } from './chapters/part';
import type { ShownRanking } from './chapters/causes';
import type { ShownStep } from './chapters/steps';
import type { Barred, Telling } from '../diagnose';
import type { NearbyJob } from './chapters/nearby';
import type { Payer } from './chapters/payers';
import type { RoutePath } from './chapters/paths';
import type { Tips } from './chapters/worth';
import type { Worth } from '../worth';

/** The rows of the platform's knowledge that the page looks things up in. */
export type LoreShown = Pick<
  Knowledge,
  'causes' | 'fixes' | 'findings' | 'phrases' | 'answerPhrases' | 'checks' | 'limits' | 'codes' | 'runs' | 'service'
> & {
  operations: readonly Pick<Operation, 'id' | 'title' | 'refitTitle' | 'refitMinutes'>[];
  roles: readonly Role[];
};

export type CausesShown = ShownRanking & {
  /** The cause that the rest is computed for: decided, or the likeliest so far. */
  lead: { causeId: CauseId; probability: number; way: Way } | null;
  decided: boolean;
};

/** All that the sheet and the scale say of a machine that is known, chapter by chapter. A chapter that is the same object has not changed. */
export type Weighed = {
  kind: 'weighed';
  machine: Machine;
  age: Age;
  lore: LoreShown;
  causes: CausesShown;
  telling: Telling[];
  part: PartShown;
  offer: OfferMade | null;
  range: QuoteRange | null;
  /** null: nobody knows what a new one costs. */
  market: Market | null;
  conditions: ConditionsShown;
  worth: Worth | null;
  /** The ways that are offered, each against a new one; empty while the cause is open, and where there is no choice. */
  choices: Choice[];
  /** null until it is worked out, and where there is nothing to weigh. */
  tips: Tips | null;
  /** Repair here, and the other ways out of the failure. */
  paths: RoutePath[];
  /** Jobs that may be done while the machine is open, those that pay and those that do not. */
  nearby: NearbyJob[];
  /** Who else may have to pay. */
  payers: Payer[];
  steps: ShownStep[];
  barred: Barred[];
  along: AlongShown;
  look: Look | null;
  why: WhyShown | null;
  bench: BenchShown | null;
  next: Next;
};

/** Nothing can be computed before it is known which machine it is. */
export type Unread = { kind: 'unread'; next: Next };

export type Assessment = Unread | Weighed;
export type ChapterName = Exclude<keyof Weighed, 'kind'>;
