import { asId, isDay, parseMoney, type Branded, type Money } from '../units';
import * as z from '../units/zod';

/** Column types of the data package. Each is a parser from the cell's text and carries its Table Schema type as metadata. */
const issue = (message: string) => ({ code: 'custom' as const, message, input: undefined });

export const text = () =>
  z
    .string()
    .trim()
    .min(1, 'is empty')
    .max(2000, 'is longer than 2,000 characters')
    .meta({ type: 'string', required: true });

/** A number of a model or part: without a letter A to Z or a digit nobody could look it up. */
export const partNumber = () =>
  text().refine((value) => /[A-Za-z0-9]/.test(value.normalize('NFKD')), 'has no letter A to Z and no digit');

/** As long as an event may hold: a row that is imported can be decided on. */
const LONGEST_ID = 200;
const tooLong = `is longer than ${LONGEST_ID} characters`;

/** The id of a row, its own or another's. `Id`: of what. */
export const id = <Id extends Branded<string>>() =>
  z
    .string()
    .trim()
    .min(1, 'is empty')
    .max(LONGEST_ID, tooLong)
    .transform((value) => asId<Id>(value))
    .meta({ type: 'string', required: true });

export const maybeId = <Id extends Branded<string>>() =>
  z
    .string()
    .trim()
    .max(LONGEST_ID, tooLong)
    .transform((value) => (value === '' ? undefined : asId<Id>(value)))
    .meta({ type: 'string' });

/** Empty cells read as undefined. */
export const maybeText = () =>
  z
    .string()
    .trim()
    .max(2000, 'is longer than 2,000 characters')
    .transform((value) => (value === '' ? undefined : value))
    .meta({ type: 'string' });

type Bounds = { min?: number; max?: number; whole?: boolean };

const toNumber = (value: string, bounds: Bounds): number | string => {
  const number = Number(value);
  if (value === '' || !Number.isFinite(number)) return `"${value.slice(0, 40)}" is not a number`;
  if (bounds.whole && !Number.isInteger(number)) return `${value} is not a whole number`;
  if (bounds.min !== undefined && number < bounds.min) return `${value} is below ${bounds.min}`;
  if (bounds.max !== undefined && number > bounds.max) return `${value} is above ${bounds.max}`;
  return number;
};

export const number = (bounds: Bounds = {}) =>
  z
    .string()
    .trim()
    .transform((value, context) => {
      const read = toNumber(value, bounds);
      if (typeof read === 'number') return read;
      context.issues.push({ ...issue(read) });
      return z.NEVER;
    })
    .meta({ type: bounds.whole ? 'integer' : 'number', required: true });

export const maybeNumber = (bounds: Bounds = {}) =>
  z
    .string()
    .trim()
    .transform((value, context) => {
      if (value === '') return undefined;
      const read = toNumber(value, bounds);
      if (typeof read === 'number') return read;
      context.issues.push({ ...issue(read) });
      return z.NEVER;
    })
    .meta({ type: bounds.whole ? 'integer' : 'number' });

export const share = () => number({ min: 0, max: 1 });

export const choice = <const T extends readonly [string, ...string[]]>(options: T) =>
  z
    .enum(options, { error: (found) => `"${String(found.input).slice(0, 40)}" is none of: ${options.join(', ')}` })
    .meta({ type: 'string', required: true, options });

/** One of the words, or nothing. */
export const maybeChoice = <const T extends readonly [string, ...string[]]>(options: T) =>
  z
    .string()
    .trim()
    .transform((value, context): T[number] | undefined => {
      if (value === '') return undefined;
      const found = options.find((option) => option === value);
      if (found !== undefined) return found;
      context.issues.push({ ...issue(`"${value.slice(0, 40)}" is none of: ${options.join(', ')}`) });
      return z.NEVER;
    })
    .meta({ type: 'string' });

/** Words separated by spaces; empty reads as []. */
export const list = () =>
  z
    .string()
    .transform((value) => value.split(/\s+/).filter(Boolean))
    .meta({ type: 'string' });

/** As `list`, of ids of one kind. */
export const ids = <Id extends Branded<string>>() =>
  z
    .string()
    .transform((value, context) =>
      value
        .split(/\s+/)
        .filter(Boolean)
        .map((entry) => {
          if (entry.length <= LONGEST_ID) return asId<Id>(entry);
          context.issues.push({ ...issue(`"${entry.slice(0, 40)}…" ${tooLong}`) });
          return z.NEVER;
        }),
    )
    .meta({ type: 'string' });

/** Sentences separated by " | ". */
export const sentences = () =>
  z
    .string()
    .transform((value) =>
      value
        .split('|')
        .map((sentence) => sentence.trim())
        .filter(Boolean),
    )
    .meta({ type: 'string', separator: ' | ' });

/** "belt:1 clamp:2": ids with quantities, separated by spaces. */
export const quantities = <Id extends Branded<string>>() => pieces<Id, never>([]);

/** "belt:1 damper@rear:1": ids with quantities, each at a place where one is named. */
export const pieces = <Id extends Branded<string>, Place extends string>(places: readonly Place[]) =>
  z
    .string()
    .transform((value, context) =>
      value
        .split(/\s+/)
        .filter(Boolean)
        .map((entry): { id: Id; quantity: number; position?: Place } => {
          const [, named = '', at, quantity = '1'] = PIECES.exec(entry) ?? [];
          const position = places.find((place) => place === at);
          if (!named || named.length > LONGEST_ID || (at !== undefined && position === undefined)) {
            context.issues.push({ ...issue(`"${entry.slice(0, 40)}" is not id:quantity`) });
            return z.NEVER;
          }
          return { id: asId<Id>(named), quantity: Number(quantity), ...(position ? { position } : {}) };
        }),
    )
    .meta({ type: 'string' });

const PIECES = /^([^:@]+)(?:@([a-z]+))?(?::(\d+))?$/;

/** "a b|c": needs a, and one of b or c. Reads as [[a], [b, c]]. */
export const needs = () =>
  z
    .string()
    .transform((value) =>
      value
        .split(/\s+/)
        .filter(Boolean)
        .map((group) => group.split('|').filter(Boolean)),
    )
    .meta({ type: 'string' });

export const day = () =>
  z
    .string()
    .trim()
    .transform((value, context) => {
      if (isDay(value)) return value;
      context.issues.push({ ...issue('is not a date like 2019-03-31') });
      return z.NEVER;
    })
    .meta({ type: 'date', required: true });

export const maybeDay = () =>
  z
    .string()
    .trim()
    .transform((value, context) => {
      if (value === '') return undefined;
      if (isDay(value)) return value;
      context.issues.push({ ...issue(`"${value.slice(0, 40)}" is not a date like 2019-03-31`) });
      return z.NEVER;
    })
    .meta({ type: 'date' });

/** "12.50 EUR". */
export const price = () =>
  z
    .string()
    .transform((value, context): Money => {
      const [amount = '', currency = ''] = value.trim().split(/\s+/);
      const read = parseMoney(amount, currency);
      if (read.ok && read.value.amountMinor >= 0) return read.value;
      context.issues.push({ ...issue(`"${value.slice(0, 40)}" is not a price like 12.50 EUR`) });
      return z.NEVER;
    })
    .meta({ type: 'string', required: true });

export const maybePrice = () =>
  z
    .string()
    .transform((value, context): Money | undefined => {
      if (value.trim() === '') return undefined;
      const read = price().safeParse(value);
      if (read.success) return read.data;
      context.issues.push({ ...issue(read.error.issues[0]?.message ?? 'is not a price') });
      return z.NEVER;
    })
    .meta({ type: 'string' });

/** A column that came after the first packages: rows of an older edition do not have it. */
export const later = <T extends z.ZodType>(column: T): z.ZodOptional<T> => column.optional().meta(column.meta() ?? {});
