import { z } from './zod';

/** Parsers for the shared values, used wherever stored or foreign data comes in. */
export const moneySchema = z.object({ amountMinor: z.number().int(), currency: z.string().length(3) });
export const localDateSchema = z.string().regex(/^\d{4}-\d{2}-\d{2}$/);
export const instantSchema = z.iso.datetime();
