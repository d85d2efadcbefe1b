import { isDay, isInstant, type Instant, type LocalDate } from './dates';
import * as z from './zod';

/** Parsers for the shared values, used wherever stored or foreign data comes in. */
export const moneySchema = z.object({ amountMinor: z.number().int(), currency: z.string().length(3) });
export const localDateSchema = z.custom<LocalDate>(
  (value) => typeof value === 'string' && isDay(value),
  'is not a day like 2019-03-31',
);
export const instantSchema = z.custom<Instant>(
  (value) => typeof value === 'string' && isInstant(value),
  'is not a time like 2019-03-31T08:30:00.000Z',
);
