import { OTHER_CAUSE, type Catalogue, type Cause, type Model, type Platform } from '../catalogue';
import type { CauseRanking } from '../diagnose';
import { readSerial } from '../identify';
import type { TicketState } from '../ticket';
import { toMajor, yearsBetween, type LocalDate } from '../units';
import { compareRepairReplace, type Worth } from '../worth';
import type { Age, Assessment } from './assessment';
import { repairOptions, type OptionContext } from './options';
import type { CauseParts } from './pricing';
import type { Settings } from './settings';

/** How often the life data and prices are drawn within their uncertainty. */
export const WORTH_DRAWS = 120;
/** Standard deviations of the logarithms: how unsure the life data are. */
const UNCERTAINTY = { scale: 0.25, shape: 0.1, cost: 0.15, replace: 0.08 };
const OPTION_CAUSES = 8;

/** By the receipt, else by the serial, else by the years in which the model was made. */
export function ageOf(catalogue: Catalogue, state: TicketState, model: Model, today: LocalDate): Age | null {
  if (state.boughtOn) {
    const years = Math.max(0, yearsBetween(state.boughtOn, today));
    return { years, from: years, to: years, source: 'receipt', serial: null };
  }
  const serial = state.serial
    ? readSerial(catalogue.serial_schemes, model.makerId, state.serial, {
        producedFrom: model.producedFrom,
        producedTo: model.producedTo,
        today,
      })
    : null;
  const windows = serial?.candidates.length
    ? serial.candidates
    : [{ builtFrom: model.producedFrom, builtTo: model.producedTo ?? today, probability: 1 }];
  const ages = windows.map((window) => ({
    from: yearsBetween(window.builtTo, today),
    to: yearsBetween(window.builtFrom, today),
    p: window.probability,
  }));
  const years = ages.reduce((sum, entry) => sum + (entry.p * (entry.from + entry.to)) / 2, 0);
  return {
    years: Math.max(0, years),
    from: Math.max(0, Math.min(...ages.map((entry) => entry.from))),
    to: Math.max(0, ...ages.map((entry) => entry.to)),
    source: serial?.candidates.length ? 'serial' : 'production',
    serial,
  };
}

/** Gross price of each likely cause, weighted: what can be said at the phone in the first minute. */
export function rangeOf(
  ranking: CauseRanking,
  context: OptionContext,
  parts: (cause: Cause) => CauseParts,
): Assessment['quoteRange'] {
  const priced = ranking.causes
    .filter((entry) => entry.causeId !== OTHER_CAUSE)
    .slice(0, OPTION_CAUSES)
    .flatMap((entry) => {
      if (!entry.cause) return [];
      const gross = repairOptions(context, entry.cause, parts(entry.cause), null).quote.options[0]?.gross;
      return gross ? [{ gross: toMajor(gross), p: entry.probability }] : [];
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
}

/** Repair against replace by the economics and lives of the design; null when the catalogue has none. */
export function worthOf(
  catalogue: Catalogue,
  platform: Platform,
  settings: Settings,
  age: Age,
  quote: number,
  causeId: string | null,
): Worth | null {
  const economics = catalogue.economics.find((row) => row.design === platform.design);
  const lives = catalogue.lives.filter((row) => row.design === platform.design);
  if (!economics || lives.length === 0) return null;
  const life = lives.map((row) => ({
    id: row.component,
    name: row.name,
    shape: row.shape,
    scaleYears: row.scaleYears,
    cost: toMajor(row.cost),
    costVariation: row.costVariation,
  }));
  return compareRepairReplace({
    life,
    next: life.map(({ shape, scaleYears, cost, costVariation }) => ({ shape, scaleYears, cost, costVariation })),
    replacePrice: toMajor(economics.newPrice) + toMajor(economics.delivery) + toMajor(economics.disposal),
    usedPrice: toMajor(economics.usedPrice) + toMajor(economics.delivery) + toMajor(economics.disposal),
    disruption: toMajor(settings.disruption),
    rho: settings.rho,
    ageYears: Math.round(age.years * 20) / 20,
    quote,
    mendsComponent: lives.find((row) => row.causeId === causeId)?.component ?? null,
    repairModel: settings.repairModel,
    uncertainty: UNCERTAINTY,
    draws: WORTH_DRAWS,
    seed: 7,
    rules: settings.rules,
  });
}
