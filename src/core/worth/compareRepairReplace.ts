import { sum, weightedQuantile } from '../units';
import { askRules, type HouseRules, type RuleOpinion } from './houseRules';
import { ageToRead, ownMachine, problemOf, type Owning, type OwningInput } from './owning';
import type { DrawnValues } from './repairLimit';

/** What a repair may cost, and with what chance; they sum to one, or there are none where nothing is priced yet. One of them, certain, where the cause is settled. */
export type Quotes = readonly {
  quote: number;
  probability: number;
  /** Until the machine runs again; at once where it is missing. */
  days?: number;
}[];

/** How long the owner waits for a new one, and what a day without a machine costs, major units. */
export type Waiting = { newDays: number; perDay: number };

/**
 * A way out of the failure: what is paid today in each of the cases that `Quotes` lists (for a new one, beside its price), how long it takes, and what is owned afterwards.
 * `warrantyMonths`: what the seller answers for; said, in no sum.
 */
export type Path = {
  id: string;
  owns: 'this' | 'new' | 'used';
  pays: readonly number[];
  days: number;
  warrantyMonths: number;
};

export type WeighedPath = Omit<Path, 'pays'> & {
  /** Paid today: expected, and 10 to 90 % over the cases; a new one's with its price. */
  pay: number;
  from: number;
  to: number;
  /** Present value of replacing now less that of this path, days without a machine included; in all, where rho = 0. */
  advantage: number;
  /** Money per year, today's payment included. */
  perYear: number;
  /** Chance that no other path is cheaper; they sum to one. */
  cheapest: number;
};

export type WorthInput = OwningInput & { quote: number; rules?: HouseRules };

export type Worth = {
  repair: boolean;
  /** What a repair is expected to cost. */
  quote: number;
  /** Money per year, major units, with the 10–90 % spread. */
  annualRepair: number;
  annualReplace: number;
  spreadRepair: [number, number];
  spreadReplace: [number, number];
  /** Present value of replacing now less that of repairing now, with the days without a machine on both sides; in all, where rho = 0. */
  advantage: number;
  /** 10–90 % of it over draws and quotes. */
  spread: [number, number];
  /** annualReplace − annualRepair. */
  savingPerYear: number;
  probabilityRepair: number;
  /** The most that is worth paying today. */
  limit: number;
  /** The age at which the limit was read (renewal: the effective age). */
  readAtAge: number;
  curve: { age: number; limit: number }[];
  /** How many draws the probability and the spreads rest on. */
  draws: number;
  rho: number;
  replacePrice: number;
  /** Expected failures in the coming year after this repair. */
  failuresNextYear: number;
  yearsLeft: number;
  yearsNew: number;
};

const AT_ONCE: Waiting = { newDays: 0, perDay: 0 };

/**
 * Repair or replace at a quote, or at what each cause that it may be would cost. Major units; see decideMachine for the method. The figures per year are of the expected
 * quote; chance and spreads are over draws and quotes. O(draws × quotes × log).
 */
export function weighQuote(owning: Owning, asked: Quotes, waiting: Waiting = AT_ONCE): Worth {
  const quotes = asked.length ? asked : [{ quote: 0, probability: 1 }];
  const { rho, value, leave, perYear, drawn, readAtAge, curve, failuresNextYear, replacePrice } = owning;
  const quote = sum(quotes.map((one) => one.quote * one.probability));
  const waitFor = ({ days = 0 }: Quotes[number]) => days * waiting.perDay;
  const repairWait = sum(quotes.map((one) => waitFor(one) * one.probability));
  const newWait = waiting.newDays * waiting.perDay;
  const keep = quote + repairWait + value;
  const anew = leave + newWait;
  const each = quotes.flatMap((one) =>
    drawn.map((draw) => ({
      repair: one.quote + waitFor(one) + draw.value,
      anew: draw.leave + newWait,
      perYear: draw.perYear,
      weight: one.probability,
    })),
  );
  const spreadOf = (of: (draw: (typeof each)[number]) => number): [number, number] => {
    const values = each.map((draw) => ({ value: of(draw), weight: draw.weight }));
    return [weightedQuantile(values, 0.1), weightedQuantile(values, 0.9)];
  };
  const favourable = sum(each.map((draw) => (draw.repair <= draw.anew ? draw.weight : 0)));
  return {
    repair: anew >= keep,
    quote,
    annualRepair: rho * keep + perYear,
    annualReplace: rho * anew + perYear,
    spreadRepair: spreadOf((draw) => rho * draw.repair + draw.perYear),
    spreadReplace: spreadOf((draw) => rho * draw.anew + draw.perYear),
    advantage: anew - keep,
    spread: spreadOf((draw) => draw.anew - draw.repair),
    savingPerYear: rho * (anew - keep),
    probabilityRepair: drawn.length ? favourable / drawn.length : NaN,
    limit: owning.limit + newWait - repairWait,
    readAtAge,
    curve: curve.map(({ age, limit }) => ({ age, limit: limit + newWait - repairWait })),
    draws: drawn.length,
    rho,
    replacePrice,
    failuresNextYear,
    yearsLeft: owning.yearsLeft,
    yearsNew: owning.yearsNew,
  };
}

/** Several ways out side by side, each in every draw and case: the same lives, the same cause, other prices. O(draws × cases × paths). */
export function weighPaths(
  owning: Owning,
  chances: readonly number[],
  paths: readonly Path[],
  perDay: number,
): WeighedPath[] {
  const { rho, perYear, drawn } = owning;
  const price = (
    { owns, pays, days }: Path,
    index: number,
    of: Pick<DrawnValues, 'value' | 'leave' | 'used'>,
  ): number => (pays[index] ?? 0) + days * perDay + (owns === 'this' ? of.value : owns === 'used' ? of.used : of.leave);
  const mean = { value: owning.value, leave: owning.leave, used: owning.used ?? 0 };
  const expected = (path: Path) => sum(chances.map((chance, index) => chance * price(path, index, mean)));
  const best = paths.map(() => 0);
  for (const draw of drawn)
    chances.forEach((chance, index) => {
      const prices = paths.map((path) => price(path, index, draw));
      const at = prices.indexOf(Math.min(...prices));
      best[at] = (best[at] ?? 0) + chance / drawn.length;
    });
  const anew = paths.find(({ owns }) => owns === 'new');
  const against = anew ? expected(anew) : owning.leave;
  return paths.map(({ pays, ...path }, at) => {
    const own = path.owns === 'new' ? owning.replacePrice : 0;
    const total = expected({ ...path, pays });
    const paid = pays.map((value, index) => ({ value, weight: chances[index] ?? 0 }));
    return {
      ...path,
      pay: own + sum(chances.map((chance, index) => chance * (pays[index] ?? 0))),
      from: own + weightedQuantile(paid, 0.1),
      to: own + weightedQuantile(paid, 0.9),
      advantage: against - total,
      perYear: rho * total + perYear,
      cheapest: best[at] ?? 0,
    };
  });
}

/** All steps at once: the comparison, and what the house rules say beside it. */
export function compareRepairReplace(input: WorthInput): Worth & { rules: RuleOpinion[] } {
  const { ageYears, quote, rules } = input;
  return {
    ...weighQuote(ownMachine(input), [{ quote, probability: 1 }]),
    rules: rules ? askRules(rules, problemOf(input), { ageYears, readAtAge: ageToRead(input), quote }) : [],
  };
}
