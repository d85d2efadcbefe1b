import type { Settings } from '@/core/case';
import { formatMoney, formatPercent, formatYears } from './format';

const share = (basisPoints: number) => formatPercent(basisPoints / 10_000);

/** A figure of the shop as it is named under what was counted with it; null for what is no figure. */
const FIGURES: Partial<Record<keyof Settings, (settings: Settings) => string>> = {
  labourPerHour: (settings) => `labour ${formatMoney(settings.labourPerHour)} an hour`,
  inspectionFee: (settings) => `inspection fee ${formatMoney(settings.inspectionFee)}`,
  taxBasisPoints: (settings) => `tax ${share(settings.taxBasisPoints)}`,
  partsMarkupBasisPoints: (settings) => `${share(settings.partsMarkupBasisPoints)} on top of parts`,
  reserveBasisPoints: (settings) => `at most ${share(settings.reserveBasisPoints)} of the labour put aside`,
  warrantyMonths: (settings) => `${settings.warrantyMonths} months of warranty`,
  latePerDay: (settings) => `${formatMoney(settings.latePerDay)} for each day of waiting`,
  promiseDays: (settings) => `ready ${settings.promiseDays} days after the yes`,
  disruption: (settings) => `${formatMoney(settings.disruption)} for each later failure`,
  rho: (settings) => `interest ${formatPercent(settings.rho)} a year`,
  rules: ({ rules }) =>
    `the house rules (${formatPercent(rules.shareOfNew)} of a new one, ${formatYears(rules.maxAgeYears)})`,
};

/** Those of the fields that are figures, in words. */
export const figureWords = (settings: Settings, fields: readonly (keyof Settings)[]): string[] =>
  fields.flatMap((field) => FIGURES[field]?.(settings) ?? []);
