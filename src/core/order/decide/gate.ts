import { normaliseNumber, typedPart } from '../../identify';
import {
  asDay,
  asId,
  daysBetween,
  groupBy,
  isCurrency,
  isDay,
  moneyToDecimal,
  parseMoney,
  stableJson,
  type LineId,
  type LocalDate,
  type Money,
} from '../../units';
import type { AnswerDoubt, AnswerProblem, OrderAnswer, OrderState, PlacedLine } from '../stream/orderStream';

/** One line of an answer as the supplier's document says it: nothing of it is believed yet. Texts as they stand there, '' where nothing stands. */
export type HeardLine = {
  lineId: string;
  /** null: a status that the standard's code list does not have. */
  status: OrderAnswer['lines'][number]['status'] | null;
  statusCode: string;
  partId: string;
  partNumber: string;
  price: string;
  currency: string;
  packs: string;
  dueOn: string;
  note: string;
};

/** A supplier's answer before it is believed. */
export type HeardAnswer = {
  orderNumber: string;
  reference: string;
  lines: HeardLine[];
  /** A simple answer: yes or no to the order as it stands, without a word of its lines. */
  whole?: { accepted: boolean; note: string };
};

/** What a simple answer says of each line. */
const linesOf = ({ lines, whole }: HeardAnswer, order: OrderState): readonly HeardLine[] =>
  whole
    ? order.lines.map(({ lineId, packPrice }) => ({
        lineId,
        status: whole.accepted ? 'accepted' : 'rejected',
        statusCode: '',
        partId: '',
        partNumber: '',
        // A yes to the order is one to its prices.
        price: moneyToDecimal(packPrice),
        currency: packPrice.currency,
        packs: '',
        dueOn: '',
        note: whole.note,
      }))
    : lines;

/** What becomes of an answer: taken, with what a person should know of it; or set aside, because taking it could cost a second order or a wrong price. */
export type Judged =
  { kind: 'taken'; answer: OrderAnswer; doubts: AnswerDoubt[] } | { kind: 'set-aside'; problems: AnswerProblem[] };

/** A price that is this many times the agreed one, or one of so many parts of it, is a slip or a lie and not a price. */
const SENSELESS_RATIO = 10;
/** A day further away than this is no day of delivery. */
const LONGEST_DAYS = 400;
const MOST_LINES = 500;
const cut = (text: string, most: number) => text.trim().slice(0, most);

type LineVerdict = { line: OrderAnswer['lines'][number]; doubts: AnswerDoubt[] } | { problems: AnswerProblem[] };

/**
 * Judges an answer against the order that it claims to answer. Set aside when it is for another order or for none of our lines, leaves lines of ours out,
 * says two things of one line, or names a currency, price or quantity that cannot be meant: it is asked for again under the same key, which can never
 * order twice. Everything else that differs from what was ordered is taken, with a word for the person. `today`: the shop's day. O(lines).
 */
export function judgeAnswer(order: OrderState, heard: HeardAnswer, today: LocalDate): Judged {
  const problems: AnswerProblem[] = [];
  const doubts: AnswerDoubt[] = [];
  const said = heard.orderNumber.trim();
  if (said !== '' && said !== order.number) problems.push({ kind: 'other-order', lineId: null, said: cut(said, 200) });
  if (heard.lines.length > MOST_LINES)
    problems.push({ kind: 'too-many-lines', lineId: null, said: String(heard.lines.length) });
  if (problems.length) return { kind: 'set-aside', problems };
  const replies = groupBy(new Set(linesOf(heard, order)), ({ lineId }) => lineId.trim());
  const ours = order.lines.filter(({ lineId }) => replies.has(lineId));
  if (ours.length === 0) return { kind: 'set-aside', problems: [{ kind: 'nothing-of-ours', lineId: null, said: '' }] };
  const lines: OrderAnswer['lines'] = [];
  for (const line of order.lines) {
    const verdict = judgeLine(line, replies.get(line.lineId) ?? [], today);
    if ('problems' in verdict) problems.push(...verdict.problems);
    else {
      lines.push(verdict.line);
      doubts.push(...verdict.doubts);
    }
  }
  if (problems.length) return { kind: 'set-aside', problems };
  const foreign = [...replies.keys()].filter((id) => !order.lines.some(({ lineId }) => lineId === id)).length;
  if (foreign > 0) doubts.push({ kind: 'foreign-lines', lineId: null, said: String(foreign) });
  const reference = cut(heard.reference, 80);
  if (reference === '') doubts.push({ kind: 'no-reference', lineId: null, said: '' });
  return { kind: 'taken', answer: { reference, lines }, doubts };
}

/** Whatever is said of a line, without the words beside it. */
const claimOf = ({ note: _note, ...claim }: HeardLine) => stableJson(claim);

function judgeLine(line: PlacedLine, replies: readonly HeardLine[], today: LocalDate): LineVerdict {
  const { lineId } = line;
  const problem = (kind: AnswerProblem['kind'], said = ''): LineVerdict => ({
    problems: [{ kind, lineId, said: cut(said, 200) }],
  });
  const [reply] = replies;
  if (!reply) return problem('line-missing');
  if (replies.some((other) => claimOf(other) !== claimOf(reply))) return problem('contradiction');
  if (reply.status === null) return problem('status-unknown', reply.statusCode);
  const note = cut(reply.note, 500) || null;
  if (reply.status === 'rejected') {
    const { partId, partNumber, packPrice } = line;
    return { line: { lineId, status: 'rejected', partId, partNumber, packPrice, dueOn: null, note }, doubts: [] };
  }
  const price = priceOf(line.packPrice, reply);
  if (typeof price === 'string') return problem(price, `${reply.price} ${reply.currency}`.trim());
  const packs = packsOf(reply.packs);
  if (packs === null) return problem('quantity-senseless', reply.packs);
  const doubts: AnswerDoubt[] = [];
  const doubt = (kind: AnswerDoubt['kind'], said: string) => doubts.push({ kind, lineId, said: cut(said, 200) });
  if (packs !== undefined && packs < line.packs) doubt('fewer', String(packs));
  if (packs !== undefined && packs > line.packs) doubt('more', String(packs));
  if (price.amountMinor !== line.packPrice.amountMinor)
    doubt(
      price.amountMinor > line.packPrice.amountMinor ? 'dearer' : 'cheaper',
      `${moneyToDecimal(price)} ${price.currency}`,
    );
  const dueOn = dayOf(reply.dueOn, today);
  if (dueOn === null && reply.dueOn.trim() !== '') doubt('day-senseless', reply.dueOn);
  const partNumber = cut(reply.partNumber, 80);
  const same = partNumber === '' || normaliseNumber(partNumber) === normaliseNumber(line.partNumber);
  if (!same && reply.status === 'accepted') doubt('other-number', partNumber);
  return {
    line: {
      lineId,
      status: !same && reply.status === 'accepted' ? 'substituted' : reply.status,
      // Another number's id is the supplier's word; the number is what goods-in compares.
      partId: same
        ? line.partId
        : reply.partId.trim() !== '' && reply.partId.length <= 200
          ? asId(reply.partId.trim())
          : typedPart(partNumber),
      partNumber: same ? line.partNumber : partNumber,
      packPrice: price,
      dueOn,
      note,
    },
    doubts,
  };
}

/** The price, or what is wrong with it. */
function priceOf(ordered: Money, { price, currency }: HeardLine): Money | 'other-currency' | 'price-senseless' {
  const code = currency.trim();
  if (code !== ordered.currency) return isCurrency(code) || code !== '' ? 'other-currency' : 'price-senseless';
  const read = parseMoney(price.trim(), code);
  if (!read.ok || read.value.amountMinor < 0) return 'price-senseless';
  const { amountMinor } = read.value;
  const isFar =
    ordered.amountMinor > 0 &&
    (amountMinor >= ordered.amountMinor * SENSELESS_RATIO || amountMinor * SENSELESS_RATIO <= ordered.amountMinor);
  return isFar ? 'price-senseless' : read.value;
}

/** Packs that are confirmed: undefined where the answer does not say, null where what it says cannot be meant. */
function packsOf(text: string): number | null | undefined {
  const plain = text.trim();
  if (plain === '') return undefined;
  const packs = /^\d{1,7}(\.0+)?$/.test(plain) ? Number(plain) : 0;
  return packs >= 1 ? packs : null;
}

/** A day from today to about a year on; null for none, and for one that the calendar does not have or nobody can mean. */
function dayOf(text: string, today: LocalDate): LocalDate | null {
  const plain = text.trim();
  if (!isDay(plain)) return null;
  const away = daysBetween(today, asDay(plain));
  return away >= 0 && away <= LONGEST_DAYS ? asDay(plain) : null;
}

/** The line that a word is about, by the number that was ordered; '' for one about the order. */
export const lineNamed = ({ lines }: Pick<OrderState, 'lines'>, lineId: LineId | null): string =>
  lines.find((line) => line.lineId === lineId)?.partNumber ?? '';
