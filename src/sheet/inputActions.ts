import type { ModelId, TicketId } from '@/core/units';
import type { InputReading, NumberAndWords } from '@/core/identify';
import type { PricedAnswer } from '@/core/case';
import type { TicketState } from '@/core/ticket';
import { isTakenAtOnce, note, remark, type Fact, type TicketDecision } from '@/core/ticket';
import { eventStore, onTicket, openTicket, saving } from '@/store';
import { NOT_LISTED, refusalWords } from '@/words';
import { plateEvent } from '@/stations/shared/plateEvent';
import { searchWorker } from '@/workers';

/** `noted`: what is said of it once it is done, where the choice's own words would not do. */
export type InputAction = { id: string; does: string; noted?: string; run: () => Promise<string | null> };

/** Done, or thrown with the words that say why not: the line is kept then. */
async function noted(ticketId: TicketId, decision: TicketDecision): Promise<void> {
  const done = await saving.keep(() => onTicket(eventStore(), ticketId, decision));
  if (!done.ok) throw new Error(refusalWords(done.error));
}

async function opened(...facts: Fact[]): Promise<string> {
  const done = await saving.keep(() => openTicket(eventStore(), facts));
  if (!done.ok) throw new Error(refusalWords(done.error));
  return done.value.tickets[0] ?? '';
}

type Context = {
  text: string;
  /** Of a picture's text, how sure its reader was. */
  sure?: number | undefined;
  /** What of the text names the machine, and what is said of it. */
  line: NumberAndWords;
  ticket: TicketState | null;
  badges: ReadonlyMap<string, string>;
  /** The part that the ticket's likeliest cause needs. */
  role: AskedRole | null;
};
export type AskedRole = Pick<PricedAnswer, 'roleId' | 'roleName'>;

/** The plate as it was read in the line; what is said beside the number is no part of it. */
async function plateOf({ text, sure, line, badges }: Context, modelId: ModelId) {
  const { reading, models } = await searchWorker.get().readPlate(text, sure);
  const badge = badges.get(models.find((model) => model.id === modelId)?.badgeId ?? '') ?? '';
  const event = plateEvent(
    line.words !== '' && line.number !== '' ? line.number : text,
    reading,
    models,
    modelId,
    false,
    badge,
  );
  // A certain reading counts as taken, a doubtful one waits for a look at the plate.
  const slips = reading.candidates.find((candidate) => candidate.modelId === modelId)?.differences.length ?? Infinity;
  return event && { ...event, confirmed: isTakenAtOnce(event.probability, slips) };
}

/** What was said beside the number is what the customer says, after what they said before. */
function complaintIn({ words }: NumberAndWords, ticket: TicketState | null): Fact[] {
  if (words === '') return [];
  return [{ type: 'complaint-noted', text: [ticket?.complaint, words].filter(Boolean).join('; ') }];
}
const withComplaint = (does: string, { words }: NumberAndWords): string =>
  words === '' ? does : `${does}, “${words}” as the complaint`;

const ON_OLD_PART = 'notes it as the number on the old part';

/** What can be done with a reading, the likeliest first. */
export function actionsFor(reading: InputReading, context: Context): InputAction[] {
  const own = actionFor(reading, context);
  const { ticket, role } = context;
  if (reading.kind !== 'part' || !ticket || ticket.closed) return [own];
  const roleId = reading.roleId ?? role?.roleId;
  if (roleId === undefined) return [own];
  const onOldPart: InputAction = {
    id: `old ${reading.partId}`,
    does: ON_OLD_PART,
    run: async () => {
      await noted(ticket.ticketId, note({ type: 'old-number-read', roleId, text: reading.partNumber }));
      return null;
    },
  };
  return reading.roleId === null ? [own, onOldPart] : [onOldPart, own];
}

/** What Enter does for a reading; the returned path is where to go (null: stay). */
function actionFor(reading: InputReading, context: Context): InputAction {
  const { text, line, ticket } = context;
  const onThis = (fact: Fact) => async () => {
    if (ticket) await noted(ticket.ticketId, note(fact));
    return null;
  };
  switch (reading.kind) {
    case 'model':
      if (ticket && !ticket.plate && !ticket.closed)
        return {
          id: `here ${reading.modelId}`,
          does: withComplaint(`this machine is a ${reading.modelNumber}`, line),
          run: async () => {
            const event = await plateOf(context, reading.modelId);
            if (event) await noted(ticket.ticketId, note(event, ...complaintIn(line, ticket)));
            return null;
          },
        };
      return {
        id: `new ${reading.modelId}`,
        does: withComplaint('opens a ticket for it', line),
        run: async () => {
          const event = await plateOf(context, reading.modelId);
          return `/ticket/${await opened(...(event ? [event] : []), ...complaintIn(line, null))}`;
        },
      };
    case 'unlisted':
      return notListed(line, ticket);
    case 'part':
      return {
        id: `part ${reading.partId}`,
        does: 'shows it in the catalogue',
        run: async () => `/catalogue?q=${encodeURIComponent(reading.partNumber)}`,
      };
    case 'serial':
      return {
        id: 'serial',
        does: 'notes the serial on this ticket',
        run: onThis({ type: 'serial-noted', serial: reading.serial }),
      };
    case 'code':
      return {
        id: `code ${reading.code}`,
        does: 'notes the code on this ticket',
        run: onThis({
          type: 'code-noted',
          code: reading.code,
          findingId: reading.findingId,
          meaning: reading.meaning,
        }),
      };
    case 'finding':
      return {
        id: `finding ${reading.findingId}`,
        does: 'notes it on this ticket',
        run: onThis({
          type: 'finding-noted',
          findingId: reading.findingId,
          answer: 'yes',
          threeWords: reading.threeWords,
        }),
      };
    case 'bearing':
      return {
        id: `bearing ${reading.designation}`,
        does: 'shows who carries it',
        run: async () => `/catalogue?q=${reading.designation}`,
      };
    case 'size':
      return {
        id: 'size',
        does: 'looks for it in the catalogue',
        run: async () => `/catalogue?q=${encodeURIComponent(text)}`,
      };
    case 'ticket':
      return { id: `ticket ${reading.ticketId}`, does: 'opens it', run: async () => `/ticket/${reading.ticketId}` };
    case 'order':
      return { id: `order ${reading.orderId}`, does: 'opens the orders', run: async () => '/orders' };
  }
}

/** The machine is one that no list has: the one that lies open without a plate, else a new one. Without a number in the line all of it names the machine. */
function notListed(parted: NumberAndWords, ticket: TicketState | null): InputAction {
  const line = parted.number === '' ? { number: parted.words, words: '' } : parted;
  const fact: Fact = { type: 'plate-not-listed', text: line.number };
  if (ticket && !ticket.closed && !ticket.plate && ticket.plateNotListed === null)
    return {
      id: 'unlisted',
      does: withComplaint('this machine is not listed', line),
      noted: 'this machine is in no list',
      run: async () => {
        await noted(ticket.ticketId, note(fact, ...complaintIn(line, ticket)));
        return null;
      },
    };
  return {
    id: 'unlisted',
    does: withComplaint('opens a ticket; the plate can be read later', line),
    run: async () => `/ticket/${await opened(fact, ...complaintIn(line, null))}`,
  };
}

/** What is always possible, whatever the text is: a note on the open ticket, or a machine that the catalogue does not know. */
export function plainActions(
  text: string,
  line: NumberAndWords,
  ticket: TicketState | null,
  role: AskedRole | null,
): { what: string; action: InputAction }[] {
  const hasDigit = /\d/.test(text);
  const notes =
    ticket && !ticket.closed
      ? [
          {
            what: 'a note',
            action: {
              id: 'note',
              does: 'adds it to this ticket',
              run: async () => {
                await noted(ticket.ticketId, remark(text));
                return null;
              },
            },
          },
        ]
      : [];
  const oldNumbers =
    ticket && !ticket.closed && role && hasDigit
      ? [
          {
            what: `on the old ${role.roleName}, just as typed`,
            action: {
              id: 'old number',
              does: ON_OLD_PART,
              run: async () => {
                await noted(ticket.ticketId, note({ type: 'old-number-read', roleId: role.roleId, text }));
                return null;
              },
            },
          },
        ]
      : [];
  return [
    ...notes,
    ...oldNumbers,
    hasDigit && line.number !== ''
      ? { what: NOT_LISTED, action: notListed(line, ticket) }
      : {
          what: 'a new machine, with this as the complaint',
          action: {
            id: 'complaint',
            does: 'opens a ticket; the plate can be read later',
            run: async () => `/ticket/${await opened({ type: 'complaint-noted', text })}`,
          },
        },
  ];
}
