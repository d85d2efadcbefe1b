import type { Age, Assessment } from '@/core/case';
import type { Rung, TicketEventData, TicketEventOf, Waiting } from '@/core/ticket';
import { fromMajor, type Instant, type LocalDate } from '@/core/units';
import {
  capital,
  formatDate,
  formatMinutes,
  formatMoment,
  formatMoney,
  formatPercent,
  formatYears,
  listOf,
  plural,
} from './format';
import { runWords, seatWords, verdictWords } from './measuring';
import { optionWords, wayWords } from './quote';
import { compareWords } from './numbers';
import { shakenWords } from './refusals';

const ANSWERED = {
  yes: 'The customer said yes',
  no: 'The customer said no',
  thinking: 'The customer is thinking',
} as const;

/** By what means an answer came. */
export const MEANS_WORDS = {
  phone: 'by telephone',
  counter: 'at the counter',
  message: 'in writing',
  signed: 'signed',
} as const;

export const STATION_NAMES = {
  plate: 'Plate',
  findings: 'Findings',
  part: 'Part',
  worth: 'Worth',
  order: 'Order',
  bench: 'Bench',
  proof: 'Proof',
} as const;

export const WAITING_NAMES: Record<Waiting['for'], string> = {
  you: 'Waits for you',
  customer: 'Waits for the customer',
  parts: 'Waits for parts',
  cure: 'Curing or soaking',
  collection: 'Ready to go',
  nothing: 'Closed',
};

export const RUNG_WORDS: Record<Rung, string> = {
  'read-plate': 'read the plate',
  'tell-kind': 'say which kind it is',
  'note-findings': 'say what it does',
  'find-cause': 'find the cause',
  'choose-part': 'choose the part',
  'part-again': 'look at the part again',
  offer: 'make the offer',
  'offer-again': 'look at the offer again',
  'ring-customer': 'ring the customer',
  order: 'order the parts',
  'await-parts': 'check the parcel in',
  work: 'work on it',
  'wait-cure': 'let it cure',
  prove: 'prove it',
  'tell-ready': 'say it is ready',
  'hand-over': 'hand it over',
  close: 'close it',
  none: 'closed',
};

export type Moment = { now: Instant; today: LocalDate; zone: string };

type NextWords = { title: string; why: string; minutes: number | null };

const say = (title: string, why: string, minutes: number | null = null): NextWords => ({ title, why, minutes });

/** The one next step, as a sentence, with its reason. */
export function doNextWords(assessment: Assessment, at: Moment, currency: string): NextWords {
  const { doNext: next, shaken } = assessment.next;
  const lore = assessment.kind === 'weighed' ? assessment.lore : null;
  switch (next.kind) {
    case 'tell-kind':
      return say(
        'Say which kind of machine it is',
        'No catalogue lists this number. One look at how it is built tells what can fail, how one gets in and what it costs.',
      );
    case 'read-plate':
      return say(
        'Read the rating plate',
        'Inside the door, at the back, or on the kick panel. Nothing is ordered without the full number.',
      );
    case 'note-findings':
      return say(
        'Say what it does',
        'Or run the cycle that fails and listen, if it is safe to run: no tripping, no burning smell, no water on live parts.',
      );
    case 'step': {
      const { step } = next;
      if (step.kind === 'escalate')
        return say(
          'Offer a replacement',
          'Searching on costs more than it can save. Say so plainly, with the figures of the scale.',
        );
      const check = lore?.checks.find(({ id }) => id === step.id);
      const saves = step.withoutChecks - step.expectedCost;
      const access = step.accessMinutes > 0 ? ` ${formatMinutes(step.accessMinutes)} of that is the way in.` : '';
      return say(
        check?.title ?? 'Next check',
        `${check?.why ?? ''} On average it saves ${formatMoney(fromMajor(Math.max(0, saves), currency))} against mending on what is known now.${access}`,
        step.minutes + step.accessMinutes,
      );
    }
    case 'decide-cause': {
      const name = wayWords(
        lore?.causes.find((cause) => cause.id === next.causeId)?.name ?? '',
        lore?.fixes.find(({ id }) => id === next.fixId)?.name,
      );
      if (next.certain)
        return say(
          `Settle on: ${name.toLowerCase()}`,
          `${formatPercent(next.probability)} likely. Testing on would cost more than it can save.`,
        );
      return say(
        `Mend first: ${name.toLowerCase()}`,
        `${formatPercent(next.probability)} likely, and cheap to mend: no check saves more than it costs. If it does not help, say so, and the rest is weighed again.`,
      );
    }
    case 'compare-plate':
      return say(
        `Compare the plate: ${compareWords(next.compare)}`,
        next.decidesPart
          ? 'The numbers that it may be take different parts for this job: it decides the part.'
          : 'It tells which of the numbers it is. What the machine does can be said all the same.',
      );
    case 'note-serial':
      return say(
        'Note the serial number',
        'The lists name different parts for this model by the day on which it was built, and the serial tells that day.',
      );
    case 'choose-part':
      return say('Choose the part', 'Compare old and new in the hand: number, sizes and ratings, not colour.');
    case 'old-number-differs':
      return say(
        'Look at the part again: the old one bears another number',
        'It was read after the part was chosen, and nothing leads from it to that part.',
      );
    case 'part-again':
      return say('Look at the part again', shakenWords(shaken));
    case 'offer':
      return say('Make the offer', 'Price, worth and the day it is ready are computed.');
    case 'offer-again':
      return say('Look at the offer again', shakenWords(shaken));
    case 'ring-customer':
      return say('Ring the customer', 'They have the offer and have not said yes or no.');
    case 'order':
      return say(`Order ${plural(next.count, 'part')}`, 'One plan over all open machines saves shipping.');
    case 'await-parts':
      return say(
        'Check the parcel in',
        next.dueOn ? `Parts are due ${formatDate(next.dueOn, at.today)}.` : 'The supplier gave no date.',
      );
    case 'work':
      return say(next.title, 'The next step of the work sheet.', next.minutes);
    case 'wait-cure':
      return say(
        `Let it cure until ${formatMoment(next.until, at.now, at.zone)}`,
        'Sealant cures by depth and humidity. Nothing may load the joint before.',
      );
    case 'finish-bench':
      return say('Everything ticked: go on to the proof', 'Count screws, tools and nameless pieces first.');
    case 'prove':
      return next.proof.title === ''
        ? say('Prove it', 'Repeat the run that failed, the same way.')
        : say(next.proof.title, next.proof.how, next.proof.minutes);
    case 'tell-ready':
      return say('Tell the customer that it is ready', 'All proofs are passed.');
    case 'hand-over':
      return say('Hand it over', 'Say the cause, and how to avoid it.');
    case 'close':
      return say('Close the ticket', 'Note the time it really took: the next estimate learns from it.');
    case 'none':
      return say('Closed', 'The history below stays.');
  }
}

export function ageWords(age: Age): string {
  if (age.source === 'owner') return `about ${formatYears(age.years)}, the owner says`;
  if (age.source === 'unknown') return `age not known, perhaps ${Math.floor(age.from)} to ${Math.ceil(age.to)} years`;
  if (age.source === 'receipt') return `${formatYears(age.years)} by the receipt`;
  if (age.to - age.from < 0.6)
    return age.source === 'serial' ? `${formatYears(age.years)} by the serial` : `about ${formatYears(age.years)}`;
  return `${Math.floor(age.from)} to ${Math.ceil(age.to)} years${age.source === 'production' ? ', by the years it was built' : ', the serial leaves it open'}`;
}

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
};
export const READY_WORDS: Record<TicketEventOf<'readied'>['item'], string> = {
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
      return `Measured ${data.label}: ${data.value === null ? 'open' : `${data.value} ${data.unit}`}, ${verdictWords(data, data.unit)}`;
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
      return `Taken from it for ticket ${data.forTicket}: ${data.roleId.replaceAll('-', ' ')}`;
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

/** What a displayed code means, by the maker's list. */
export const codeWords = ({ meaning }: { meaning: string | null }): string => meaning ?? 'not listed for this maker';
