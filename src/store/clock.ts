import { instantOf, type Instant } from '@/core/units';

/** The interface's one clock. Browser tests fix it by fixing the page's Date. */
export const now = (): Instant => instantOf(new Date());
