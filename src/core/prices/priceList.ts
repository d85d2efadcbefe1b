import { fail, isCurrency, ok, parseMoney, type Money, type Result } from '../units';

/** What a column of a supplier's price list can be. */
export const PRICE_FIELDS = [
  'partNumber',
  'supplierNumber',
  'price',
  'currency',
  'packQuantity',
  'stock',
  'handlingDays',
  'maker',
] as const;
export type PriceField = (typeof PRICE_FIELDS)[number];

/** Which column (by its header) holds what; a field without a column is not in the list. */
export type PriceMapping = { [F in PriceField]?: string | undefined };
/** How this supplier writes: remembered with the mapping. */
export type PriceStyle = { decimalComma: boolean; currency: string };

export type PriceRow = {
  partNumber: string;
  supplierNumber: string;
  /** Of one pack. */
  packPrice: Money;
  packQuantity: number;
  /** Lists count pieces; unknown stock is one pack: the list says that they sell it. */
  stockPacks: number;
  handlingDays: number;
  maker: string;
};

export type PriceProblem = { row: number; field: PriceField; value: string; why: string };

/** Words by which suppliers call their columns, in English, German and French; the first that fits wins. */
const CALLED: Record<PriceField, RegExp> = {
  supplierNumber:
    /(our|supplier|vendor|order|bestell|lieferant|article|artikel|sku).*(n[or°]|number|nummer|code|sku)|^sku$|^(artikel|art)[\s.-]*(nr|no)?$/i,
  partNumber:
    /(part|oem|maker|manufact|herstell|teile|r[ée]f).*(n[or°]|number|nummer|code|f)|^(number|nummer|part|mpn|r[ée]f[ée]rence)$/i,
  price: /price|preis|prix|net+o?\b|^ek$/i,
  currency: /curr|w[äa]hrung|devise/i,
  packQuantity: /pack|unit qty|ve\b|verpackung|colis|moq/i,
  stock: /stock|bestand|lager|available|qty|menge|disponib/i,
  handlingDays: /lead|days|tage|lieferzeit|d[ée]lai|dispatch/i,
  maker: /maker|brand|manufacturer|hersteller|marke|marque|fabricant/i,
};

/** Guesses the columns from their headers. Each column is taken once. */
export function guessMapping(header: readonly string[]): PriceMapping {
  const mapping: PriceMapping = {};
  const taken = new Set<string>();
  for (const field of [
    'supplierNumber',
    'partNumber',
    'price',
    'currency',
    'packQuantity',
    'stock',
    'handlingDays',
    'maker',
  ] as const) {
    const found = header.find((name) => !taken.has(name) && CALLED[field].test(name.trim()));
    if (found === undefined) continue;
    mapping[field] = found;
    taken.add(found);
  }
  return mapping;
}

/** True when amounts look like "1.234,56": a comma with one or two digits behind it at the end, more often than a full stop. */
export function usesDecimalComma(amounts: readonly string[]): boolean {
  const ends = (mark: string) =>
    amounts.filter((text) => new RegExp(`\\${mark}\\d{1,2}\\D*$`).test(text.trim())).length;
  return ends(',') > ends('.');
}

const SYMBOLS: Record<string, string> = { '€': 'EUR', '£': 'GBP', $: 'USD' };

/** "€ 1.234,50", "12.5 EUR", "12,50": an amount with or without its currency. Never through a float. */
export function parseAmount(text: string, style: PriceStyle): Result<Money, string> {
  const plain = text.replace(/[\s\u00a0']/g, '');
  if (/^[=+@]/.test(plain)) return fail('is a formula, not an amount');
  if (!/\d/.test(plain)) return fail('is not an amount');
  const code = /[A-Z]{3}/.exec(plain.toUpperCase())?.[0];
  const symbol = Object.keys(SYMBOLS).find((sign) => plain.includes(sign));
  const currency = code ?? (symbol ? SYMBOLS[symbol] : undefined) ?? style.currency;
  if (!isCurrency(currency)) return fail(`"${currency}" is no currency (ISO 4217)`);
  const digits = plain.replace(/[A-Za-z€£$]/g, '');
  if (!/^-?\d[\d.,]*$/.test(digits)) return fail('is not an amount');
  const [group, point] = style.decimalComma ? ['.', ','] : [',', '.'];
  const parts = digits.split(point);
  if (parts.length > 2) return fail('has more than one decimal mark');
  if (parts[1]?.includes(group))
    return fail(
      `has its thousands mark behind the decimal mark: is the ${style.decimalComma ? 'comma' : 'full stop'} the decimal mark here?`,
    );
  // "1,234" with a decimal comma is one and a bit, "1.234" with it is a thousand and more: groups have three digits.
  const groups = (parts[0] ?? '').split(group);
  if (groups.slice(1).some((digitsOf) => digitsOf.length !== 3) || (groups.length > 1 && groups[0] === '0'))
    return fail(`"${text}" does not fit the decimal mark chosen`);
  const read = parseMoney(`${groups.join('')}${parts[1] !== undefined ? `.${parts[1]}` : ''}`, currency);
  if (!read.ok)
    return fail(
      read.error.kind === 'too-many-decimals'
        ? `has more than ${read.error.allowed} decimal places, finer than ${currency} is: give the price of a pack`
        : 'is not an amount of this currency',
    );
  return read.value.amountMinor < 0 ? fail('is below zero') : ok(read.value);
}

function wholeNumber(text: string, least: number, most: number): number | string {
  if (!/^\d+([.,]0+)?$/.test(text)) return 'is not a whole number';
  const number = Number.parseInt(text, 10);
  return number < least || number > most ? `is not between ${least} and ${most}` : number;
}

/** One row of a list by the user's mapping. `row` counts the header as row 1. */
export function readPriceRow(
  mapping: PriceMapping,
  style: PriceStyle,
  cells: Readonly<Record<string, string>>,
  row: number,
): Result<PriceRow, PriceProblem[]> {
  const cell = (field: PriceField) => (mapping[field] === undefined ? '' : (cells[mapping[field]] ?? '').trim());
  const problems: PriceProblem[] = [];
  const wrong = (field: PriceField, why: string) =>
    void problems.push({ row, field, value: cell(field).slice(0, 80), why });
  for (const field of ['partNumber', 'supplierNumber', 'maker'] as const)
    if (cell(field).length > 80) wrong(field, 'is longer than 80 characters');
  const partNumber = cell('partNumber');
  if (!/[A-Za-z0-9]/.test(partNumber)) wrong('partNumber', 'is empty');
  const amount = parseAmount(cell('price'), { ...style, currency: cell('currency') || style.currency });
  if (cell('price') === '') wrong('price', 'is empty');
  else if (!amount.ok) wrong('price', amount.error);
  const count = (field: 'packQuantity' | 'stock' | 'handlingDays', least: number, most: number, otherwise: number) => {
    if (cell(field) === '') return otherwise;
    const read = wholeNumber(cell(field), least, most);
    if (typeof read === 'number') return read;
    wrong(field, read);
    return otherwise;
  };
  const packQuantity = count('packQuantity', 1, 10_000, 1);
  const pieces = count('stock', 0, 10_000_000, packQuantity);
  const handlingDays = count('handlingDays', 0, 365, 1);
  if (problems.length || !amount.ok) return fail(problems);
  return ok({
    partNumber,
    supplierNumber: cell('supplierNumber') || partNumber,
    packPrice: amount.value,
    packQuantity,
    stockPacks: Math.floor(pieces / packQuantity),
    handlingDays,
    maker: cell('maker'),
  });
}
