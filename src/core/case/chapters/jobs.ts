import { OTHER_CAUSE, waysToMend, type Catalogue, type Cause, type Platform, type Way } from '../../catalogue';
import type { StockState } from '../../stock';
import type { CauseRanking } from '../../diagnose';
import type { Donor } from '../../fit';
import { buildQuote, type Quote, type QuoteOption } from '../../quote';
import {
  addDays,
  daysBetween,
  keyBy,
  sum,
  toMajor,
  unique,
  weightedQuantile,
  type CauseId,
  type LocalDate,
  fromMajor,
  type Money,
} from '../../units';
import type { Chapter } from '../chapter';
import {
  bestOption,
  chargedBy,
  DAYS_TO_ASK,
  repairOptions,
  type OptionContext,
  type RepairOption,
  type Sundries,
  type WhyNot,
} from '../options';
import { usedCandidate } from '../usedPart';
import { partsOfCause, pricedParts, type CauseParts, type PartQuestion } from '../pricing';
import type { Settings } from '../settings';
import type { RequirementDraft, TicketState } from '../../ticket';
import { partsOf } from '../requirements';
import { madeOf, pricedAround, type CasePrice, type Made } from './paths';
import type { Lore } from './causes';

/** By the cause as each way of mending it sees it. */
export type Numbers = ReadonlyMap<Cause, CauseParts>;

/** The parts of every way of mending every cause: model, serial, caliper and prices are in it, no evidence. */
export const numbersChapter: Chapter<
  'numbers',
  Omit<PartQuestion, 'measured' | 'typed' | 'oldNumbers'> &
    Required<Pick<PartQuestion, 'measured' | 'typed' | 'oldNumbers'>> & {
      catalogue: Catalogue;
      lore: Lore;
      settings: Settings;
    },
  Numbers
> = {
  name: 'numbers',
  byContent: ['models', 'measured', 'typed', 'oldNumbers', 'settings'],
  answer: ({ catalogue, lore, settings, ...question }) =>
    new Map(
      lore.knowledge.causes
        .flatMap((own) => waysToMend(lore.knowledge, own))
        .map(({ cause }) => [cause, partsOfCause(catalogue, question, cause, settings)]),
    ),
};

/** What the operations of this kind of machine use up: one piece of each. Model and prices are in it. */
export const sundriesChapter: Chapter<
  'sundries',
  Omit<PartQuestion, 'measured' | 'typed' | 'oldNumbers' | 'serial'> & {
    catalogue: Catalogue;
    lore: Lore;
    settings: Settings;
  },
  Sundries
> = {
  name: 'sundries',
  byContent: ['models', 'settings'],
  answer: ({ catalogue, lore, settings, ...question }) =>
    new Map(
      unique(lore.knowledge.operations.flatMap(({ consumables }) => consumables.map(({ id }) => id))).map((roleId) => [
        roleId,
        pricedParts(catalogue, { ...question, serial: null }, roleId, 1, 'any', settings),
      ]),
    ),
};

/** What mending a cause in one way comes to when it is the one. */
export type Job = {
  way: Way;
  /** false: it opens a welded tub, and this shop opens none. */
  isDone: boolean;
  option: RepairOption;
  grossMajor: number;
  /** Parts and hours of it, before tax. */
  made: Made;
  /** Days from today until it is ready. */
  days: number;
  costMajor: number;
  /** Until its parts are here; 0 where it needs none. */
  waitDays: number;
};
/** Of each cause all ways of mending it; the first is the one that this shop takes where nothing else is said. */
export type Jobs = ReadonlyMap<CauseId, readonly [Job, ...Job[]]>;

export type JobWorld = {
  lore: Lore;
  platform: Platform;
  numbers: Numbers;
  sundries: Sundries;
  carriage: TicketState['carriage'];
  settings: Settings;
  today: LocalDate;
  /** How much likelier than usual something will not come: by the machine's condition. */
  rescues: number;
};

export const contextOf = ({ lore, settings, today, rescues, sundries, carriage }: JobWorld): OptionContext => ({
  sundries,
  carriage,
  knowledge: lore.knowledge,
  settings,
  today,
  timeFactor: lore.timeFactor,
  times: lore.times,
  rescueFactor: rescues,
});

/** Price and minutes of every cause by itself, in every way: of the evidence only the machine's condition is in it. */
export const jobsChapter: Chapter<'jobs', JobWorld, Jobs> = {
  name: 'jobs',
  byContent: ['settings', 'carriage'],
  answer: (world) => {
    const { knowledge } = world.lore;
    const jobs = new Map<CauseId, readonly [Job, ...Job[]]>();
    for (const own of knowledge.causes) {
      const all = waysToMend(knowledge, own).flatMap((way) => jobOf(world, way) ?? []);
      const first = all.find(({ isDone }) => isDone) ?? all[0];
      if (first) jobs.set(own.id, [first, ...all.filter((job) => job !== first)]);
    }
    return jobs;
  },
};

function jobOf(world: JobWorld, way: Way): Job | null {
  const { numbers, settings, platform, today, carriage } = world;
  const parts = numbers.get(way.cause);
  if (!parts) return null;
  const option = bestOption(contextOf(world), way, parts);
  const [priced] = buildQuote({ ...chargedBy(settings, carriage), options: [option] }).options;
  if (!priced) return null;
  return {
    way,
    isDone: platform.tub !== 'welded' || settings.opensWeldedTubs || !option.plan.opensTub,
    option,
    grossMajor: toMajor(priced.gross),
    made: madeOf(priced),
    days: option.readyOn ? daysBetween(today, option.readyOn) : 0,
    costMajor: parts.costMajor,
    waitDays: Math.max(0, ...option.picks.map(({ candidate }) => candidate.days ?? DAYS_TO_ASK)),
  };
}

/**
 * One job among those of its cause: the way that the customer said yes to, whatever the shop does today; else the one decided on; else the one that this shop takes.
 * `agreed`: whether the customer did; its own way is meant then where `fixId` is null.
 */
export function jobIn(jobs: Jobs, causeId: CauseId, fixId: string | null, agreed: boolean): Job | null {
  const all = jobs.get(causeId);
  const said = agreed || fixId !== null ? all?.find(({ way }) => way.fixId === fixId) : undefined;
  return said ?? all?.[0] ?? null;
}

/** An option without its arithmetic: what it mends, buys and takes. Its lines and sums are the quote's option of the same id. */
export type OfferedWay = Pick<
  RepairOption,
  'id' | 'causeIds' | 'handsOnMinutes' | 'readyOn' | 'savesMinutes' | 'cure' | 'lifeShare' | 'partsMargin'
> & {
  parts: RequirementDraft[];
  /** Beside the time: people at once, and a floor that may get wet. */
  takes: { people: number; wet: boolean };
  /** Hands-on minutes of its jobs, each with a way in of its own. */
  separateMinutes: number;
  elapsedHours: number;
  /** It cuts a welded tub open, which this shop does, or does not; null where it opens none. */
  weldedTub: 'opened' | 'not-opened' | null;
};
/** A way that is not among the three, and why. */
export type NotOffered = Pick<
  QuoteOption,
  'id' | 'kind' | 'causeNames' | 'fixId' | 'fixName' | 'gross' | 'readyOn' | 'handsOnMinutes'
> &
  Pick<RepairOption, 'cure' | 'lifeShare'> & { why: WhyNot };
export type OfferMade = {
  options: OfferedWay[];
  quote: Quote;
  notOffered: NotOffered[];
  /** How long it stands, and what the shop answers for. */
  terms: { validUntil: LocalDate; warrantyMonths: number };
};

const wayOf = (
  { id, causeIds, handsOnMinutes, readyOn, savesMinutes, cure, lifeShare, partsMargin, picks, plan }: RepairOption,
  { platform, settings }: JobWorld,
): OfferedWay => ({
  id,
  cure,
  lifeShare,
  partsMargin,
  causeIds,
  handsOnMinutes,
  readyOn,
  savesMinutes,
  parts: causeIds[0] === undefined ? [] : partsOf(picks, causeIds[0]),
  takes: { people: plan.people, wet: plan.wet },
  separateMinutes: plan.separateMinutes,
  elapsedHours: plan.elapsedHours,
  weldedTub: platform.tub === 'welded' && plan.opensTub ? (settings.opensWeldedTubs ? 'opened' : 'not-opened') : null,
});

/** Up to three ways for the customer. `job`: how the cause is mended; `chosen`: the number decided on, joined by + where there are several. */
export const offerChapter: Chapter<
  'offer',
  JobWorld & {
    catalogue: Catalogue;
    donors: readonly Donor[];
    lots: readonly StockState[];
    jobs: Jobs;
    job: Job;
    second: Cause | null;
    /** What was settled on together with the cause. */
    also: CauseId | null;
    chosen: string | null;
  },
  OfferMade | null
> = {
  name: 'offer',
  byContent: ['settings', 'carriage', 'donors', 'lots'],
  answer: ({ catalogue, donors, lots, job, jobs, second, also, chosen, ...world }) => {
    const { numbers } = world;
    const parts = numbers.get(job.way.cause);
    if (!parts) return null;
    const secondParts = second ? numbers.get(second) : undefined;
    const others = (jobs.get(job.way.cause.id) ?? []).filter((other) => other !== job);
    const { offered, left, quote } = repairOptions(
      { ...contextOf(world), chosen },
      job.way,
      parts,
      second && secondParts ? { cause: second, parts: secondParts, decided: second.id === also } : null,
      others.flatMap(({ way, isDone }) => {
        const its = numbers.get(way.cause);
        return its ? [{ way, isDone, parts: its }] : [];
      }),
      (answer) => usedCandidate(answer, { catalogue, donors, lots, ...world }),
    );
    const priced = keyBy(quote.options, ({ id }) => id);
    const shown = offered.flatMap(({ id }) => priced.get(id) ?? []);
    return {
      options: offered.map((option) => wayOf(option, world)),
      quote: { ...quote, options: shown },
      terms: {
        validUntil: addDays(world.today, world.settings.validDays),
        warrantyMonths: world.settings.warrantyMonths,
      },
      notOffered: left.flatMap(({ option: { id, cure, lifeShare }, why }) => {
        const one = priced.get(id);
        if (!one) return [];
        const { kind, causeNames, fixId, fixName, gross, readyOn, handsOnMinutes } = one;
        return [{ id, kind, causeNames, fixId, fixName, gross, readyOn, handsOnMinutes, cure, lifeShare, why }];
      }),
    };
  },
};

/** What the first has brought is mended with it from this chance on. */
const BROUGHT_AT_LEAST = 0.1;

/** What the first has brought, that needs a part and work: it is offered together with it. */
export function broughtBy(ranking: CauseRanking, first: Cause): Cause | null {
  const lead = ranking.causes.find((entry) => entry.cause?.id === first.id);
  const [brought] = lead?.with ?? [];
  if (!lead || !brought || brought.probability < BROUGHT_AT_LEAST * lead.probability) return null;
  const cause = ranking.causes.find((entry) => entry.causeId === brought.causeId)?.cause;
  return cause?.roleId && cause.operations.length ? cause : null;
}

export type QuoteRange = { low: number; high: number; expected: number };

/** Steps in which a price is said: fives up to this, tens above. Major units. */
const IN_FIVES_UP_TO = 200;

/** A range as it is told: whole fives or tens, outward, so that what is said holds no less than what was computed. */
export function speakable(
  { low, high }: Pick<QuoteRange, 'low' | 'high'>,
  currency: string,
): { low: Money; high: Money } {
  const step = (value: number) => (value <= IN_FIVES_UP_TO ? 5 : 10);
  return {
    low: fromMajor(Math.floor(low / step(low)) * step(low), currency),
    high: fromMajor(Math.ceil(high / step(high)) * step(high), currency),
  };
}

const RANGE_CAUSES = 8;

/** Gross price over the likely causes, and what parts at a usual price may come to: what can be said at the phone in the first minute. 10–90 % and the mean; major units. */
export const rangeChapter: Chapter<'range', { ranking: CauseRanking; jobs: Jobs }, QuoteRange | null> = {
  name: 'range',
  answer: ({ ranking, jobs }) => {
    const quotes = likelyCases(ranking, jobs);
    if (quotes.length === 0) return null;
    const values = quotes.map(({ gross, probability }) => ({ value: gross, weight: probability }));
    return {
      low: weightedQuantile(values, 0.1),
      high: weightedQuantile(values, 0.9),
      expected: sum(quotes.map(({ gross, probability }) => gross * probability)),
    };
  },
};

/** What mending each of the likely causes would cost, gross, and its chance among them; they sum to one. Empty where none is priced. */
export function likelyCases(ranking: CauseRanking, jobs: Jobs): CasePrice[] {
  const priced = ranking.causes
    .filter((entry) => entry.causeId !== OTHER_CAUSE)
    .slice(0, RANGE_CAUSES)
    .flatMap((entry) => {
      const [job] = jobs.get(entry.causeId) ?? [];
      if (!job) return [];
      const { grossMajor: gross, days, made, waitDays: partDays } = job;
      const { partsNet, hours } = made;
      return pricedAround({ gross, days, partDays, partsNet, hours, probability: entry.probability }, made);
    });
  const total = sum(priced.map(({ probability }) => probability));
  return total > 0 ? priced.map((one) => ({ ...one, probability: one.probability / total })) : [];
}
