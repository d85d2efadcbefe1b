import { OTHER_CAUSE, type Catalogue, type Cause } from '../../catalogue';
import type { CauseRanking } from '../../diagnose';
import { buildQuote, type Quote } from '../../quote';
import { toMajor, type LocalDate } from '../../units';
import type { Chapter } from '../chapter';
import { bestOption, DAYS_TO_ASK, repairOptions, type OptionContext, type RepairOption } from '../options';
import { partsOfCause, type CauseParts, type PartQuestion } from '../pricing';
import type { Settings } from '../settings';
import type { RequirementDraft } from '../../ticket';
import { partsOf } from '../requirements';
import type { Lore } from './causes';

export type Numbers = ReadonlyMap<string, CauseParts>;

/** The parts of every cause: model, serial, caliper and prices are in it, no evidence. */
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
    new Map(lore.knowledge.causes.map((cause) => [cause.id, partsOfCause(catalogue, question, cause, settings)])),
};

/** What mending a cause comes to when it is the one. */
export type Job = {
  option: RepairOption;
  grossMajor: number;
  costMajor: number;
  /** Until its parts are here; 0 where it needs none. */
  waitDays: number;
};
export type Jobs = ReadonlyMap<string, Job>;

type JobWorld = { lore: Lore; numbers: Numbers; settings: Settings; today: LocalDate };

const contextOf = ({ lore, settings, today }: JobWorld): OptionContext => ({
  knowledge: lore.knowledge,
  settings,
  today,
  timeFactor: lore.timeFactor,
});

/** Price and minutes of every cause by itself: no evidence in it. */
export const jobsChapter: Chapter<'jobs', JobWorld, Jobs> = {
  name: 'jobs',
  byContent: ['settings'],
  answer: (world) => {
    const jobs = new Map<string, Job>();
    for (const cause of world.lore.knowledge.causes) {
      const parts = world.numbers.get(cause.id);
      if (!parts) continue;
      const option = bestOption(contextOf(world), cause, parts);
      const { settings } = world;
      const [priced] = buildQuote({
        currency: settings.currency,
        taxBasisPoints: settings.taxBasisPoints,
        fee: settings.inspectionFee,
        feeWaivedIfRepaired: settings.feeWaivedIfRepaired,
        options: [option],
      }).options;
      if (priced)
        jobs.set(cause.id, {
          option,
          grossMajor: toMajor(priced.gross),
          costMajor: parts.costMajor,
          waitDays: Math.max(0, ...option.picks.map(({ candidate }) => candidate.days ?? DAYS_TO_ASK)),
        });
    }
    return jobs;
  },
};

/** An option without its arithmetic: what it mends, buys and takes. Its lines and sums are the quote's option of the same id. */
export type OfferedWay = Pick<RepairOption, 'id' | 'causeIds' | 'handsOnMinutes' | 'readyOn' | 'savesMinutes'> & {
  parts: RequirementDraft[];
  /** Hands-on minutes of its jobs, each with a way in of its own. */
  separateMinutes: number;
  elapsedHours: number;
};
export type OfferMade = { options: OfferedWay[]; quote: Quote };

const wayOf = ({ id, causeIds, handsOnMinutes, readyOn, savesMinutes, picks, plan }: RepairOption): OfferedWay => ({
  id,
  causeIds,
  handsOnMinutes,
  readyOn,
  savesMinutes,
  parts: causeIds[0] === undefined ? [] : partsOf(picks, causeIds[0]),
  separateMinutes: plan.separateMinutes,
  elapsedHours: plan.elapsedHours,
});

/** Up to three ways for the customer. `chosen`: the number decided on, joined by + where there are several. */
export const offerChapter: Chapter<
  'offer',
  JobWorld & { cause: Cause; second: Cause | null; chosen: string | null },
  OfferMade | null
> = {
  name: 'offer',
  byContent: ['settings'],
  answer: ({ cause, second, chosen, ...world }) => {
    const parts = world.numbers.get(cause.id);
    if (!parts) return null;
    const secondParts = second ? world.numbers.get(second.id) : undefined;
    const { options, quote } = repairOptions(
      { ...contextOf(world), chosen },
      cause,
      parts,
      second && secondParts ? { cause: second, parts: secondParts } : null,
    );
    return { options: options.map(wayOf), quote };
  },
};

const SECOND_AT_LEAST = 0.04;

/** What the first has brought is mended with it from this chance on. */
const BROUGHT_AT_LEAST = 0.1;

/** What the first has brought, or else the next likely cause, that needs a part and work: perhaps worth doing while it is open. */
export const secondCause = (ranking: CauseRanking, first: Cause): Cause | null =>
  broughtBy(ranking, first) ??
  ranking.causes.find(
    (entry) =>
      entry.cause &&
      entry.cause.id !== first.id &&
      entry.probability >= SECOND_AT_LEAST &&
      entry.cause.roleId &&
      entry.cause.operations.length,
  )?.cause ??
  null;

function broughtBy(ranking: CauseRanking, first: Cause): Cause | null {
  const lead = ranking.causes.find((entry) => entry.cause?.id === first.id);
  const [brought] = lead?.with ?? [];
  if (!lead || !brought || brought.probability < BROUGHT_AT_LEAST * lead.probability) return null;
  const cause = ranking.causes.find((entry) => entry.causeId === brought.causeId)?.cause;
  return cause?.roleId && cause.operations.length ? cause : null;
}

export type QuoteRange = { low: number; high: number; expected: number };

const RANGE_CAUSES = 8;

/** Gross price over the likely causes: what can be said at the phone in the first minute. 10–90 % and the mean; major units. */
export const rangeChapter: Chapter<'range', { ranking: CauseRanking; jobs: Jobs }, QuoteRange | null> = {
  name: 'range',
  answer: ({ ranking, jobs }) => {
    const priced = ranking.causes
      .filter((entry) => entry.causeId !== OTHER_CAUSE)
      .slice(0, RANGE_CAUSES)
      .flatMap((entry) => {
        const job = jobs.get(entry.causeId);
        return job ? [{ gross: job.grossMajor, p: entry.probability }] : [];
      })
      .sort((a, b) => a.gross - b.gross);
    const total = priced.reduce((sum, entry) => sum + entry.p, 0);
    if (total <= 0) return null;
    const at = (share: number): number => {
      let mass = 0;
      for (const entry of priced) {
        mass += entry.p / total;
        if (mass >= share) return entry.gross;
      }
      return priced.at(-1)?.gross ?? 0;
    };
    return {
      low: at(0.1),
      high: at(0.9),
      expected: priced.reduce((sum, entry) => sum + (entry.p / total) * entry.gross, 0),
    };
  },
};
