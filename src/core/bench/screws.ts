/** Screws of one kind out of holes of one kind. `hole`: where, or '' where it is not said. */
export type Screws = { count: number; what: string; hole: string };

/** "4 x M5x16 hex, rear edge" read as four of a kind and their holes; what is written otherwise is one piece of that name. */
export function screwsOf(text: string): Screws {
  const [, count, what, hole] = /^(\d{1,3})\s*x\s+([^,]+)(?:,\s*(.+))?$/.exec(text.trim()) ?? [];
  return count !== undefined && what !== undefined
    ? { count: Number(count), what: what.trim(), hole: hole?.trim() ?? '' }
    : { count: 1, what: text.trim(), hole: '' };
}
