import type { Instant } from '@/core/units';
import type { DimensionVerdict } from '@/core/fit';
import type { CheckInVerdict, OrderState, PlacedLine } from '@/core/order';
import { formatMoment, plural } from './format';
import { differenceWords } from './numbers';

const CHECK_IN_WORDS: Record<CheckInVerdict['reason'], string> = {
  'number-equals': 'the number that was ordered',
  supersession: 'the newer number of what was ordered: fine',
  'supersession-open': 'the newer number, which holds from a build date on that is open here: compare it in the hand',
  'other-build-date': 'the newer number, but for machines built at another time',
  'cross-reference': 'another number for the same part: fine',
  'unknown-number': 'no known number for this part',
  'other-part': 'another part',
};

/** Is what arrived what was ordered, and if not, whether it may only be misread. */
export function checkInWords({ reason, misread }: Pick<CheckInVerdict, 'reason' | 'misread'>): string {
  if (!misread) return CHECK_IN_WORDS[reason];
  const { partNumber, differences } = misread;
  return `${CHECK_IN_WORDS[reason]}. It is ${partNumber} but for this: ${differenceWords(partNumber, differences)}. Look again at that place`;
}

export function lineStatusWords(line: PlacedLine): string {
  switch (line.status) {
    case 'unanswered':
      return 'not answered yet';
    case 'accepted':
      return 'accepted';
    case 'substituted':
      return line.note ?? `comes as ${line.answeredNumber}`;
    case 'back-ordered':
      return line.note ?? 'on back-order';
    case 'rejected':
      return `refused: ${line.note ?? ''}`;
    case 'not-in-answer':
      return 'not in the supplier’s answer';
  }
}

/** A part in the hand against the size it should have: there is nothing to work around, it is this part or it is not. */
export const sizeCheckWords = ({ verdict, old, candidate, unit }: DimensionVerdict): string =>
  verdict === 'fits'
    ? 'as it should be'
    : verdict === 'unknown'
      ? 'not a figure'
      : `${candidate ?? '?'} instead of ${old ?? '?'} ${unit}`.trim();

const FAILED: Record<OrderState['failures'][number]['why'], string> = {
  timeout: 'the supplier is slow',
  down: 'the supplier does not answer',
  unreadable: 'the answer could not be read',
};

type Stand = { tone: 'sound' | 'doubt' | 'stop' | 'soft'; text: string };

/** How an order stands with its supplier. */
export function orderStandWords(order: OrderState, at: { now: Instant; zone: string }): Stand {
  const failure = order.failures.at(-1);
  if (order.cancelled)
    return {
      tone: 'stop',
      text:
        order.cancelled === 'not-sent' ? 'cancelled before it was sent' : 'cancelled: the supplier had not taken it',
    };
  if (order.refused)
    return {
      tone: 'stop',
      text: `the supplier refused it (${order.refused.status}): “${order.refused.detail}”. It is not sent again; its parts are to be planned anew`,
    };
  if (order.byHand && order.phase !== 'done') return byHandWords(order);
  if (order.reference !== null)
    return {
      tone: 'sound',
      text: `${order.cancelAsked ? 'the supplier had it already, so it stands' : 'the supplier answered'}: ${order.reference}`,
    };
  if (order.cancelAsked)
    return {
      tone: 'doubt',
      text: 'to be cancelled: the supplier is asked whether they have it. Until then its parts stay ordered',
    };
  if (failure)
    return {
      tone: 'doubt',
      text: `not heard of yet: ${FAILED[failure.why]}${failure.status === null ? '' : ` (${failure.status})`}, tried ${plural(order.failures.length, 'time')}, next try ${formatMoment(failure.retryAt, at.now, at.zone)}. It cannot be placed twice`,
    };
  return { tone: 'soft', text: 'being sent' };
}

/** An order that a person sends. */
function byHandWords({ phase, supplierName, reference }: OrderState): Stand {
  if (phase === 'unsent')
    return {
      tone: 'doubt',
      text: `yours to send: ${supplierName} takes orders by e-mail, telephone or over the counter`,
    };
  if (phase === 'unknown') return { tone: 'soft', text: 'sent; no answer noted yet. It can be checked in as it comes' };
  return { tone: 'sound', text: `answered, as typed here${reference ? `: ${reference}` : ''}` };
}
