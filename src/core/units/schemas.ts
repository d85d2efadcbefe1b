import { isDay } from './dates';
import * as z from './zod';

/** Parsers for the shared values, used wherever stored or foreign data comes in. */
export const moneySchema = z.object({ amountMinor: z.number().int(), currency: z.string().length(3) });
export const localDateSchema = z.string().refine(isDay, 'is not a day like 2019-03-31');
export const instantSchema = z.iso.datetime();
