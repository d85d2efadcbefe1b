import type { Catalogue, Part, Relation } from '../catalogue';
import { groupBy, indexOnce, type PartId } from '../units';

export type CrossReferenceProblem =
  | { kind: 'circle'; partIds: PartId[] }
  | { kind: 'dead-end'; partId: PartId }
  | { kind: 'missing-part'; partId: PartId }
  | { kind: 'sources-disagree'; partId: PartId; successors: string[] };

/** One way to buy what a part was: all of `parts` together (a split gives two). */
export type SoldToday = { parts: { partId: PartId; quantity: number }[]; via: Relation[] };

export type CrossReference = {
  partId: PartId;
  parts: Part[];
  relations: Relation[];
  soldToday: SoldToday | null;
  problems: CrossReferenceProblem[];
};

const partsById = indexOnce((part: Part) => part.id);
const byFrom = indexOnce((relation: Relation) => relation.fromPartId);
const byTo = indexOnce((relation: Relation) => relation.toPartId);

/**
 * Everything that is connected with a part number, and what is sold in its place today. Walks supersessions to their ends; a circle, a dead end or
 * a missing part is a problem, never followed. `holds`: whether a supersession counts for the machine at hand (those from a serial on do not for older
 * ones). O(parts + relations) of the component.
 */
export function crossReference(
  catalogue: Pick<Catalogue, 'parts' | 'relations'>,
  partId: PartId,
  holds: (relation: Relation) => boolean = () => true,
): CrossReference {
  const index = partsById(catalogue.parts);
  const parts = { has: (id: PartId) => index.has(id), get: (id: PartId) => index.get(id)?.[0] };
  const [from, to] = [byFrom(catalogue.relations), byTo(catalogue.relations)];
  const touching = (id: PartId) => [...(from.get(id) ?? []), ...(to.get(id) ?? [])];
  const seen = new Set<PartId>([partId]);
  const queue = [partId];
  const relations = new Set<Relation>();
  for (let next = queue.pop(); next !== undefined; next = queue.pop()) {
    for (const relation of touching(next)) {
      relations.add(relation);
      for (const id of [relation.fromPartId, relation.toPartId])
        if (!seen.has(id)) {
          seen.add(id);
          queue.push(id);
        }
    }
  }
  const problems: CrossReferenceProblem[] = [];
  for (const id of seen) if (!parts.has(id)) problems.push({ kind: 'missing-part', partId: id });
  const successors = groupBy(
    [...relations].filter((relation) => relation.kind === 'superseded-by' && holds(relation)),
    (relation) => relation.fromPartId,
  );
  for (const [from, list] of successors) {
    const bySource = groupBy(list, (relation) => relation.source);
    if (bySource.size > 1)
      problems.push({ kind: 'sources-disagree', partId: from, successors: list.map((relation) => relation.toPartId) });
  }
  const soldToday = resolve(partId, parts, successors, [], problems);
  return {
    partId,
    parts: [...seen].flatMap((id) => parts.get(id) ?? []),
    relations: [...relations],
    soldToday,
    problems,
  };
}

function resolve(
  partId: PartId,
  parts: { get: (id: PartId) => Part | undefined },
  successors: ReadonlyMap<PartId, Relation[]>,
  path: readonly PartId[],
  problems: CrossReferenceProblem[],
): SoldToday | null {
  if (path.includes(partId)) {
    problems.push({ kind: 'circle', partIds: [...path.slice(path.indexOf(partId)), partId] });
    return null;
  }
  const next = successors.get(partId) ?? [];
  const part = parts.get(partId);
  if (next.length === 0) {
    if (!part) return null;
    if (part.status === 'discontinued') {
      problems.push({ kind: 'dead-end', partId });
      return null;
    }
    return { parts: [{ partId, quantity: 1 }], via: [] };
  }
  // One source's word is taken whole: several rows of one source are a split into several parts.
  const first = next[0];
  const together = next.filter((relation) => relation.source === first?.source);
  const resolved = together.map((relation) => ({
    relation,
    sold: resolve(relation.toPartId, parts, successors, [...path, partId], problems),
  }));
  if (resolved.some(({ sold }) => sold === null)) return null;
  return {
    parts: resolved.flatMap(({ relation, sold }) =>
      (sold?.parts ?? []).map((entry) => ({ ...entry, quantity: entry.quantity * relation.quantity })),
    ),
    via: resolved.flatMap(({ relation, sold }) => [relation, ...(sold?.via ?? [])]),
  };
}
