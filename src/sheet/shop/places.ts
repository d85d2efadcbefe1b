import { currencyCodes } from '@/core/units';

type Option = { value: string; text: string };

/** The zone that the device is set to: where the shop most likely is. */
export const deviceZone = (): string => Intl.DateTimeFormat('en-GB').resolvedOptions().timeZone;

/** Every zone that the browser knows, and the one that is set. */
export function zoneOptions(current: string): Option[] {
  const zones = new Set([...Intl.supportedValuesOf('timeZone'), 'UTC', current]);
  return [...zones].sort().map((value) => ({ value, text: value.replaceAll('_', ' ') }));
}

const names = new Intl.DisplayNames('en-GB', { type: 'currency' });

/** Currencies by their ISO 4217 codes, with their names. */
export const currencyOptions = (): Option[] =>
  currencyCodes().map((value) => {
    const name = names.of(value);
    return { value, text: name && name !== value ? `${value}, ${name}` : value };
  });
