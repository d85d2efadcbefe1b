import type { LocalDate, ModelId, PartId, PlatformId } from '@/core/units';
import {
  LIKELY,
  type CrossReferenceProblem,
  type DimensionVerdict,
  type FitReason,
  type FitRoute,
  type FitVerdict,
  type OldNumber,
} from '@/core/fit';
import { formatPercent, plural } from './format';
import { differenceWords } from './numbers';

export const ROUTE_WORDS: Record<FitRoute | 'shelf' | 'donor', string> = {
  typed: 'typed here',
  maker: 'maker’s part',
  sister: 'same part, sister number',
  generic: 'generic',
  kit: 'kit',
  shelf: 'from the shelf',
  donor: 'used',
};

type Names = { model: (id: ModelId) => string; part: (id: PartId) => string; platform: (id: PlatformId) => string };

/** Why a number is offered, link by link. */
export function fitReasonWords(reason: FitReason, names: Names): string {
  switch (reason.kind) {
    case 'listed-for-model':
      return `listed for ${names.model(reason.modelId)}`;
    case 'listed-for-platform':
      return `listed for platform ${names.platform(reason.platformId)}`;
    case 'fitted-to-sisters':
      return `not listed for this model, but for ${plural(reason.models, 'sister')} on platform ${names.platform(reason.platformId)}`;
    case 'serial-within':
      return `built ${span(reason)}: settled by the date`;
    case 'serial-open':
      return `for machines built ${span(reason)}: the date is open, compare in the hand`;
    case 'position':
      return `position ${reason.position}`;
    case 'superseded':
      return `${names.part(reason.fromPartId)} is now ${names.part(reason.toPartId)} (${[reason.source, ...(reason.builtFrom ? [`built from ${reason.builtFrom}`] : []), ...(reason.builtTo ? [`built up to ${reason.builtTo}`] : [])].join(', ')})`;
    case 'interchangeable':
      return `interchangeable with ${names.part(reason.partId)} (${reason.source})`;
    case 'sister-number':
      return `the same part as ${names.part(reason.partId)} under a sister badge (${reason.source})`;
    case 'generic-for':
      return `stands in for ${names.part(reason.partId)} (${reason.source})${reason.note ? `. ${reason.note}` : ''}`;
    case 'kit-contains':
      return `contains ${names.part(reason.partId)}`;
    case 'fitted-before':
      return `fitted here before: as proved and as come back, ${formatPercent(reason.probability)} sure`;
    case 'on-the-old-part':
      return `${reason.same ? 'the old part bears this number' : `the old part bears ${names.part(reason.partId)}`}, ${formatPercent(reason.probability)} sure`;
    case 'typed':
      return reason.supplierName ? `from ${reason.supplierName}` : 'read off the old part';
  }
}

const SURE = 0.95;

/** What the number on the old part is taken for, and what that means for the part that is wanted. */
export function oldNumberWords({ candidates, unknown, unread, noRoute }: OldNumber): {
  tone: 'sound' | 'doubt';
  text: string;
} {
  const [lead] = candidates;
  const doubt = (text: string) => ({ tone: 'doubt' as const, text });
  if (unread >= LIKELY) return doubt('No number that could be a part’s was found in that text: type it.');
  const compare = 'An earlier repair may have fitted another part: compare fixings, connector and ratings.';
  if (lead && lead.probability >= LIKELY) {
    const { part, differences, probability, ledTo } = lead;
    const misread = differences.length
      ? ` if it was misread (${differenceWords(part.partNumber, differences)}), ${formatPercent(probability)} likely`
      : '';
    if (!ledTo)
      return doubt(
        `${part.partNumber} is listed (${part.description})${misread}, but nothing leads from this machine to it. ${compare}`,
      );
    return misread
      ? { tone: probability >= SURE ? 'sound' : 'doubt', text: `The lists lead to ${part.partNumber}${misread}.` }
      : { tone: 'sound', text: `The lists lead from this machine to ${part.partNumber}.` };
  }
  if (unknown >= LIKELY) return doubt(`No list at hand has this number. ${compare}`);
  return noRoute >= LIKELY
    ? doubt(`Nothing leads from this machine to this number. ${compare}`)
    : doubt('It may be one of several numbers: compare character by character.');
}

const span = ({ builtFrom, builtTo }: { builtFrom: LocalDate | null; builtTo: LocalDate | null }) =>
  builtFrom && builtTo ? `${builtFrom} to ${builtTo}` : builtFrom ? `from ${builtFrom}` : `until ${builtTo ?? ''}`;

export function crossProblemWords(problem: CrossReferenceProblem, part: (id: PartId) => string): string {
  switch (problem.kind) {
    case 'circle':
      return `The supersessions of ${problem.partIds.slice(0, 1).map(part).join('')} run in a circle: not followed. Ask the supplier.`;
    case 'dead-end':
      return `${part(problem.partId)} is discontinued and nothing replaces it. Ask the supplier with model and serial, or look for a donor.`;
    case 'missing-part':
      return `A reference leads to a number that is not in the catalogue.`;
    case 'sources-disagree':
      return `Sources disagree on what replaces ${part(problem.partId)}: compare in the hand.`;
  }
}

export const FIT_WORDS: Record<FitVerdict['verdict'], string> = {
  'drops-in': 'drops in',
  'fits-with-work': 'fits with this work',
  'does-not-fit': 'does not fit',
  'measure-first': 'measure this first',
};

/** Why one dimension or rating is as it is judged. */
export function dimensionWords(dimension: DimensionVerdict): string {
  const { old, candidate, unit, work } = dimension;
  const sizes = `${old ?? '?'} → ${candidate ?? '?'} ${unit}`;
  switch (dimension.reason) {
    case 'within-tolerance':
      return 'within tolerance';
    case 'same':
      return 'the same';
    case 'workaround':
      return `${sizes}: ${work?.what.toLowerCase() ?? ''}, ${work?.minutes ?? 0} min${work?.leaves ? `; leaves ${work.leaves.toLowerCase()}` : ''}`;
    case 'out-of-tolerance':
      return `${sizes}: out of tolerance`;
    case 'rating-breached':
      return `${sizes}: the rating does not hold. There is no way round a rating`;
    case 'different':
      return `${sizes}: different`;
    case 'old-not-measured':
      return 'measure the old part';
    case 'candidate-not-listed':
      return 'not listed for this number: ask the supplier';
  }
}

export const RELATION_WORDS = {
  'superseded-by': 'is now',
  interchangeable: 'same as',
  sister: 'sister number',
  generic: 'generic',
  contains: 'contains',
} as const;
