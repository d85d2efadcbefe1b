export type Wanted = {
  answered: readonly string[];
  /** What would tell most, as of the last assessment: it may still name what has been answered since. */
  telling: readonly string[];
  /** What the machine's lore knows: read again as another machine, it may know nothing of what was kept. */
  known: ReadonlySet<string>;
};

/** Not more than the eye takes in. */
const OPEN_AT_MOST = 7;

/**
 * Findings to show, each once: what has a place keeps it, so that nothing moves under a finger; then what is answered and has none; then what would tell most, while
 * few stand open.
 */
export function keepPlaces(kept: readonly string[], { answered, telling, known }: Wanted): readonly string[] {
  const more = [...new Set([...answered, ...telling])].filter((id) => !kept.includes(id));
  const open = kept.filter((id) => !answered.includes(id) && known.has(id)).length;
  const room = more.filter((id) => !answered.includes(id)).slice(0, Math.max(0, OPEN_AT_MOST - open));
  return [...kept, ...more.filter((id) => answered.includes(id)), ...room];
}
