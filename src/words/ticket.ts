import type { Age, Assessment } from '@/core/case';
import type { Rung, Waiting } from '@/core/ticket';
import { fromMajor, type Instant, type LocalDate } from '@/core/units';
import {
  capital,
  formatDate,
  formatMinutes,
  formatMoment,
  formatMoney,
  formatPercent,
  formatYears,
  plural,
} from './format';
import { wayWords } from './quote';
import { compareWords } from './numbers';
import { shakenWords } from './refusals';

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
  'take-part': 'take the used part',
  'fetch-part': 'fetch the part from the shelf',
  'get-parts': 'get the parts',
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
      const nameOf = (id: string | null) => lore?.causes.find((cause) => cause.id === id)?.name ?? '';
      const way = wayWords(nameOf(next.causeId), lore?.fixes.find(({ id }) => id === next.fixId)?.name);
      const name = next.also === null ? way : `${way}, with ${nameOf(next.also)}`;
      if (next.certain)
        return say(
          `Settle on: ${name.toLowerCase()}`,
          `${formatPercent(next.probability)} likely. No check saves more than a few minutes now.`,
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
    case 'ask-age':
      return say(
        'Ask how old it is',
        `Whether it is worth mending hangs on it: to know saves ${formatMoney(fromMajor(next.saves, currency))} on average. The receipt, the serial or the owner tells; nobody may know.`,
        1,
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
    case 'fetch-part':
      return say('Fetch the part from the shelf', 'It is kept for this machine.');
    case 'take-part':
      return say(
        'Take the used part',
        'Out of the machine that is kept for parts, or off the shelf where it is out already. Try it before it goes in, if nobody has.',
      );
    case 'await-parts':
      return say(
        'Check the parcel in',
        next.dueOn ? `Parts are due ${formatDate(next.dueOn, at.today)}.` : 'The supplier gave no date.',
      );
    case 'get-parts':
      return say(
        `Get the ${plural(next.parts.length, 'part')} that ${next.parts.length === 1 ? 'has' : 'have'} no number`,
        `${capital(next.parts.join('; '))}. The letter to a supplier is at the Part station; tick it here when all are in the shop.`,
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

/** What a displayed code means, by the maker's list. */
export const codeWords = ({ meaning }: { meaning: string | null }): string => meaning ?? 'not listed for this maker';
