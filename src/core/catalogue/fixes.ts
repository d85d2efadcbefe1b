import type { Knowledge } from './knowledge';
import type { Cause, Fix } from './tables';

/** `sets`: how much of what the lists give is bought; all of it where it is missing. */
export type Mended = Cause & { sets?: number };

/** One way of mending a cause. `cause`: the cause as this way sees it, with the part, the work and the odds of the way. */
export type Way = {
  /** null: the way that the cause's own row names. */
  fixId: string | null;
  kind: Fix['kind'];
  /** What is added to the cause's name; null for its own way. */
  name: string | null;
  cause: Mended;
  /** How long it lasts, as a share of a new part's life. */
  lifeShare: number;
};

/** The cause's own way is always among them, and first. */
export type Ways = readonly [Way, ...Way[]];

const made = new WeakMap<Knowledge, Map<string, Ways>>();

/** All ways of mending a cause, its own first, as the knowledge has them; the same objects each time. O(fixes). */
export function waysToMend(knowledge: Knowledge, cause: Cause): Ways {
  const known = made.get(knowledge) ?? new Map<string, Ways>();
  made.set(knowledge, known);
  const before = known.get(cause.id);
  if (before) return before;
  const own: Way = {
    fixId: null,
    kind: cause.roleId === undefined ? 'no-part' : 'replace',
    name: null,
    cause,
    lifeShare: 1,
  };
  const others = knowledge.fixes
    .filter(({ causeId }) => causeId === cause.id)
    .map(({ id, kind, name, roleId, position, operations, companions, cure, lifeShare, sets = 1 }): Way => ({
      fixId: id,
      kind,
      name,
      lifeShare,
      cause: { ...cause, roleId, position, operations, companions, cure, ...(sets < 1 ? { sets } : {}) },
    }));
  const ways: Ways = [own, ...others];
  known.set(cause.id, ways);
  return ways;
}

/** One of them by its id; its own where it is not among them. */
export function wayBy(knowledge: Knowledge, cause: Cause, fixId: string | null): Way {
  const ways = waysToMend(knowledge, cause);
  return ways.find((way) => way.fixId === fixId) ?? ways[0];
}
