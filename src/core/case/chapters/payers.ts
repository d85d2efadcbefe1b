import type { Catalogue, Cause, Recall, Warranty } from '../../catalogue';
import { addDays, yearsBetween, type LocalDate } from '../../units';
import type { Chapter } from '../chapter';
import type { Age, Machine } from './machine';

/** Somebody else who may have to pay, and how likely that is by what is known of the machine's age. */
export type Payer =
  | { kind: 'warranty'; chance: number; warranty: Warranty; fits: Fits }
  | { kind: 'recall'; chance: number; recall: Recall; fits: Fits };
/** Whether it is about what is wrong here: it covers the cause that leads, another, or that is open. */
export type Fits = 'this-cause' | 'other-cause' | 'open';

/** Less is not worth a word. */
const LIKELY_FROM = 0.02;

/** The share of the ages from `from` to `to` that lie between two bounds; all or nothing where the age is known. */
function shareWithin({ from, to }: Pick<Age, 'from' | 'to'>, low: number, high: number): number {
  if (to - from < 0.01) return from >= low && from < high ? 1 : 0;
  return Math.max(0, Math.min(to, high) - Math.max(from, low)) / (to - from);
}

const fitsCause = (covers: boolean, cause: Cause | null): Fits =>
  cause === null ? 'open' : covers ? 'this-cause' : 'other-cause';

/** The maker's warranties and recalls that this machine may come under, by serial, receipt or the years it was made in. The likeliest first. */
export const payersChapter: Chapter<
  'payers',
  Pick<Catalogue, 'warranties' | 'recalls'> & {
    machine: Machine;
    age: Age;
    /** What leads, once it is settled. */
    cause: Cause | null;
    today: LocalDate;
  },
  Payer[]
> = {
  name: 'payers',
  answer: ({ warranties, recalls, machine, age, cause, today }) => {
    const { model, platform } = machine;
    const bound = warranties
      .filter(({ makerId, platformId }) => makerId === model.makerId && (!platformId || platformId === platform.id))
      .map((warranty): Payer => ({
        kind: 'warranty',
        warranty,
        chance: shareWithin(age, 0, warranty.months / 12),
        fits: fitsCause(
          warranty.roles.length === 0 || warranty.roles.some((roleId) => roleId === cause?.roleId),
          cause,
        ),
      }));
    const called = recalls
      .filter(({ platformId }) => platformId === platform.id)
      .map((recall): Payer => ({
        kind: 'recall',
        recall,
        chance: shareWithin(age, yearsBetween(recall.builtTo, today), yearsBetween(recall.builtFrom, today)),
        fits: fitsCause(
          recall.causes.some((id) => id === cause?.id),
          cause,
        ),
      }));
    return [...bound, ...called].filter(({ chance }) => chance >= LIKELY_FROM).sort((a, b) => b.chance - a.chance);
  },
};

/** Until when this shop answers for a repair of its own; null where it does not, or no more. Thirty days to a month. */
export function ownWarranty(closedOn: LocalDate, warrantyMonths: number, today: LocalDate): LocalDate | null {
  const until = addDays(closedOn, Math.round((warrantyMonths * 365.25) / 12));
  return warrantyMonths > 0 && until >= today ? until : null;
}
