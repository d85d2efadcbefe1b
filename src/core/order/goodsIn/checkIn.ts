import { asId, unique, type PartId } from '../../units';
import type { Catalogue, Relation } from '../../catalogue';
import { normaliseNumber, numbersIn, readPartNumber, type NumberDifference } from '../../identify';
import { crossReference, shareWithin, type BuildWindow, type CrossReference } from '../../fit';

export type CheckInVerdict = {
  verdict: 'as-ordered' | 'newer-number' | 'same-by-reference' | 'wrong';
  partId: PartId | null;
  reason:
    | 'number-equals'
    | 'supersession'
    /** The newer number holds for some of the build dates that are possible. */
    | 'supersession-open'
    /** The newer number is for machines built at another time. */
    | 'other-build-date'
    | 'cross-reference'
    | 'unknown-number'
    | 'other-part';
  /** For a wrong number that is hardly another one: the fine number it may be a misreading of, and where to look again. */
  misread: { partNumber: string; differences: NumberDifference[]; probability: number } | null;
};

/** P(none of the fine numbers is on a parcel that came for this line), before it is read. */
const WRONG_PARCEL = 0.1;
/** Another look costs nothing beside sending a right part back. */
const WORTH_A_LOOK = 0.05;

/**
 * Is what arrived what was ordered? Compares the number on the parcel, or somewhere in the text of its label, with the ordered one, aware of supersession and of equal numbers. `machines`: when each machine
 * that the part is for may have been built; a successor that holds for none of these dates on one of them is another part. O(component).
 */
export function checkIn(
  catalogue: Pick<Catalogue, 'parts' | 'relations'>,
  orderedPartId: PartId,
  orderedNumber: string,
  numberRead: string,
  machines: readonly (readonly BuildWindow[])[] = [],
): CheckInVerdict {
  const reference = crossReference(catalogue, orderedPartId);
  const read = numberOnLabel(numberRead, [orderedNumber, ...reference.parts.map(({ partNumber }) => partNumber)]);
  if (read === normaliseNumber(orderedNumber))
    return { verdict: 'as-ordered', partId: orderedPartId, reason: 'number-equals', misread: null };
  const found = reference.parts.find((part) => normaliseNumber(part.partNumber) === read);
  if (!found)
    return {
      verdict: 'wrong',
      partId: null,
      reason: catalogue.parts.some((part) => normaliseNumber(part.partNumber) === read)
        ? 'other-part'
        : 'unknown-number',
      misread: misreadOf([orderedNumber, ...fineNumbers(reference)], numberRead),
    };
  const chain = reference.relations.filter(({ kind }) => kind === 'superseded-by');
  const share = shareOfChain(chain, orderedPartId, found.id, machines);
  const newer = reference.soldToday?.parts.some((entry) => entry.partId === found.id) ?? false;
  const onTheWay = reference.soldToday?.via.some((relation) => relation.toPartId === found.id) ?? false;
  if (share !== null && share <= 0)
    return { verdict: 'wrong', partId: found.id, reason: 'other-build-date', misread: null };
  if (newer || onTheWay || share !== null)
    return {
      verdict: 'newer-number',
      partId: found.id,
      reason: share !== null && share < 0.999 ? 'supersession-open' : 'supersession',
      misread: null,
    };
  const equal = reference.relations.some(
    (relation) =>
      (relation.kind === 'interchangeable' || relation.kind === 'sister') &&
      [relation.fromPartId, relation.toPartId].includes(found.id) &&
      [relation.fromPartId, relation.toPartId].includes(orderedPartId),
  );
  return equal
    ? { verdict: 'same-by-reference', partId: found.id, reason: 'cross-reference', misread: null }
    : { verdict: 'wrong', partId: found.id, reason: 'other-part', misread: misreadOf([orderedNumber], numberRead) };
}

/**
 * The least share, over the machines, of build dates for which the supersessions from one number lead to another; null when they do not lead there.
 * The surest of several chains counts.
 */
function shareOfChain(
  chain: readonly Relation[],
  from: string,
  to: string,
  machines: readonly (readonly BuildWindow[])[],
  seen: readonly string[] = [],
): number | null {
  if (from === to) return 1;
  if (seen.includes(from)) return null;
  const shares = chain
    .filter(({ fromPartId }) => fromPartId === from)
    .flatMap((relation) => {
      const rest = shareOfChain(chain, relation.toPartId, to, machines, [...seen, from]);
      return rest === null ? [] : [Math.min(rest, 1, ...machines.map((windows) => shareWithin(windows, relation)))];
    });
  return shares.length ? Math.max(...shares) : null;
}

const fineNumbers = ({ parts, soldToday }: CrossReference): string[] =>
  parts.filter(({ id }) => soldToday?.parts.some(({ partId }) => partId === id)).map(({ partNumber }) => partNumber);

/** The one of these numbers that stands on a label; the whole text where none does, or several ("A replaces B"). Normalised. */
function numberOnLabel(text: string, numbers: readonly string[]): string {
  const whole = normaliseNumber(text);
  const stretches = new Set([whole, ...numbersIn(text)]);
  const standing = unique(numbers.map(normaliseNumber)).filter((number) => stretches.has(number));
  return standing.length === 1 ? (standing[0] ?? whole) : whole;
}

/** The number that this one is most likely a misreading of, where that is worth another look. */
function misreadOf(numbers: readonly string[], text: string): CheckInVerdict['misread'] {
  const different = unique(numbers);
  const [lead] = readPartNumber(
    {
      expected: different.map((partNumber) => ({
        partId: asId(partNumber),
        partNumber,
        prior: (1 - WRONG_PARCEL) / different.length,
      })),
      unlisted: WRONG_PARCEL,
    },
    text,
  ).candidates;
  if (!lead || lead.probability < WORTH_A_LOOK || lead.differences.length === 0) return null;
  const { partNumber, differences, probability } = lead;
  return { partNumber, differences, probability };
}
