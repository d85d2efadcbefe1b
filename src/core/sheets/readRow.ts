import { parseAmount, type PriceStyle } from '../prices';
import { asDay, fail, isDay, ok, type LocalDate, type Money, type Result } from '../units';
import { fieldsOf, KIND_FIELDS, type SheetField, type SheetKind, type SheetMapping } from './kinds';

/** How a list writes what can be read in two ways: said by a person, remembered with the mapping. */
export type SheetStyle = PriceStyle & { dayFirst: boolean };

export type SheetProblem = { row: number; field: SheetField; value: string; why: string };

/** A row as it was read. What a list does not say is null. */
export type SheetRow = {
  row: number;
  texts: Partial<Record<SheetField, string>>;
  from: LocalDate | null;
  to: LocalDate | null;
  numbers: Partial<Record<'capacity' | 'spin' | 'quantity' | 'pack' | 'stock' | 'days', number>>;
  price: Money | null;
};

const LONGEST = 200;
const NUMBERS = ['capacity', 'spin', 'quantity', 'pack', 'stock', 'days'] as const;
const BOUNDS: Record<(typeof NUMBERS)[number], { least: number; most: number; whole: boolean }> = {
  capacity: { least: 0.5, most: 60, whole: false },
  spin: { least: 0, most: 3000, whole: true },
  quantity: { least: 1, most: 200, whole: true },
  pack: { least: 1, most: 10_000, whole: true },
  stock: { least: 0, most: 1_000_000, whole: true },
  days: { least: 0, most: 365, whole: true },
};
const NUMBERED: readonly SheetField[] = ['model', 'part', 'newPart'];

const KG_IN_A_POUND = 0.45359237;

/** "7", "7,5 kg", "15 lb", "1.400": a figure with or without its unit. A unit that is no weight is said to be none. */
function figure(text: string, { decimalComma }: SheetStyle, field: (typeof NUMBERS)[number]): number | string {
  const plain = text.replace(/[^\d.,-]/g, '');
  const digits = decimalComma ? plain.replace(/\./g, '').replace(',', '.') : plain.replace(/,/g, '');
  const isPounds = field === 'capacity' && /\b(lbs?|pounds?)\b/i.test(text);
  if (field === 'capacity' && /cu|ft|litre|liter|\bl\b/i.test(text)) return 'is no weight: a load is in kg or lb';
  const value = isPounds ? Math.round(Number(digits) * KG_IN_A_POUND * 10) / 10 : Number(digits);
  if (plain === '' || !Number.isFinite(value)) return 'is not a number';
  const { least, most, whole } = BOUNDS[field];
  if (whole && !Number.isInteger(value)) return 'is not a whole number';
  return value < least || value > most ? `is not between ${least} and ${most}` : value;
}

const two = (text: string) => text.padStart(2, '0');

/** A year, "2014-03", "31.03.2014", "03/31/2014": a date in the order that was said; `end`: the last day of what is named. */
export function readDate(text: string, dayFirst: boolean, end: boolean): LocalDate | null {
  const year = /^(\d{4})$/.exec(text);
  if (year) return asDay(`${year[1]}-${end ? '12-31' : '01-01'}`);
  const month = /^(\d{4})[-/.](\d{1,2})$/.exec(text);
  const day = month ? `${month[1]}-${two(month[2] ?? '')}-${end ? '28' : '01'}` : null;
  if (day) return isDay(day) ? day : null;
  const iso = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})/.exec(text);
  const mixed = /^(\d{1,2})[-/. ]+(\d{1,2})[-/. ]+(\d{4})$/.exec(text);
  const whole = iso
    ? `${iso[1]}-${two(iso[2] ?? '')}-${two(iso[3] ?? '')}`
    : mixed
      ? `${mixed[3]}-${two((dayFirst ? mixed[2] : mixed[1]) ?? '')}-${two((dayFirst ? mixed[1] : mixed[2]) ?? '')}`
      : '';
  return isDay(whole) ? whole : null;
}

/** One row by the person's mapping: read, or what is wrong with it. `row` counts the header as row 1. O(columns). */
export function readSheetRow(
  kind: SheetKind,
  mapping: SheetMapping,
  style: SheetStyle,
  cells: Readonly<Record<string, string>>,
  row: number,
): Result<SheetRow, SheetProblem[]> {
  const problems: SheetProblem[] = [];
  const cell = (field: SheetField) => (mapping[field] === undefined ? '' : (cells[mapping[field]] ?? '').trim());
  const wrong = (field: SheetField, why: string) =>
    void problems.push({ row, field, value: cell(field).slice(0, 80), why });
  const read: SheetRow = { row, texts: {}, from: null, to: null, numbers: {}, price: null };
  for (const field of fieldsOf(kind)) {
    const text = cell(field);
    if (text === '') {
      if (KIND_FIELDS[kind].needs.includes(field)) wrong(field, 'is empty');
      continue;
    }
    if (text.length > LONGEST) wrong(field, `is longer than ${LONGEST} characters`);
    else if (NUMBERED.includes(field) && !/[A-Za-z0-9]/.test(text))
      wrong(field, 'is no number: it has neither letter nor digit');
    else if (field === 'from' || field === 'to') {
      const day = readDate(text, style.dayFirst, field === 'to');
      if (day) read[field] = day;
      else wrong(field, 'is no year and no date in the order chosen');
    } else if (field === 'price') {
      const amount = parseAmount(text, style);
      if (amount.ok) read.price = amount.value;
      else wrong(field, amount.error);
    } else if (isFigure(field)) {
      const value = figure(text, style, field);
      if (typeof value === 'number') read.numbers[field] = value;
      else wrong(field, value);
    } else read.texts[field] = text;
  }
  if (read.from && read.to && read.to < read.from) wrong('to', 'is before the beginning');
  return problems.length ? fail(problems) : ok(read);
}

const isFigure = (field: SheetField): field is (typeof NUMBERS)[number] => NUMBERS.some((name) => name === field);

/** What of a column can be read in two ways: nothing is guessed there, a person says. */
export type Ambiguity = { marks: boolean; dates: boolean };

/** Looks at sample rows: figures like "1,234" (a thousand, or one and a bit), dates like 03/04/2019. O(rows). */
export function ambiguityOf(mapping: SheetMapping, rows: readonly Readonly<Record<string, string>>[]): Ambiguity {
  const texts = (fields: readonly SheetField[]) =>
    fields.flatMap((field) => {
      const column = mapping[field];
      return column === undefined ? [] : rows.map((row) => (row[column] ?? '').trim()).filter(Boolean);
    });
  const figures = texts(['price', 'capacity']);
  const decided = figures.some((text) => /[.,]\d{1,2}\D*$/.test(text) || /\d[.,]\d{3}[.,]\d/.test(text));
  const dates = texts(['from', 'to']).flatMap((text) => /^(\d{1,2})[-/. ]+(\d{1,2})[-/. ]+\d{4}$/.exec(text) ?? []);
  return {
    marks: !decided && figures.some((text) => /^\D*\d{1,3}[.,]\d{3}\D*$/.test(text)),
    dates: dates.length > 0 && !texts(['from', 'to']).some((text) => dayOver12(text)),
  };
}

const dayOver12 = (text: string): boolean => {
  const parts = /^(\d{1,2})[-/. ]+(\d{1,2})[-/. ]+\d{4}$/.exec(text);
  return parts !== null && (Number(parts[1]) > 12 || Number(parts[2]) > 12);
};

/** The order of a date column that decides itself: a number over 12 is the day. Day first where nothing says otherwise. */
export function isDayFirst(mapping: SheetMapping, rows: readonly Readonly<Record<string, string>>[]): boolean {
  const columns = [mapping.from, mapping.to].filter((name) => name !== undefined);
  return !rows.some((row) =>
    columns.some((name) => {
      const parts = /^(\d{1,2})[-/. ]+(\d{1,2})[-/. ]+\d{4}$/.exec((row[name] ?? '').trim());
      return parts !== null && Number(parts[2]) > 12;
    }),
  );
}
