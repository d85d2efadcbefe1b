import type { NextStep } from '../../diagnose';
import type { Proof } from '../../catalogue';
import {
  acceptedOption,
  awaited,
  cureOf,
  isSettled,
  needsOf,
  toBuy,
  rungNow,
  rungOf,
  standing,
  unnamedParts,
  unordered,
  waitsFor,
  waitsNow,
  type Rung,
  type Shaken,
  type Step,
  type TicketState,
  type Waiting,
} from '../../ticket';
import {
  addDays,
  daysBetween,
  laterOf,
  localDateOf,
  toMajor,
  type Instant,
  type LocalDate,
  type CauseId,
} from '../../units';
import { readyDate } from '../../labour';
import type { Chapter } from '../chapter';
import type { Settings } from '../settings';
import { toCompare, type ToCompare } from '../../identify';
import type { BenchShown } from './bench';
import type { OfferedWay } from './jobs';
import type { PartShown } from './part';
import type { ShownStep } from './steps';
import type { Tips } from './worth';

export const STATIONS = ['plate', 'findings', 'part', 'worth', 'order', 'bench', 'proof'] as const;
export type Station = (typeof STATIONS)[number];

/** The station in which each rung is worked. */
const STATION_OF: Record<Rung, Station | 'done'> = {
  'read-plate': 'plate',
  'tell-kind': 'plate',
  'note-findings': 'findings',
  'find-cause': 'findings',
  'choose-part': 'part',
  'part-again': 'part',
  offer: 'worth',
  'offer-again': 'worth',
  'ring-customer': 'worth',
  order: 'order',
  'take-part': 'order',
  'fetch-part': 'order',
  'await-parts': 'order',
  'get-parts': 'bench',
  work: 'bench',
  'wait-cure': 'bench',
  prove: 'proof',
  'tell-ready': 'proof',
  'hand-over': 'proof',
  close: 'proof',
  none: 'done',
};

/** The rung with what the assessment knows of it. The kind is that of the rung, or says more exactly what to do on it. */
export type DoNext =
  | {
      kind: Exclude<
        Rung,
        'find-cause' | 'order' | 'await-parts' | 'get-parts' | 'work' | 'wait-cure' | 'prove' | 'close'
      >;
    }
  | {
      kind: 'step';
      step: Pick<NextStep, 'kind' | 'id' | 'expectedCost' | 'withoutChecks' | 'minutes' | 'accessMinutes'>;
    }
  /** The plate is in doubt, and the job is not known to be the same for all that it may be. */
  | { kind: 'compare-plate'; compare: ToCompare; decidesPart: boolean }
  /** The old part's number was read after the part was chosen, and does not lead to it. */
  | { kind: 'old-number-differs' }
  /** Which number it is depends on when the machine was built. */
  | { kind: 'note-serial' }
  /** Whether it is worth mending hangs on how old it is; to know that saves so much on average, in major units. */
  | { kind: 'ask-age'; saves: number }
  /** `fixId`: how it is best mended, where that is not its own way. */
  | {
      kind: 'decide-cause';
      causeId: CauseId;
      fixId: string | null;
      /** What is mended with it in the same go. */
      also: CauseId | null;
      probability: number;
      certain: boolean;
    }
  | { kind: 'order'; count: number }
  | { kind: 'await-parts'; dueOn: LocalDate | null }
  /** The customer said yes to parts of which nobody knows a number. */
  | { kind: 'get-parts'; parts: readonly string[] }
  | { kind: 'work'; step: Step; title: string; minutes: number }
  | { kind: 'wait-cure'; until: Instant }
  | { kind: 'finish-bench' }
  | { kind: 'prove'; proof: Pick<Proof, 'id' | 'title' | 'how' | 'minutes'> }
  | { kind: 'close'; outcome: 'repaired' | 'declined' };

export type Next = {
  rung: Rung;
  station: Station | 'done';
  doNext: DoNext;
  waiting: Waiting;
  shaken: Shaken[];
  readyOn: LocalDate | null;
};

export type NextFacts = {
  state: TicketState;
  settings: Settings;
  now: Instant;
  steps: readonly ShownStep[];
  lead: { causeId: CauseId; probability: number } | null;
  probabilityOf: (causeId: CauseId) => number;
  bench: BenchShown | null;
  options: readonly OfferedWay[];
  part: Pick<PartShown, 'doubtMatters' | 'serialMatters' | 'oldDiffers'> | null;
  tips: Pick<Tips, 'unknowns'> | null;
};

/** The one next thing to do. Floor, sheet and scale name the same rung: `rungOf`. */
export const nextChapter: Chapter<'next', NextFacts, Next> = {
  name: 'next',
  answer: (facts) => {
    const { state, now } = facts;
    const waiting = waitsFor(state);
    const rung = rungNow(rungOf(state), waiting, now);
    const doNext = onPlate(rung, facts) ?? onOldPart(rung, facts) ?? onAge(rung, facts) ?? onRung(rung, facts);
    return {
      rung,
      station: stationOf(doNext, rung),
      doNext,
      waiting: waitsNow(waiting, now),
      shaken: state.closed ? [] : standing(state).shaken,
      readyOn: readyOn(facts),
    };
  },
};

/** What the plate leaves open is settled first: before anything is looked for, and once more before a part is chosen. */
function onPlate(rung: Rung, { state, part }: NextFacts): DoNext | null {
  const { plate, serial, serialUnreadable } = state;
  if (!plate || (rung !== 'note-findings' && rung !== 'choose-part')) return null;
  // Without a finding no job is known for which it might not matter.
  if (!isSettled(plate) && (rung === 'note-findings' || part?.doubtMatters !== false)) {
    const compare = toCompare(plate.text, [plate, ...plate.others]);
    if (compare) return { kind: 'compare-plate', compare, decidesPart: rung === 'choose-part' };
  }
  const asksSerial = rung === 'choose-part' && serial === null && !serialUnreadable && part?.serialMatters;
  return asksSerial ? { kind: 'note-serial' } : null;
}

/** Before anything more is built on a part, what the old one bears is looked at. */
const BUILT_ON_THE_PART: readonly Rung[] = ['offer', 'ring-customer', 'order', 'take-part', 'fetch-part'];

const onOldPart = (rung: Rung, { part }: NextFacts): DoNext | null =>
  part?.oldDiffers && BUILT_ON_THE_PART.includes(rung) ? { kind: 'old-number-differs' } : null;

/** Asking is a minute's work. */
const MINUTES_TO_ASK = 1;

/** Before the customer is told what it is worth, or that it is not: how old it is, where that may turn the answer. Nobody is asked twice. */
function onAge(rung: Rung, { state, settings, steps, tips }: NextFacts): DoNext | null {
  if (state.ageNotKnown || state.boughtOn !== null || state.guessedYears !== null) return null;
  const isTold = rung === 'offer' || (rung === 'find-cause' && steps[0]?.kind === 'escalate');
  const saves = tips?.unknowns.find(({ id }) => id === 'age')?.worth ?? 0;
  const cost = (toMajor(settings.labourPerHour) * MINUTES_TO_ASK) / 60;
  return isTold && saves > cost ? { kind: 'ask-age', saves } : null;
}

function stationOf({ kind }: DoNext, rung: Rung): Station | 'done' {
  if (kind === 'compare-plate' || kind === 'note-serial' || kind === 'ask-age') return 'plate';
  return kind === 'old-number-differs' ? 'part' : STATION_OF[rung];
}

function onRung(rung: Rung, facts: NextFacts): DoNext {
  const { state, bench } = facts;
  const { round } = state;
  switch (rung) {
    case 'find-cause':
      return toFind(facts);
    case 'order':
      return { kind: 'order', count: toBuy(state).length };
    case 'await-parts': {
      const waiting = waitsFor(state);
      return { kind: 'await-parts', dueOn: waiting.for === 'parts' ? waiting.dueOn : null };
    }
    case 'get-parts':
      return { kind: 'get-parts', parts: unnamedParts(round) };
    case 'wait-cure':
      return { kind: 'wait-cure', until: cureOf(round)?.waitUntil ?? facts.now };
    case 'work': {
      const step = bench?.sheet.sections.flatMap((section) => section.steps).find((entry) => entry.tickedAt === null);
      return step
        ? { kind: 'work', step: step.step, title: step.title, minutes: step.minutes }
        : { kind: 'finish-bench' };
    }
    case 'prove': {
      const open = bench?.proofs.find((entry) => entry.passed !== true)?.proof;
      // The knowledge may have changed since the bench was left: then the proof is known by its id alone.
      const proof = open ?? { id: round.finished?.proofIds?.[0] ?? '', title: '', how: '', minutes: 0 };
      return { kind: 'prove', proof: { id: proof.id, title: proof.title, how: proof.how, minutes: proof.minutes } };
    }
    case 'close':
      return { kind: 'close', outcome: round.answer?.answer === 'no' ? 'declined' : 'repaired' };
    default:
      return { kind: rung };
  }
}

/** Once a cause counts as found, a check that saves less than so many minutes of labour is left. */
const MINUTES_LEFT = 5;

/** Check on while a check is cheaper than mending on what is known; then settle on what is best mended first. */
function toFind({ steps, lead, probabilityOf, settings }: NextFacts): DoNext {
  const [best] = steps;
  const certain = (lead?.probability ?? 0) >= settings.enoughCertainty;
  const saves = best ? best.withoutChecks - best.expectedCost : 0;
  const isLeft = certain && saves < (toMajor(settings.labourPerHour) * MINUTES_LEFT) / 60;
  if (best && (best.kind === 'escalate' || (best.kind === 'check' && !isLeft))) {
    const { kind, id, expectedCost, withoutChecks, minutes, accessMinutes } = best;
    return { kind: 'step', step: { kind, id, expectedCost, withoutChecks, minutes, accessMinutes } };
  }
  const mend = best?.kind === 'fix' && !certain ? best : null;
  const causeId = mend?.id ?? lead?.causeId;
  if (causeId === undefined) return { kind: 'note-findings' };
  const fixId = mend?.fixId ?? null;
  const probability = probabilityOf(causeId);
  const also = mend?.also ?? null;
  return { kind: 'decide-cause', causeId, fixId, also, probability, certain: probability >= settings.enoughCertainty };
}

const DAYS_WITHOUT_A_DATE = 10;

function readyOn({ state, settings, now, options }: NextFacts): LocalDate | null {
  const { round } = state;
  const today = localDateOf(now, settings.zone);
  if (round.toldAt) return localDateOf(round.toldAt, settings.zone);
  if (round.finished) return today;
  const accepted = acceptedOption(round);
  const chosen = options.find((option) => option.id === accepted?.id) ?? options[0];
  if (!chosen) return null;
  if (needsOf(state).length === 0 || unordered(state).length > 0) return chosen.readyOn;
  const coming = awaited(state);
  const due = coming.map(({ supply }) => supply.dueOn ?? addDays(today, DAYS_WITHOUT_A_DATE)).reduce(laterOf, today);
  const cure = cureOf(round)?.waitUntil;
  const cured = cure ? localDateOf(cure, settings.zone) : today;
  const job = {
    partDays: daysBetween(today, due),
    handsOnMinutes: chosen.handsOnMinutes,
    elapsedHours: chosen.elapsedHours,
  };
  // With its parts here it is in work, or next.
  return laterOf(readyDate(today, job, coming.length > 0 ? settings : { ...settings, queueDays: 0 }), cured);
}
