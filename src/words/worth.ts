import type { RuleId, Unknown, Worth } from '@/core/worth';
import { formatMinutes, formatNumber, formatPercent, formatRate, formatYears, plural } from './format';

/** "83 of 100". */
export const outOfHundred = (share: number): string => `${formatNumber(Math.round(share * 100))} of 100`;

/** Less than this share of a new one's price is no difference to act upon. */
const CLOSE = 0.03;
type Told = Pick<Worth, 'repair' | 'quote' | 'advantage' | 'replacePrice' | 'probabilityRepair'>;
/** Where the mean and most draws point to different sides, up to so much is none either. */
const CLOSE_IN_DOUBT = 0.1;
const isClose = ({ advantage, replacePrice, repair, probabilityRepair }: Told): boolean => {
  const inDoubt = repair !== probabilityRepair >= 0.5;
  return Math.abs(advantage) < (inDoubt ? CLOSE_IN_DOUBT : CLOSE) * replacePrice;
};

/** What is said to the customer, with the figure. */
export function customerWords(worth: Told, decided: boolean, currency: string): string {
  const money = (major: number) => formatRate(Math.max(0, major), currency);
  const price = decided
    ? `Mending it for ${money(worth.quote)}`
    : `Mending it, for about ${money(worth.quote)} as far as we can tell,`;
  if (isClose(worth)) return `${price} or buying a new one comes to about the same in the long run.`;
  return worth.repair
    ? `${price} leaves you about ${money(worth.advantage)} better off than buying a new one now.`
    : `A new one is the better buy: ${price.charAt(0).toLowerCase()}${price.slice(1)} would cost you about ${money(-worth.advantage)} more in the long run.`;
}

type Choice = Told & { id: string; fails: number; again: number };

/** Repair pays, it comes to about the same, or a new one is the better buy. */
const leaning = (worth: Told): 1 | 0 | -1 => (isClose(worth) ? 0 : worth.repair ? 1 : -1);

/** One of several ways against a new one, in few words. */
export function choiceWords(choice: Told, currency: string): string {
  const by = formatRate(Math.abs(choice.advantage), currency);
  return { [-1]: `${by} dearer than a new one`, 0: 'about the same as a new one', 1: `${by} cheaper than a new one` }[
    leaning(choice)
  ];
}

/** What that rests on. */
export function choiceBecause({ fails, again }: Pick<Choice, 'fails' | 'again'>, currency: string): string {
  return [
    'In the long run, with the days until it washes again.',
    ...(fails >= 0.005
      ? [`With ${formatPercent(fails)} it does not mend where the first way would: that is then done after it.`]
      : []),
    ...(again >= 0.5
      ? [`It lasts less long than the first way: mending it again is ${formatRate(again, currency)} on average.`]
      : []),
  ].join(' ');
}

/** Where another way than the first speaks more for repair: that it does. null where none does. */
export function otherChoiceWords(
  choices: readonly Choice[],
  nameOf: (id: string) => string | null,
  currency: string,
): string | null {
  const [first, ...others] = choices;
  if (!first || leaning(first) === 1) return null;
  const [best] = [...others].sort((a, b) => b.advantage - a.advantage);
  const name = best && nameOf(best.id);
  if (!best || !name || leaning(best) <= leaning(first)) return null;
  const price = formatRate(best.quote, currency);
  return leaning(best) === 1
    ? `“${name}”, for ${price}, leaves you about ${formatRate(best.advantage, currency)} better off than buying a new one now.`
    : `“${name}”, for ${price}, or buying a new one comes to about the same in the long run.`;
}

/** The balance in a few words: per year, or in all where later money counts in full. */
export function balanceWords(worth: Worth, currency: string): string {
  const perYear = worth.rho > 0;
  const by = Math.abs(perYear ? worth.savingPerYear : worth.advantage);
  if (isClose(worth)) return 'Repaired or new: it costs about the same';
  return `${worth.repair ? 'Repair' : 'Replace'}, by ${by < 1 ? `under ${formatRate(1, currency)}` : formatRate(by, currency)}${perYear ? ' a year' : ' in all'}`;
}

/** From this share of the draws on it needs a word that repair beats a new one there and yet another way is the cheapest. */
const NEEDS_A_WORD = 0.25;

/** Why repair here can be the better buy than a new one and yet seldom the cheapest way of all; null where the two figures lie close together. */
export function cheaperStillWords(
  paths: readonly { route: { name: string } | null; owns: string; cheapest: number }[],
  probabilityRepair: number,
): string | null {
  const here = paths.find(({ route }) => route === null);
  const [other] = paths.filter(({ route, owns }) => route && owns !== 'new').sort((a, b) => b.cheapest - a.cheapest);
  if (!here || !other?.route || probabilityRepair - here.cheapest < NEEDS_A_WORD) return null;
  return `Repair here beats a new one in ${outOfHundred(probabilityRepair)}, but is the cheapest of all in ${formatNumber(Math.round(here.cheapest * 100))}: another way costs less still, most often “${other.route.name}” (${outOfHundred(other.cheapest)}).`;
}

/** From where to where the difference goes. */
export function spreadWords([low, high]: readonly [number, number], currency: string): string {
  const money = (major: number) => formatRate(Math.abs(major), currency);
  if (low >= 0) return `by ${money(low)} to ${money(high)}`;
  return high < 0 ? `by ${money(high)} to ${money(low)}` : `from ${money(low)} dearer to ${money(high)} cheaper`;
}

/** What would turn the answer. */
export function tippingWords(
  worth: Worth,
  tips: { quote: number; newPrice: number | null; age: number | null },
  currency: string,
): string[] {
  const money = (major: number) => formatRate(major, currency);
  return [
    tips.quote > 0
      ? `Repair pays as long as the quote stays under ${money(tips.quote)}`
      : 'No repair pays at this age, however cheap',
    ...(tips.newPrice === null
      ? []
      : [
          worth.repair
            ? `unless a new one, delivered, is to be had under ${money(tips.newPrice)}`
            : `it would pay if a new one, delivered, cost more than ${money(tips.newPrice)}`,
        ]),
    ...(tips.age === null
      ? []
      : [
          worth.repair
            ? `up to an age of ${formatYears(tips.age)}`
            : `at this price it paid up to ${formatYears(tips.age)}`,
        ]),
  ];
}

/** What is not known, and what it takes to know it. */
export const UNKNOWN_WORDS: Record<Unknown['id'], { what: string; how: string }> = {
  cause: { what: 'which cause it is', how: 'the next check tells' },
  kind: { what: 'how the machine is built', how: 'a look at it tells' },
  age: { what: 'how old the machine is', how: 'the receipt, the serial number or the owner tells' },
  price: { what: 'what a new one costs', how: 'ask for today’s price, and enter it below' },
};

const plainYears = (years: number): string => plural(years, 'year');

export function ruleWords(
  { id, limit }: { id: RuleId; limit: number },
  rules: { shareOfNew: number; maxAgeYears: number; ageTimesQuote: number },
  currency: string,
): string {
  const most = Number.isFinite(limit) ? `: up to ${formatRate(Math.max(0, limit), currency)}` : '';
  switch (id) {
    case 'share-of-new':
      return `Below ${formatPercent(rules.shareOfNew)} of a new one${most}`;
    case 'falling-share':
      return `A share of a new one that falls to nothing at ${plainYears(rules.maxAgeYears)}${most}`;
    case 'age-limit':
      return `Nothing over ${plainYears(rules.maxAgeYears)}`;
    case 'age-times-quote':
      return `Age times quote below ${formatNumber(rules.ageTimesQuote, 1)} new ones${most}`;
    case 'years-for-money':
      return `No more per year gained than a new one costs per year${most}`;
  }
}

type Nearby = {
  needed: number;
  saves: number;
  extra: number;
  extraMinutes: number;
  alone: number;
  aloneMinutes: number;
  pays: boolean;
  lifeEstimated: boolean;
};

/** What a job costs more today, and what it saves. */
export const nearbyWords = ({ needed, saves, extra, extraMinutes }: Nearby, currency: string): string =>
  `${formatRate(extra, currency)} and ${formatMinutes(extraMinutes)} more today. Needed before the machine’s end in ${outOfHundred(needed)}: saves ${formatRate(saves, currency)} on average.`;

/** Where the figures of `nearbyWords` come from. */
export const nearbyBecause = ({ alone, aloneMinutes, pays, lifeEstimated }: Nearby, currency: string): string =>
  `By itself it takes ${formatMinutes(aloneMinutes)} and costs ${formatRate(alone, currency)}, and a failure more. The chance is that of its part’s life, between today’s age and the expected end, less that of a new part. ${lifeEstimated ? 'No life of this part is known: it is reckoned from how often it fails, with the flattest wear of this kind of machine. ' : ''}${pays ? 'It saves more than it costs.' : 'It costs more than it saves.'}`;

type Payer =
  | { kind: 'warranty'; fits: string; warranty: { months: number; covers: 'all' | 'parts'; roles: readonly string[] } }
  | { kind: 'recall'; fits: string; recall: { what: string; remedy: string } };

/** Somebody else who may have to pay. */
export function payerWords(payer: Payer, roleName: (roleId: string) => string): { title: string; text: string } {
  const about = payer.fits === 'other-cause' ? ', on something else' : '';
  if (payer.kind === 'recall')
    return { title: `Called back by its maker${about}`, text: `${payer.recall.what}. ${payer.recall.remedy}.` };
  const { months, covers, roles } = payer.warranty;
  const what = roles.length ? `on ${roles.map(roleName).join(' and ')}` : 'on all of it';
  return {
    title: `The maker’s warranty${about}`,
    text: `${plural(months, 'month')} ${what} from the day of purchase${covers === 'parts' ? ', parts only: the work is paid' : ''}.`,
  };
}
