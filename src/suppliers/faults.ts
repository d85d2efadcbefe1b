import * as z from '@/core/units/zod';

/** What can go wrong with a simulated supplier; named in the header `x-sorter-fault`. */
export const faultSchema = z.enum([
  'none',
  'slow',
  'down',
  'lost-answer',
  'nonsense',
  'substitute',
  'back-order',
  'reject',
  'refuse',
]);
export type Fault = z.infer<typeof faultSchema>;

export const SLOW_MS = 8000;

export const faultOf = (header: string | null): Fault => faultSchema.catch('none').parse(header ?? 'none');
