import { livesOf, type Catalogue, type Condition, type Platform, type Route } from '../../catalogue';
import { lifeFactor } from '../../diagnose';
import { sum, toMajor, type CauseId } from '../../units';
import {
  advantagePerHundredth,
  limitsOf,
  ageToRead,
  askRules,
  mixOwning,
  ownMachine,
  problemOf,
  tippingAge,
  tippingPrice,
  unknowns,
  weighQuote,
  type OwningCase,
  type OwningInput,
  type Owning,
  type Quotes,
  type RuleOpinion,
  type Unknown,
  type Waiting,
  type Worth,
} from '../../worth';
import type { Chapter } from '../chapter';
import type { Settings } from '../settings';
import type { Age, Machine } from './machine';

/** How often the life data and prices are drawn within their uncertainty: at first, and in the end. */
export const FIRST_DRAWS = 20;
export const WORTH_DRAWS = 300;
/** Standard deviations of the logarithms: how unsure the life data are. */
const UNCERTAINTY = { scale: 0.25, shape: 0.1, cost: 0.15, replace: 0.08 };

/** What owning depends on: of the settings only what is named here, so that another figure of the shop moves nothing. */
export type OwningQuestion = Pick<Catalogue, 'economics' | 'lives'> & {
  platform: Platform;
  settings: Settings;
  ageYears: number;
  causeId: CauseId | null;
  /** How much of a new part's life the mend gives. */
  lifeShare: number;
  /** Designs and ages that a machine may be of that nobody listed; empty where both are known. */
  designs: Machine['designs'];
  ages: readonly { years: number; probability: number }[];
  /** What was seen of its condition and place: it shortens lives. */
  conditions: readonly Condition[];
  /** The used machine that may be had; null where nobody offers one. */
  used: Route | null;
};

/** One thing that a machine may be. */
type Case = { design: string; years: number; probability: number };
/** What is rarer changes no figure. */
const RARE = 0.04;

function casesOf({ platform, ageYears, designs, ages }: OwningQuestion): Case[] {
  const kinds = designs.length
    ? designs.map(({ design, probability }) => ({ design: design.id, probability }))
    : [{ design: platform.design, probability: 1 }];
  const years = ages.length ? ages : [{ years: ageYears, probability: 1 }];
  const all = kinds
    .flatMap((kind) =>
      years.map((age): Case => ({
        design: kind.design,
        years: age.years,
        probability: kind.probability * age.probability,
      })),
    )
    .filter(({ probability }) => probability >= RARE);
  const total = sum(all.map(({ probability }) => probability));
  return all.map((one) => ({ ...one, probability: one.probability / total }));
}

/** All that it may be of which somebody knows the lives; shares sum to one, or there are none. */
function inputsOf(question: OwningQuestion, draws: number): (OwningCase & Case)[] {
  const known = casesOf(question).flatMap((one, index) => {
    const input = inputOf(question, one, Math.max(2, Math.round(draws * one.probability)), index);
    return input ? [{ ...one, input }] : [];
  });
  const total = sum(known.map(({ probability }) => probability));
  return known.map((one) => ({ ...one, probability: one.probability / total }));
}

/** The mean over all that it may be, each drawn by its share. null when nobody knows the lives of any of them. */
function owningOf(question: OwningQuestion, draws: number): Owning | null {
  const cases = inputsOf(question, draws);
  return cases.length
    ? mixOwning(cases.map(({ input, probability }) => ({ owning: ownMachine(input), probability })))
    : null;
}

function inputOf(
  { economics, lives, platform, settings, causeId, lifeShare, conditions, used }: OwningQuestion,
  { design, years }: Case,
  draws: number,
  index: number,
): OwningInput | null {
  const prices = economics.find((row) => row.design === design);
  const rows = livesOf(lives, design, platform.id);
  // A new one is of its design, whatever this one's makers built.
  const usual = livesOf(lives, design, null);
  if (!prices || rows.length === 0) return null;
  const ofTheHouse = conditions.filter(({ staysWithHouse }) => staysWithHouse === 'yes');
  const life = rows.map((row) => ({
    id: row.component,
    name: row.name,
    shape: row.shape,
    scaleYears: row.scaleYears * lifeFactor(conditions, row.causeId),
    cost: toMajor(row.cost),
    costVariation: row.costVariation,
  }));
  return {
    life,
    next: usual.map(({ shape, scaleYears, cost, costVariation, causeId: mends }) => ({
      shape,
      scaleYears: scaleYears * lifeFactor(ofTheHouse, mends),
      cost: toMajor(cost),
      costVariation,
    })),
    replacePrice: toMajor(prices.newPrice) + toMajor(prices.delivery) + toMajor(prices.disposal),
    disruption: toMajor(settings.disruption),
    rho: settings.rho,
    runningMore: prices.runningSaved ? toMajor(prices.runningSaved) * years : 0,
    ageYears: Math.round(years * 20) / 20,
    // Only a repair that renews something makes a difference to what is owned afterwards.
    mendsComponent:
      settings.repairModel === 'renewal' ? (rows.find((row) => row.causeId === causeId)?.component ?? null) : null,
    lifeShare,
    repairModel: settings.repairModel,
    used: used && { ageYears: used.usedAgeYears ?? USED_AGE, doubt: used.usedDoubt ?? USED_DOUBT },
    uncertainty: UNCERTAINTY,
    draws,
    seed: 7 + index,
  };
}

/** Of a used machine of which the route does not say it. */
const USED_AGE = 6;
const USED_DOUBT = 0.35;

/** What owning the machine on, owning a new one and owning a used one comes to: no quote in it. null when the catalogue has no lives of its design. */
export const owningChapter: Chapter<'owning', OwningQuestion, Owning | null> = {
  name: 'owning',
  byContent: ['settings', 'designs', 'ages', 'conditions'],
  answer: (question) => owningOf(question, FIRST_DRAWS),
  refine: function* (question) {
    const owning = owningOf(question, WORTH_DRAWS);
    if (owning) yield owning;
  },
};

/** Where the age is known better than this, one stands for all; a listed machine's is, unless its model was made for long. */
const NARROW = { listed: 3, unlisted: 0.5 };

/** The age of a machine of which nobody is sure, as three ages: its bounds a quarter each. Empty where it is known well enough. */
export const agesOf = ({ years, from, to }: Age, listed: boolean): OwningQuestion['ages'] =>
  to - from < NARROW[listed ? 'listed' : 'unlisted']
    ? []
    : [
        { years: from, probability: 0.25 },
        { years, probability: 0.5 },
        { years: to, probability: 0.25 },
      ];

/** Repair against replace at a quote. */
export const worthChapter: Chapter<'worth', { owning: Owning | null; quotes: Quotes; waiting: Waiting }, Worth | null> =
  {
    name: 'worth',
    byContent: ['quotes', 'waiting'],
    answer: ({ owning, quotes, waiting }) => owning && weighQuote(owning, quotes, waiting),
  };

/** What would turn the answer, what it would be worth to know, and what the house rules say. */
export type Tips = {
  /** Repair pays as long as it stays under this; 0 and less: at no price. */
  quote: number;
  /** It pays unless a new one, delivered, is had under this, major units; null where no price turns it. */
  newPrice: number | null;
  /** It pays up to this age; null where no age does. */
  age: number | null;
  unknowns: Unknown[];
  rules: RuleOpinion[];
};

/** Too many sweeps for the first answer: it comes a moment later. */
export const tipsChapter: Chapter<'tips', { question: OwningQuestion; quotes: Quotes; waiting: Waiting }, Tips | null> =
  {
    name: 'tips',
    byContent: ['question', 'quotes', 'waiting'],
    answer: () => null,
    refine: function* ({ question, quotes, waiting }) {
      const cases = inputsOf(question, 0);
      const [likeliest] = [...cases].sort((a, b) => b.probability - a.probability);
      if (!likeliest || quotes.length === 0) return;
      const economics = question.economics.find(({ design }) => design === question.platform.design);
      const waits = waiting.newDays * waiting.perDay;
      // What repairing comes to today, its waiting in it and that for a new one out of it.
      const asked = quotes.map(({ quote, probability, days = 0 }) => ({
        quote: quote + days * waiting.perDay - waits,
        probability,
      }));
      const cost = sum(asked.map(({ quote, probability }) => quote * probability));
      const quote = sum(quotes.map((one) => one.quote * one.probability));
      const { each, limit, curve } = limitsOf(cases);
      yield {
        quote: limit - (cost - quote),
        newPrice: tippingPrice(cases, cost),
        age: tippingAge(curve, cost),
        unknowns: unknowns({
          quotes: asked,
          cases: each.flatMap((one, at) => {
            const its = cases[at];
            return its ? [{ ...one, kind: its.design, years: its.years }] : [];
          }),
          advantage: limit - cost,
          quote: cost,
          limit,
          perHundredth: advantagePerHundredth(cases),
          priceDoubt: UNCERTAINTY.replace,
        }),
        rules: askRules(question.settings.rules, problemOf(likeliest.input), {
          ageYears: likeliest.input.ageYears,
          readAtAge: ageToRead(likeliest.input),
          quote,
          ...(economics ? { expectedYears: economics.expectedYears } : {}),
        }),
      };
    },
  };
