import type { Knowledge, RootCause } from '../catalogue';
import type { CauseId } from '../units';

/** Why a cause came about: one of its root causes, or nothing that anybody listed (root null). */
export type RankedRoot = { root: RootCause | null; probability: number };

/** Without a look at the wreck, the reason stays unknown this often. */
const UNKNOWN = 0.15;

/**
 * The root causes of a cause by how often they are so, or by what the dead part shows: a sign says how surely it tells one, and leaves the rest as it was. Likeliest
 * first; sums to one with 'not known' (root null). Empty where the knowledge names no root. O(roots of the cause).
 */
export function whyItFailed(
  { rootCauses, wreckSigns }: Pick<Knowledge, 'rootCauses' | 'wreckSigns'>,
  causeId: CauseId,
  signId: string | null,
): RankedRoot[] {
  const roots = rootCauses.filter((root) => root.causeId === causeId);
  if (roots.length === 0) return [];
  const total = roots.reduce((sum, { weight }) => sum + weight, 0);
  const usual: RankedRoot[] = [
    ...roots.map((root) => ({ root, probability: total > 0 ? ((1 - UNKNOWN) * root.weight) / total : 0 })),
    { root: null, probability: total > 0 ? UNKNOWN : 1 },
  ];
  const sign = wreckSigns.find(({ id }) => id === signId);
  const told = sign && usual.find(({ root }) => root?.id === sign.rootId);
  const rest = 1 - (told?.probability ?? 0);
  const after =
    sign && told
      ? usual.map((entry) => ({
          ...entry,
          probability: entry === told ? sign.surely : rest > 0 ? ((1 - sign.surely) * entry.probability) / rest : 0,
        }))
      : usual;
  return after.sort((a, b) => b.probability - a.probability);
}

/** Enough to act on it: to look for what raised it, to prove that it is gone, to tell the customer. */
export const TOLD_FROM = 0.5;
export const toldRoot = (roots: readonly RankedRoot[]): RootCause | null =>
  roots.find(({ root, probability }) => root && probability >= TOLD_FROM)?.root ?? null;
