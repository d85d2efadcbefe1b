import type { Catalogue, Platform } from '../../catalogue';
import { toMajor, type CauseId } from '../../units';
import { ownMachine, weighQuote, type OwningInput, type Owning, type Worth } from '../../worth';
import type { Chapter } from '../chapter';
import type { Settings } from '../settings';

/** How often the life data and prices are drawn within their uncertainty: at first, and in the end. */
export const FIRST_DRAWS = 20;
export const WORTH_DRAWS = 120;
/** Standard deviations of the logarithms: how unsure the life data are. */
const UNCERTAINTY = { scale: 0.25, shape: 0.1, cost: 0.15, replace: 0.08 };

type OwningQuestion = Pick<Catalogue, 'economics' | 'lives'> & {
  platform: Platform;
  settings: Settings;
  ageYears: number;
  causeId: CauseId | null;
};

function inputOf({ economics, lives, platform, settings, ageYears, causeId }: OwningQuestion): OwningInput | null {
  const prices = economics.find((row) => row.design === platform.design);
  const rows = lives.filter((row) => row.design === platform.design);
  if (!prices || rows.length === 0) return null;
  const life = rows.map((row) => ({
    id: row.component,
    name: row.name,
    shape: row.shape,
    scaleYears: row.scaleYears,
    cost: toMajor(row.cost),
    costVariation: row.costVariation,
  }));
  return {
    life,
    next: life.map(({ shape, scaleYears, cost, costVariation }) => ({ shape, scaleYears, cost, costVariation })),
    replacePrice: toMajor(prices.newPrice) + toMajor(prices.delivery) + toMajor(prices.disposal),
    disruption: toMajor(settings.disruption),
    rho: settings.rho,
    ageYears: Math.round(ageYears * 20) / 20,
    // Only a repair that renews something makes a difference to what is owned afterwards.
    mendsComponent:
      settings.repairModel === 'renewal' ? (rows.find((row) => row.causeId === causeId)?.component ?? null) : null,
    repairModel: settings.repairModel,
    uncertainty: UNCERTAINTY,
    draws: FIRST_DRAWS,
    seed: 7,
  };
}

/** What owning the machine on, and owning a new one, comes to: no quote in it. null when the catalogue has no lives of its design. */
export const owningChapter: Chapter<'owning', OwningQuestion, Owning | null> = {
  name: 'owning',
  byContent: ['settings'],
  answer: (question) => {
    const input = inputOf(question);
    return input && ownMachine(input);
  },
  refine: function* (question) {
    const input = inputOf(question);
    if (input) yield ownMachine({ ...input, draws: WORTH_DRAWS });
  },
};

/** Repair against replace at a quote. */
export const worthChapter: Chapter<
  'worth',
  { owning: Owning | null; quoteMajor: number; rules: Settings['rules']; ageYears: number },
  Worth | null
> = {
  name: 'worth',
  byContent: ['rules'],
  answer: ({ owning, quoteMajor, rules, ageYears }) => owning && weighQuote(owning, quoteMajor, rules, ageYears),
};
