import { livesOf, type Catalogue, type Cause, type Condition, type Life } from '../../catalogue';
import { lifeByWeight, lifeFactor } from '../../diagnose';
import { planWork } from '../../labour';
import { buildQuote } from '../../quote';
import { toMajor, type CauseId } from '../../units';
import { doItNow, type DoNow, type Owning } from '../../worth';
import type { Chapter } from '../chapter';
import { bestOption, chargedBy, withAnother } from '../options';
import { contextOf, type Job, type Jobs, type JobWorld } from './jobs';

/** A job that might be done while the machine is open: its extra minutes and price today, and what it is expected to save. */
export type NearbyJob = DoNow & {
  causeId: CauseId;
  name: string;
  /** No life of its own is known: it is reckoned from how often the cause comes. */
  lifeEstimated: boolean;
  extraMinutes: number;
  /** By itself, one day, with a way in of its own; gross, as `extra`. */
  alone: number;
  aloneMinutes: number;
  extra: number;
};

/** A job that saves less of its own time than this is not near. */
const SHARED_AT_LEAST = 0.25;
const MOST_SHOWN = 4;
/** What saves less, in units of money, is not worth a word. */
const WORTH_A_WORD = 1;

type KnownLife = Pick<Life, 'shape' | 'scaleYears'> & { ofCause: CauseId; estimated: boolean };

/** The life of the part that a cause needs: its own row, else that of another cause of the same part, else from how often it comes. */
export function lifeOf(rows: readonly Life[], causes: readonly Cause[], cause: Cause): KnownLife | null {
  const same = causes.filter(({ id, roleId }) => id !== cause.id && roleId !== undefined && roleId === cause.roleId);
  const row =
    rows.find(({ causeId }) => causeId === cause.id) ??
    rows.find(({ causeId }) => same.some(({ id }) => id === causeId));
  const life = row ?? lifeByWeight(rows, causes, cause);
  return (
    life && {
      shape: life.shape,
      scaleYears: life.scaleYears,
      ofCause: row?.causeId ?? cause.id,
      estimated: !row,
    }
  );
}

/** Every job near to the one that is done, the most worth first; empty where nobody knows lives or how long the machine is kept. */
export const nearbyChapter: Chapter<
  'nearby',
  JobWorld & {
    jobs: Jobs;
    job: Job | null;
    owning: Owning | null;
    ageYears: number;
    conditions: readonly Condition[];
  } & Pick<Catalogue, 'lives'>,
  NearbyJob[]
> = {
  name: 'nearby',
  byContent: ['settings', 'carriage', 'conditions'],
  answer: ({ jobs, job, owning, ageYears, conditions, lives, ...world }) => {
    if (!job || !owning || job.way.cause.operations.length === 0) return [];
    const { lore, platform, numbers, settings, carriage } = world;
    const context = contextOf(world);
    const own = numbers.get(job.way.cause);
    if (!own) return [];
    const lead = bestOption(context, job.way, own);
    const rows = livesOf(lives, platform.design, platform.id);
    const priceOf = (option: typeof lead) => {
      const [priced] = buildQuote({ ...chargedBy(settings, carriage), options: [option] }).options;
      return priced ? toMajor(priced.gross) : 0;
    };
    const leadPrice = priceOf(lead);
    const all = [...jobs.values()].flatMap(([other]): NearbyJob[] => {
      const { cause } = other.way;
      const life = lifeOf(rows, lore.knowledge.causes, cause);
      const parts = numbers.get(cause);
      if (!life || !parts || !other.isDone || cause.id === job.way.cause.id || cause.operations.length === 0) return [];
      // Without a part nothing is made new.
      if (!cause.roleId) return [];
      const minutes = (goals: readonly string[]) =>
        planWork(lore.knowledge.operations, goals, { timeFactor: lore.timeFactor, times: lore.times }).handsOnMinutes;
      const aloneMinutes = minutes(cause.operations);
      const extraMinutes =
        minutes([...job.way.cause.operations, ...cause.operations]) - minutes(job.way.cause.operations);
      if (aloneMinutes <= 0 || extraMinutes > (1 - SHARED_AT_LEAST) * aloneMinutes) return [];
      const both = withAnother(context, job.way, own, { cause, parts });
      const extra = priceOf(both) - leadPrice;
      const now = doItNow({
        life: { shape: life.shape, scaleYears: life.scaleYears * lifeFactor(conditions, life.ofCause) },
        ageYears,
        yearsLeft: owning.yearsLeft,
        cost: other.grossMajor + toMajor(settings.disruption),
        extra,
        rho: settings.rho,
      });
      return [
        {
          ...now,
          lifeEstimated: life.estimated,
          causeId: cause.id,
          name: cause.name,
          extraMinutes,
          aloneMinutes,
          alone: other.grossMajor,
          extra,
        },
      ];
    });
    return (
      all
        .filter(({ saves }) => saves >= WORTH_A_WORD)
        // What pays first; then what is known of, before what is reckoned.
        .sort(
          (a, b) =>
            Number(b.pays) - Number(a.pays) ||
            Number(a.lifeEstimated) - Number(b.lifeEstimated) ||
            b.saves - b.extra - (a.saves - a.extra),
        )
        .slice(0, MOST_SHOWN)
    );
  },
};

/** What is worth offering together with the job: what pays. */
export const worthDoing = (nearby: readonly NearbyJob[], causes: readonly Cause[]): Cause | null => {
  const best = nearby.find(({ pays }) => pays);
  return causes.find(({ id }) => id === best?.causeId) ?? null;
};
