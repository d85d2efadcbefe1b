import { livesOf, type Catalogue, type Condition, type Platform } from '../../catalogue';
import { lifeFactor } from '../../diagnose';
import { sum, toMajor, type CauseId } from '../../units';
import { mixOwning, ownMachine, weighQuote, type OwningInput, type Owning, type Quotes, type Worth } from '../../worth';
import type { Chapter } from '../chapter';
import type { Settings } from '../settings';
import type { Age, Machine } from './machine';

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
  /** Designs and ages that a machine may be of that nobody listed; empty where both are known. */
  designs: Machine['designs'];
  ages: readonly { years: number; probability: number }[];
  /** What was seen of its condition and place: it shortens lives. */
  conditions: readonly Condition[];
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

/** The mean over all that it may be, each drawn by its share. null when nobody knows the lives of any of them. */
function owningOf(question: OwningQuestion, draws: number): Owning | null {
  const known = casesOf(question).flatMap((one, index) => {
    const input = inputOf(question, one, Math.max(2, Math.round(draws * one.probability)), index);
    return input ? [{ owning: ownMachine(input), probability: one.probability }] : [];
  });
  if (known.length === 0) return null;
  const total = sum(known.map(({ probability }) => probability));
  return mixOwning(known.map((one) => ({ ...one, probability: one.probability / total })));
}

function inputOf(
  { economics, lives, platform, settings, causeId, conditions }: OwningQuestion,
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
    ageYears: Math.round(years * 20) / 20,
    // Only a repair that renews something makes a difference to what is owned afterwards.
    mendsComponent:
      settings.repairModel === 'renewal' ? (rows.find((row) => row.causeId === causeId)?.component ?? null) : null,
    repairModel: settings.repairModel,
    uncertainty: UNCERTAINTY,
    draws,
    seed: 7 + index,
  };
}

/** What owning the machine on, and owning a new one, comes to: no quote in it. null when the catalogue has no lives of its design. */
export const owningChapter: Chapter<'owning', OwningQuestion, Owning | null> = {
  name: 'owning',
  byContent: ['settings', 'designs', 'ages', 'conditions'],
  answer: (question) => owningOf(question, FIRST_DRAWS),
  refine: function* (question) {
    const owning = owningOf(question, WORTH_DRAWS);
    if (owning) yield owning;
  },
};

/** The age of a machine of which nobody is sure, as three ages: its bounds a quarter each. Empty where it is known, or listed. */
export const agesOf = ({ years, from, to }: Age, listed: boolean): OwningQuestion['ages'] =>
  listed || to - from < 0.5
    ? []
    : [
        { years: from, probability: 0.25 },
        { years, probability: 0.5 },
        { years: to, probability: 0.25 },
      ];

/** Repair against replace at a quote. */
export const worthChapter: Chapter<
  'worth',
  { owning: Owning | null; quotes: Quotes; rules: Settings['rules']; ageYears: number },
  Worth | null
> = {
  name: 'worth',
  byContent: ['rules', 'quotes'],
  answer: ({ owning, quotes, rules, ageYears }) => owning && weighQuote(owning, quotes, rules, ageYears),
};
