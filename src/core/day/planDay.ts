import { BENCH_MINUTES_A_DAY } from '../labour';
import { rungNow, waitsNow, type Rung, type TicketSummary } from '../ticket';
import {
  addDays,
  daysBetween,
  hoursBetween,
  isoWeekday,
  localDateOf,
  localTimeOf,
  sum,
  type Instant,
  type LocalDate,
  type TicketId,
} from '../units';

/** Minutes that a person gives to a rung that is not work on the machine. Rough: they only sort. */
const MINUTES: Partial<Record<Rung, number>> = {
  'read-plate': 3,
  'tell-kind': 3,
  'note-findings': 5,
  'find-cause': 15,
  'choose-part': 5,
  'part-again': 5,
  offer: 4,
  'offer-again': 4,
  order: 5,
  'take-part': 30,
  'fetch-part': 2,
  'get-parts': 10,
  prove: 25,
  'tell-ready': 3,
  'hand-over': 10,
  close: 2,
};
/** Of a machine whose work nobody has counted yet. */
const UNCOUNTED_WORK = 45;
/** Both hands are at the machine. */
const AT_THE_BENCH: readonly Rung[] = ['find-cause', 'take-part', 'work', 'prove'];

/** How far ahead lateness is looked for, in mean tasks: the usual value of the rule. */
const LOOK_AHEAD = 2;
/** A question that was asked so long ago is asked again, in hours; a machine that waits so long to be fetched is told of again, in days. */
const ASK_AGAIN_HOURS = 24;
const FETCH_AGAIN_DAYS = 3;
/** What goes back is packed so many days before it has to be on its way. */
const PACK_DAYS = 3;

export type DayTask = {
  /** Several tickets where one act does for all: their orders. */
  tickets: { ticketId: TicketId; number: number; machine: string; words: string; customer: string }[];
  rung: Rung;
  minutes: number;
  handsOn: boolean;
  /** Until the first of its machines was promised, or is wanted; below 0 it is late. */
  daysLeft: number;
  /** By how much it pays to do it before the others: what lateness costs a minute of it, less the longer there is time. */
  urgency: number;
  /** It still fits into today. */
  fits: boolean;
  /** Somebody has to help. */
  twoPeople: boolean;
  /** It is done where the floor may get wet. */
  wet: boolean;
};

/** By so many setups (a helper is called, the machine goes to the wet place) the urgency of a task falls by e. */
const SETUPS = 1;

export type Call = {
  ticketId: TicketId;
  number: number;
  machine: string;
  customer: string;
  why: 'ready' | 'no-answer' | 'not-fetched';
  since: Instant;
};

export type OnTheWay = { orderId: string; number: string; supplierName: string; dueOn: LocalDate };

/** Something that a supplier gets back, and when it has to be on its way. */
export type GoingBack = { orderId: string; returnId: string; number: string; supplierName: string; sendBy: LocalDate };

export type Day = {
  tasks: DayTask[];
  calls: Call[];
  /** Due by today and not here. */
  parcels: OnTheWay[];
  /** To be packed: the days in which they go back end soon, or have ended. */
  returns: GoingBack[];
  /** Joints that are safe before the day is over. */
  cures: { ticketId: TicketId; number: number; machine: string; until: Instant }[];
  handsOnMinutes: number;
  /** What benches still give today. */
  minutesLeft: number;
};

export type DayQuestion = {
  tickets: readonly TicketSummary[];
  onTheWay: readonly OnTheWay[];
  goingBack?: readonly GoingBack[];
  now: Instant;
  settings: {
    zone: string;
    promiseDays: number;
    benches: number;
    shopDays: readonly number[];
    holidays: readonly LocalDate[];
    /** "17:00" in the shop's zone. */
    closesAt: string;
  };
};

const minutesOf = (time: string): number => {
  const [hours = 0, minutes = 0] = time.split(':').map(Number);
  return 60 * hours + minutes;
};

/** Hands-on minutes that today still gives: until the shop closes, and never more than a bench gives in a day; 0 when it is shut. */
function minutesLeft(now: Instant, { zone, benches, shopDays, holidays, closesAt }: DayQuestion['settings']): number {
  const today = localDateOf(now, zone);
  if (!shopDays.includes(isoWeekday(today)) || holidays.includes(today)) return 0;
  const until = minutesOf(closesAt) - minutesOf(localTimeOf(now, zone));
  return Math.max(0, Math.min(BENCH_MINUTES_A_DAY, until)) * benches;
}

const named = ({ ticketId, number, machine, words, customer }: TicketSummary) => ({
  ticketId,
  number,
  machine,
  words,
  customer,
});

/**
 * The tasks of the day, the one that pays most first: apparent tardiness cost (Vepsalainen and Morton, 1987), 1/p · exp(−max(0, slack)/(2·p̄)), with p the minutes of the task, slack the
 * hands-on minutes until its machine is promised less what the bench still owes it. So short acts that let others wait go first, and what is late before what has time. Work that needs a helper or the wet place, too, is drawn behind work that does already: the same rule with
 * setups (Lee, Bhaskaran and Pinedo, IIE Transactions 29, 1997), · exp(−s/s̄). Orders of all machines are one task. O(tickets²).
 */
export function planDay({ tickets, onTheWay, goingBack = [], now, settings }: DayQuestion): Day {
  const today = localDateOf(now, settings.zone);
  const here = tickets.map((ticket) => ({ ticket, waiting: waitsNow(ticket.waiting, now) }));
  const yours = here.filter(({ waiting }) => waiting.for === 'you');
  const drafts = yours.map(({ ticket }) => taskOf(ticket, now, today, settings));
  const pooled = pool(drafts);
  const mean = Math.max(1, sum(pooled.map(({ minutes }) => minutes)) / Math.max(1, pooled.length));
  const left = minutesLeft(now, settings);
  let used = 0;
  const urgent = pooled
    .map(({ slack, ...task }) => ({
      ...task,
      urgency: (task.tickets.length / task.minutes) * Math.exp(-Math.max(0, slack) / (LOOK_AHEAD * mean)),
    }))
    .sort((a, b) => b.urgency - a.urgency || a.daysLeft - b.daysLeft);
  const tasks = gathered(urgent).map((task): DayTask => {
    used += task.minutes;
    return { ...task, fits: used <= left };
  });
  return {
    tasks,
    calls: here.flatMap(({ ticket, waiting }) => callOf(ticket, waiting.for, waiting.since, now)),
    parcels: onTheWay.filter(({ dueOn }) => dueOn <= today).sort((a, b) => (a.dueOn < b.dueOn ? -1 : 1)),
    returns: goingBack
      .filter(({ sendBy }) => daysBetween(today, sendBy) <= PACK_DAYS)
      .sort((a, b) => (a.sendBy < b.sendBy ? -1 : 1)),
    cures: here.flatMap(({ ticket: { ticketId, number, machine }, waiting }) =>
      waiting.for === 'cure' && localDateOf(waiting.until, settings.zone) === today
        ? [{ ticketId, number, machine, until: waiting.until }]
        : [],
    ),
    handsOnMinutes: sum(tasks.filter(({ handsOn }) => handsOn).map(({ minutes }) => minutes)),
    minutesLeft: left,
  };
}

type Needs = Pick<DayTask, 'twoPeople' | 'wet'>;

/** In the order in which they pay, each after what was done before it. Acts that are no work on a machine neither need nor lose a helper. */
function gathered<T extends Needs & { urgency: number; rung: Rung }>(urgent: readonly T[]): T[] {
  const left = [...urgent];
  const order: T[] = [];
  let now: Needs = { twoPeople: false, wet: false };
  while (left.length > 0) {
    const worth = (task: T) => {
      const setups = Number(task.twoPeople && !now.twoPeople) + Number(task.wet && !now.wet);
      return task.urgency * Math.exp(-setups / SETUPS);
    };
    const best = left.reduce((a, b) => (worth(b) > worth(a) ? b : a));
    left.splice(left.indexOf(best), 1);
    order.push(best);
    if (best.rung === 'work') now = best;
  }
  return order;
}

type Draft = Omit<DayTask, 'urgency' | 'fits'> & { slack: number };

function taskOf(ticket: TicketSummary, now: Instant, today: LocalDate, settings: DayQuestion['settings']): Draft {
  const rung = rungNow(ticket.rung, ticket.waiting, now);
  const bench = ticket.benchMinutes ?? (rung === 'work' ? UNCOUNTED_WORK : 0);
  const minutes = Math.max(1, rung === 'work' ? bench : (MINUTES[rung] ?? 5));
  const dueOn = ticket.promisedOn ?? addDays(localDateOf(ticket.openedAt, settings.zone), settings.promiseDays);
  const daysLeft = daysBetween(today, dueOn);
  return {
    tickets: [named(ticket)],
    rung,
    minutes,
    handsOn: AT_THE_BENCH.includes(rung),
    daysLeft,
    twoPeople: rung === 'work' && (ticket.takes?.people ?? 1) > 1,
    wet: rung === 'work' && ticket.takes?.wet === true,
    slack: daysLeft * BENCH_MINUTES_A_DAY - Math.max(bench, minutes),
  };
}

/** What is ordered is ordered once, for all machines that need parts. */
function pool(drafts: readonly Draft[]): Draft[] {
  const orders = drafts.filter(({ rung }) => rung === 'order');
  const [first] = orders;
  if (!first) return [...drafts];
  const soonest = orders.reduce((a, b) => (b.slack < a.slack ? b : a), first);
  return [
    ...drafts.filter(({ rung }) => rung !== 'order'),
    { ...soonest, tickets: orders.flatMap(({ tickets }) => tickets) },
  ];
}

function callOf(ticket: TicketSummary, waitsFor: string, since: Instant, now: Instant): Call[] {
  const { ticketId, number, machine, customer } = ticket;
  const call = (why: Call['why']): Call[] => [{ ticketId, number, machine, customer, why, since }];
  const hours = hoursBetween(since, now);
  if (ticket.rung === 'tell-ready') return call('ready');
  if (waitsFor === 'customer' && hours >= ASK_AGAIN_HOURS) return call('no-answer');
  return waitsFor === 'collection' && hours >= 24 * FETCH_AGAIN_DAYS ? call('not-fetched') : [];
}
