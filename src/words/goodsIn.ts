import type { Instant, LineId } from '@/core/units';
import type { DimensionVerdict } from '@/core/fit';
import {
  lineNamed,
  type AnswerDoubt,
  type AnswerProblem,
  type CheckInVerdict,
  type OrderState,
  type PlacedLine,
} from '@/core/order';
import { formatMoment, formatPercent, plural } from './format';
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
  const { partNumber, differences, probability } = misread;
  return `${CHECK_IN_WORDS[reason]}. It is ${partNumber} but for this: ${differenceWords(partNumber, differences)}. Look again at that place: ${formatPercent(probability)} likely that it is only misread`;
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
  'not-believed': 'their answer was set aside',
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
      text: `${failure.why === 'not-believed' ? '' : 'not heard of yet: '}${FAILED[failure.why]}${failure.status === null ? '' : ` (${failure.status})`}, tried ${plural(order.failures.length, 'time')}, next try ${formatMoment(failure.retryAt, at.now, at.zone)}. It cannot be placed twice`,
    };
  return { tone: 'soft', text: 'being sent' };
}

const PROBLEMS: Record<AnswerProblem['kind'], (said: string) => string> = {
  'other-order': (said) => `it answers another order, ${said}`,
  'too-many-lines': (said) => `it has ${said} lines`,
  'nothing-of-ours': () => 'it names none of the lines that were ordered',
  'line-missing': () => 'nothing is said of it',
  contradiction: () => 'two different things are said of it',
  'status-unknown': (said) => `it is neither accepted nor refused (“${said}”)`,
  'other-currency': (said) => `the price is in another currency: ${said}`,
  'price-senseless': (said) => `the price cannot be meant: ${said}`,
  'quantity-senseless': (said) => `the quantity cannot be meant: ${said}`,
};

const DOUBTS: Record<AnswerDoubt['kind'], (said: string) => string> = {
  'foreign-lines': (said) => `${plural(Number(said), 'line')} in it that nobody ordered here`,
  'no-reference': () => 'they gave no reference of their own',
  fewer: (said) => `only ${said} confirmed: ask about the rest`,
  more: (said) => `${said} confirmed, more than was ordered`,
  dearer: (said) => `dearer than it was ordered: ${said} a pack`,
  cheaper: (said) => `cheaper than it was ordered: ${said} a pack`,
  'day-senseless': (said) => `the day of delivery cannot be meant (“${said}”): ask for it`,
  'other-number': (said) => `accepted, but as another number: ${said}. Compare it before it is fitted`,
};

const aboutLine = (order: OrderState, lineId: LineId | null, text: string): string => {
  const number = lineNamed(order, lineId);
  return number ? `${number}: ${text}` : text;
};

/** What a person should know of a supplier's answer: why it was set aside, or in what it differs from what was ordered. */
export function answerNotes(order: OrderState): string[] {
  const failure = order.failures.at(-1);
  if (order.reference === null)
    return order.phase === 'unknown' && failure?.why === 'not-believed'
      ? failure.problems.map(({ kind, lineId, said }) => aboutLine(order, lineId, PROBLEMS[kind](said)))
      : [];
  return order.doubts.map(({ kind, lineId, said }) => aboutLine(order, lineId, DOUBTS[kind](said)));
}

/** The same as one word at the edge of the page. */
export const answerNotice = ({ number, supplierName, reference }: OrderState): string =>
  reference === null
    ? `${supplierName} cannot mean what they answered to order ${number}: it was set aside, and is asked for again. Why stands on the Orders page.`
    : `${supplierName} answered order ${number} otherwise than it was ordered: look at it on the Orders page.`;

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
