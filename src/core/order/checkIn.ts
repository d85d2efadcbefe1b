import type { Catalogue } from '../catalogue';
import { normaliseNumber } from '../identify';
import { crossReference } from '../fit';

export type CheckInVerdict = {
  verdict: 'as-ordered' | 'newer-number' | 'same-by-reference' | 'wrong';
  partId: string | null;
  reason: 'number-equals' | 'supersession' | 'cross-reference' | 'unknown-number' | 'other-part';
};

/**
 * Is what arrived what was ordered? Compares the number on the parcel with the ordered one, aware of supersession and of equal numbers.
 * O(component).
 */
export function checkIn(
  catalogue: Pick<Catalogue, 'parts' | 'relations'>,
  orderedPartId: string,
  orderedNumber: string,
  numberRead: string,
): CheckInVerdict {
  const read = normaliseNumber(numberRead);
  if (read === normaliseNumber(orderedNumber))
    return { verdict: 'as-ordered', partId: orderedPartId, reason: 'number-equals' };
  const reference = crossReference(catalogue, orderedPartId);
  const found = reference.parts.find((part) => normaliseNumber(part.partNumber) === read);
  if (!found)
    return {
      verdict: 'wrong',
      partId: null,
      reason: catalogue.parts.some((part) => normaliseNumber(part.partNumber) === read)
        ? 'other-part'
        : 'unknown-number',
    };
  const newer = reference.soldToday?.parts.some((entry) => entry.partId === found.id) ?? false;
  const onTheWay = reference.soldToday?.via.some((relation) => relation.toPartId === found.id) ?? false;
  if (newer || onTheWay) return { verdict: 'newer-number', partId: found.id, reason: 'supersession' };
  const equal = reference.relations.some(
    (relation) =>
      (relation.kind === 'interchangeable' || relation.kind === 'sister') &&
      [relation.fromPartId, relation.toPartId].includes(found.id) &&
      [relation.fromPartId, relation.toPartId].includes(orderedPartId),
  );
  return equal
    ? { verdict: 'same-by-reference', partId: found.id, reason: 'cross-reference' }
    : { verdict: 'wrong', partId: found.id, reason: 'other-part' };
}
