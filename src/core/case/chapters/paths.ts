import type { Economics, Route } from '../../catalogue';
import { sum, toMajor, type Money } from '../../units';
import { weighPaths, type Owning, type Path, type WeighedPath } from '../../worth';
import type { Chapter } from '../chapter';
import type { Settings } from '../settings';
import type { OfferedOption } from '../../ticket';

/** What a case of the failure comes to here: what the customer pays, until when, and of what it is made. */
export type CasePrice = {
  probability: number;
  gross: number;
  days: number;
  /** Of them, until its parts are here. */
  partDays: number;
  /** Parts as sold and hours of work, both before tax: what another workshop's price is made of. */
  partsNet: number;
  hours: number;
};

/** What an option is made of: its parts and hours, and of the parts those of which nobody has named the price. */
export type Made = Pick<CasePrice, 'partsNet' | 'hours'> & { usualNet: number; usualGross: number };

const PARTS: readonly OfferedOption['lines'][number]['kind'][] = ['part', 'companion', 'sundry'];

/** The parts and the hours of an option. */
export function madeOf({ lines, handsOnMinutes }: Pick<OfferedOption, 'lines' | 'handsOnMinutes'>): Made {
  const parts = lines.flatMap(({ kind, amounts, estimated }) =>
    amounts && PARTS.includes(kind) ? [{ amounts, isUsual: estimated === true }] : [],
  );
  const usual = parts.filter(({ isUsual }) => isUsual);
  return {
    partsNet: sum(parts.map(({ amounts }) => toMajor(amounts.net))),
    hours: handsOnMinutes / 60,
    usualNet: sum(usual.map(({ amounts }) => toMajor(amounts.net))),
    usualGross: sum(usual.map(({ amounts }) => toMajor(amounts.gross))),
  };
}

/** How far off a usual price is: standard deviation of the logarithm, the authors' estimate. */
const USUAL_OFF = 0.3;
/** A tenth lies below the first and above the last of three, which keep the mean. */
const OFF = [-1.2816, 0, 1.2816].map((z, at) => ({ factor: Math.exp(z * USUAL_OFF), share: [0.2, 0.6, 0.2][at] ?? 0 }));
const MEAN_FACTOR = sum(OFF.map(({ factor, share }) => factor * share));

/** A case as several, dearer and cheaper, where it counts with usual prices; their chances sum to its own, and their mean is it. */
export function pricedAround(one: CasePrice, { usualNet, usualGross }: Made): CasePrice[] {
  if (usualGross <= 0) return [one];
  return OFF.map(({ factor, share }) => {
    const more = factor / MEAN_FACTOR - 1;
    return {
      ...one,
      probability: one.probability * share,
      gross: one.gross + usualGross * more,
      partsNet: one.partsNet + usualNet * more,
    };
  });
}

export type RoutePath = WeighedPath & { route: Route | null };

/** A repair here. */
export const HERE = 'here';

const grossOf = (net: number, { taxBasisPoints, taxStyle }: Settings): number =>
  taxStyle === 'none' ? net : net * (1 + taxBasisPoints / 10_000);
const majorOf = (money: Money | undefined): number => (money ? toMajor(money) : 0);

function pathOf(route: Route, cases: readonly CasePrice[], economics: Economics, settings: Settings): Path | null {
  const { id, kind, warrantyMonths, days = 0, partFactor = 1, cure = 1 } = route;
  const after = { id, warrantyMonths };
  const parts = (one: CasePrice) => one.partsNet * partFactor;
  switch (kind) {
    case 'maker-service': {
      const fee = route.feeWaived === 'yes' ? 0 : majorOf(route.fee);
      return {
        ...after,
        owns: 'this',
        days,
        pays: cases.map((one) => grossOf(fee + one.hours * majorOf(route.labourPerHour) + parts(one), settings)),
      };
    }
    case 'part-sold':
      // Where it does not go well at home it is mended here after all.
      return cases.every((one) => one.partsNet > 0)
        ? {
            ...after,
            owns: 'this',
            days: days + Math.max(0, ...cases.map(({ partDays }) => partDays)),
            pays: cases.map((one) => grossOf(majorOf(route.fee) + parts(one), settings) + (1 - cure) * one.gross),
          }
        : null;
    case 'used-machine':
      return {
        ...after,
        owns: 'used',
        days,
        pays: cases.map(() => toMajor(economics.usedPrice) + toMajor(economics.delivery) + toMajor(economics.disposal)),
      };
    case 'new-machine':
      return { ...after, owns: 'new', days: economics.daysToReplace, pays: cases.map(() => 0) };
  }
}

/** Repair here beside every other way out that is known, weighed in the same draws. Empty where there is nothing to weigh. */
export const pathsChapter: Chapter<
  'paths',
  {
    owning: Owning | null;
    cases: readonly CasePrice[];
    routes: readonly Route[];
    economics: Economics | null;
    settings: Settings;
  },
  RoutePath[]
> = {
  name: 'paths',
  byContent: ['cases', 'settings'],
  answer: ({ owning, cases, routes, economics, settings }) => {
    if (!owning || !economics || cases.length === 0) return [];
    const mean = (of: (one: CasePrice) => number) => cases.reduce((total, one) => total + one.probability * of(one), 0);
    const here: Path = {
      id: HERE,
      owns: 'this',
      days: mean(({ days }) => days),
      pays: cases.map(({ gross }) => gross),
      warrantyMonths: settings.warrantyMonths,
    };
    const others = routes.flatMap((route) => {
      const path = pathOf(route, cases, economics, settings);
      return path ? [{ route, path }] : [];
    });
    const chances = cases.map(({ probability }) => probability);
    const weighed = weighPaths(
      owning,
      chances,
      [here, ...others.map(({ path }) => path)],
      toMajor(settings.latePerDay),
    );
    return weighed.map((path, index) => ({ ...path, route: others[index - 1]?.route ?? null }));
  },
};
