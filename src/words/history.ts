import type { TicketEventData, TicketEventOf } from '@/core/ticket';
import { awayWords } from './bench';
import { capital, formatMinutes, formatMoney, formatMoneyRange, formatPercent, listOf, plural } from './format';
import { measuredWords, runWords, seatWords, verdictWords } from './measuring';
import { optionWords } from './quote';
import { codeWords, MEANS_WORDS } from './ticket';

const ANSWERED = {
  yes: 'The customer said yes',
  no: 'The customer said no',
  thinking: 'The customer is thinking',
} as const;

const ANSWERS = { yes: 'Found', no: 'Not so', 'not-sure': 'Not sure' } as const;
const VERDICTS = {
  'as-ordered': 'as ordered',
  'newer-number': 'newer number',
  'same-by-reference': 'same by reference',
  wrong: 'wrong: sent back',
} as const;
const FELL_AWAY: Record<TicketEventOf<'part-order-cancelled'>['why'], string> = {
  cancelled: 'cancelled here',
  rejected: 'refused by the supplier',
  'not-in-answer': 'not in the supplier’s answer',
  refused: 'the supplier refused the order',
  void: 'the supplier had not taken the order',
  short: 'it does not come after all',
};
export const READY_WORDS: Record<TicketEventOf<'readied'>['item'], string> = {
  parts: 'the parts that have no number',
  tools: 'the tools',
  sundries: 'clamps, ties, gasket and sealant',
  place: 'place and time enough for all of it',
};
const PHASES = { strip: 'off', work: 'done', refit: 'back' } as const;

const takenFrom = (from: TicketEventOf<'part-received'>['from']): string =>
  from.kind === 'donor' ? `Taken from donor ${from.number}` : 'Taken from the shelf';

/** One line of a ticket's history. */
export function eventWords(data: TicketEventData): string {
  switch (data.type) {
    case 'opened':
      return `Ticket ${data.number} opened`;
    case 'customer-noted':
      return customerWords(data);
    case 'plate-read':
      return `Plate: ${data.modelNumber}${data.confirmed ? ', confirmed' : ` (${formatPercent(data.probability)})`}, read from “${data.text.slice(0, 60)}”`;
    case 'plate-not-listed':
      return `Plate “${data.text.slice(0, 60)}” is not in the catalogue`;
    case 'serial-noted':
      return `Serial ${data.serial}`;
    case 'serial-unreadable':
      return 'No serial number that can be read';
    case 'bought-on':
      return `Bought on ${data.date}`;
    case 'age-guessed':
      return `The owner says it is about ${plural(data.years, 'year')} old`;
    case 'age-not-known':
      return 'The owner cannot say how old it is';
    case 'day-without-noted':
      return data.perDay
        ? `A day without a machine costs the customer ${formatMoney(data.perDay)}`
        : 'A day without a machine: nobody says what it costs';
    case 'carriage-noted':
      return data.collect || data.bringBack
        ? `The shop ${listOf([...(data.collect ? ['fetches the machine'] : []), ...(data.bringBack ? ['brings it back'] : [])])}`
        : 'The customer brings and fetches the machine';
    case 'also-chosen':
      return data.causeId === null ? `Not together after all: ${data.name}` : `To be offered together: ${data.name}`;
    case 'worker-noted':
      return data.name ? `Works on it: ${data.name}` : 'Nobody said who works on it';
    case 'bench-reopened':
      return `Opened again after a proof that failed: ${plural(data.steps.length, 'step')} to be put back`;
    case 'counted-home':
      return data.missing.length ? `Counted, not home: ${listOf(data.missing.map(awayWords))}` : 'Counted: all home';
    case 'readied':
      return `${data.ok ? 'Here' : 'Not here after all'}: ${READY_WORDS[data.item]}`;
    case 'step-remarked':
      return data.text ? `On a step: ${data.text}` : 'Remark on a step taken back';
    case 'photographed':
      return `Photographed${data.text ? `: ${data.text}` : ''}`;
    case 'photograph-dropped':
      return 'A photograph was taken off the sheet';
    case 'piece-set-aside':
      return `Piece ${data.piece} set aside: ${data.text}`;
    case 'piece-home':
      return data.home ? `Piece ${data.piece} is home` : `Piece ${data.piece} is not home after all`;
    case 'swap-ticked':
      return `${data.done ? 'At the swap' : 'Not after all'}: ${data.text.replace(/: ?$/, '')}`;
    case 'rescue-chosen':
      return data.minutes === null
        ? `It came after all: ${data.title}`
        : `It would not come: ${data.title}, ${formatMinutes(data.minutes)} more`;
    case 'range-told':
      return `Told that it may cost ${formatMoneyRange(data.low, data.high)}`;
    case 'more-answered':
      return `${data.agreed ? 'The customer agrees to' : 'The customer does not want'} ${formatMoney(data.gross)} more`;
    case 'bead-laid':
      return 'Bead on: all bolts in before it skins';
    case 'parked':
      return `Parked, open${data.text ? `: ${data.text}` : ''}`;
    case 'taken-up':
      return 'Taken up again';
    case 'work-started':
      return 'Hands on: the clock runs';
    case 'work-stopped':
      return 'The clock stands';
    case 'relative-judged':
      return data.relative
        ? `Taken for a sister of ${data.relative.modelNumber}, ${formatPercent(data.relative.probability)} sure`
        : 'Taken for no sister of a listed model';
    case 'make-noted':
      return data.name ? `Make: ${data.name}` : 'Make taken back';
    case 'kind-judged':
      return data.answerId === null
        ? 'How it is built: could not be told'
        : `How it is built: ${data.answerId.replace(/-/g, ' ')}`;
    case 'part-typed':
      return data.partNumber === ''
        ? 'A typed number was taken back'
        : `Number typed: ${data.partNumber}${data.supplierName ? `, from ${data.supplierName}` : ''}`;
    case 'old-number-read':
      return data.text === ''
        ? 'The number on the old part was taken back'
        : `On the old part: “${data.text.slice(0, 60)}”`;
    case 'failing-run-noted':
      return `It fails: ${runWords(data)}`;
    case 'wreck-read':
      return data.signId === null ? 'The dead part tells nothing' : `On the dead part: ${data.text}`;
    case 'complaint-noted':
      return `Complaint: ${data.text}`;
    case 'finding-noted':
      return `${ANSWERS[data.answer]}: ${data.threeWords}`;
    case 'code-noted':
      return `Shows ${data.code}: ${codeWords(data)}`;
    case 'check-done':
      return `Checked: ${data.title}: ${data.outcome?.toLowerCase() ?? 'not sure'}`;
    case 'reading-noted':
      return `Measured ${data.label}: ${measuredWords(data)}, ${verdictWords(data, data.unit)}`;
    case 'part-measured':
      return data.value === ''
        ? `Not measured after all: ${data.label}`
        : `Measured on the old part: ${data.label} ${data.value}`;
    case 'seats-judged':
      return `Seats: ${data.seats.map((seat) => `${seat.roleName}: ${seatWords(seat)}`).join('; ')}`;
    case 'cause-decided':
      return `Cause: ${data.name}`;
    case 'fix-failed':
      return 'The repair did not help: back to the findings';
    case 'parts-chosen':
      return data.parts.length
        ? `Parts: ${data.parts.map(({ bought }) => bought.partNumber).join(', ')}`
        : 'No part: none is listed, or none is needed';
    case 'decision-kept':
      return data.decision === 'part'
        ? 'Looked at the part again: it is still right'
        : 'Looked at the offer again: it stands';
    case 'quoted':
      return `Offered: ${data.options.map((option) => `${optionWords(option)} ${formatMoney(option.gross)}`).join(' or ')}`;
    case 'customer-answered':
      return `${ANSWERED[data.answer]}${data.by ? ` (${data.by})` : ''}${data.how ? `, ${MEANS_WORDS[data.how]}` : ''}`;
    case 'part-ordered':
      return `Ordered from ${data.supplierName}, order ${data.orderNumber}`;
    case 'part-due':
      return `Supplier: ${data.note ?? data.status.replaceAll('-', ' ')}${data.dueOn ? `, due ${data.dueOn}` : ''}`;
    case 'part-order-cancelled':
      return `Order line fell away: ${FELL_AWAY[data.why]}${data.note ? ` (“${data.note}”)` : ''}`;
    case 'part-received':
      return data.from.kind === 'order'
        ? `Arrived: ${data.partNumber}, ${VERDICTS[data.verdict]}`
        : `${takenFrom(data.from)}: ${data.partNumber}`;
    case 'part-reserved':
      return `Kept for it on the shelf${data.place ? ` (${data.place})` : ''}: ${data.partNumber}`;
    case 'reservation-released':
      return 'No longer kept for it on the shelf';
    case 'part-shelved':
      return `Put on the shelf: ${data.partNumber}`;
    case 'step-ticked':
      return `${capital(PHASES[data.step.phase])}: ${data.title.replaceAll('-', ' ')}`;
    case 'step-cleared':
      return `Not ${PHASES[data.step.phase]} after all: ${data.title.replaceAll('-', ' ')}`;
    case 'bench-finished':
      return 'Work sheet finished';
    case 'run-repeated':
      return `Run again: ${data.loadKg} kg, ${data.rpm} rpm, ${data.minutes} min${data.seen ? `: ${data.seen}` : ''}`;
    case 'proof-noted':
      return `${data.passed ? 'Passed' : 'Failed'}: ${data.title}`;
    case 'ready-told':
      return 'Customer told that it is ready';
    case 'handed-over':
      return 'Handed over';
    case 'donor-part-taken':
      return `Taken from it for ${data.forTicket === null ? 'the shelf' : `ticket ${data.forTicket}`}: ${data.roleId.replaceAll('-', ' ')}`;
    case 'donor-gone':
      return 'No longer on the shelf as a donor';
    case 'came-back':
      return data.sameFault ? 'It came back with the same fault' : 'It came back with another fault';
    case 'closed':
      return `Closed: ${data.outcome.replaceAll('-', ' ')}${data.takenMinutes === null ? '' : `, ${formatMinutes(data.takenMinutes)} taken`}`;
    case 'note-added':
      return `Note: ${data.text}`;
    case 'undone':
      return 'Taken back';
  }
}

/** What was noted of a customer: only what is said changes. */
function customerWords({ name, phone, place }: Extract<TicketEventData, { type: 'customer-noted' }>): string {
  const said = [name, place, phone].filter(Boolean);
  if (said.length) return `Customer: ${said.join(', ')}`;
  const taken = [
    name === undefined ? '' : 'name',
    phone === undefined ? '' : 'telephone',
    place === undefined ? '' : 'place',
  ];
  return `Customer: ${listOf(taken.filter(Boolean))} taken out`;
}
