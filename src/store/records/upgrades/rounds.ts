import { count, list, plain, streamsOf, text, type Plain, type PlainTables, type Upgraded } from './plain';

/*
 * Version 2 → 3 of the events: decisions carry what they rest on, requirements have ids of their own, deliveries are known by the line of the order, steps
 * and verdicts are facts. Written against rows as version 2 wrote them.
 */

type Line = { lineId: string; units: number };
/** Lines by order, ticket and old requirement id, in the order of the order. */
type LineBook = ReadonlyMap<string, readonly Line[]>;
const lineKey = (orderId: string, ticketId: string, requirement: string) => `${orderId} ${ticketId} ${requirement}`;

function lineBook(orders: ReadonlyMap<string, readonly Plain[]>): LineBook {
  const book = new Map<string, Line[]>();
  for (const [stream, events] of orders)
    for (const event of events) {
      const data = plain(event['data']);
      if (data['type'] !== 'order-made') continue;
      for (const line of list(data['lines']))
        for (const entry of list(line['for'])) {
          const key = lineKey(stream.replace(/^order:/, ''), text(entry['ticketId']), text(entry['requirementId']));
          book.set(key, [...(book.get(key) ?? []), { lineId: text(line['offerId']), units: count(entry['units']) }]);
        }
    }
  return book;
}

/** New requirement ids by order, ticket and old id: the order's own lines are renamed with them. */
type Renamed = Map<string, string>;

type Walk = {
  ticketId: string;
  modelId: string | null;
  serial: string | null;
  causeId: string | null;
  parts: Plain[];
  /** Today's id and number of each old requirement id. */
  ids: Map<string, { id: string; number: string }>;
  offer: { id: string; options: Plain[] } | null;
  withParts: ReadonlySet<string>;
  taken: Map<string, number>;
};

const READING_WORDS: [string, string][] = [
  ['Within', 'within'],
  ['Too low', 'below'],
  ['Too high', 'above'],
  ['Open', 'open'],
];
const KINDS = ['best-fit', 'cheaper-part', 'while-open'];

const onOf = ({ modelId, serial, causeId }: Walk, cause: unknown = causeId): Plain => ({
  modelId,
  serial,
  causeId: typeof cause === 'string' && cause !== '' ? cause : null,
});

function boughtOf(row: Plain): Plain {
  const { unitPrice, ...bought } = row;
  return { ...bought, quantity: count(row['quantity']), cost: unitPrice ?? null };
}

function partsOf(rows: readonly Plain[], walk: Walk, sequence: unknown): Plain[] {
  return rows.flatMap((row) => {
    const { buy, ...part } = row;
    return list(buy).map((bought, index) => {
      const old = `${text(part['requirementId'])}${index > 0 ? ` ${index + 1}` : ''}`;
      const number = `${text(bought['partId'])} ${count(bought['quantity'])}`;
      const known = walk.ids.get(old);
      const id = !known ? old : known.number === number ? known.id : `${old} ${String(sequence)}`;
      walk.ids.set(old, { id, number });
      return {
        ...part,
        requirementId: id,
        bought: boughtOf(bought),
        alternatives: list(part['alternatives'])
          .filter((other) => other['quantity'] === bought['quantity'])
          .map(boughtOf),
      };
    });
  });
}

/** The next line of an order that this kind of event speaks of: version 2 wrote one event for each, in the order of the lines. */
function nextLine(data: Plain, walk: Walk, book: LineBook, renamed: Renamed): Line & { requirementId: string } {
  const [orderId, old] = [text(data['orderId']), text(data['requirementId'])];
  const key = lineKey(orderId, walk.ticketId, old);
  const requirementId = renamed.get(key) ?? walk.ids.get(old)?.id ?? old;
  renamed.set(key, requirementId);
  const counter = `${text(data['type'])} ${key}`;
  const index = walk.taken.get(counter) ?? 0;
  walk.taken.set(counter, index + 1);
  const lines = book.get(key) ?? [];
  return { ...(lines[index % Math.max(1, lines.length)] ?? { lineId: orderId || 'line', units: 1 }), requirementId };
}

function ticketData(event: Plain, walk: Walk, book: LineBook, renamed: Renamed): Plain {
  const data = plain(event['data']);
  switch (data['type']) {
    case 'plate-read':
      walk.modelId = text(data['modelId']);
      return data;
    case 'plate-not-listed':
      walk.modelId = null;
      return data;
    case 'serial-noted':
      walk.serial = text(data['serial']);
      return data;
    case 'code-noted':
      return { ...data, meaning: data['findingId'] === null ? null : data['meaning'] };
    case 'check-done': {
      const { text: said, ...rest } = data;
      const [title = '', ...outcome] = text(said).split(': ');
      return { ...rest, title, outcome: rest['outcomeId'] === null ? null : outcome.join(': ') };
    }
    case 'reading-noted': {
      const words = text(data['verdict']);
      const verdict = READING_WORDS.find(([start]) => words.startsWith(start))?.[1] ?? 'within';
      return { ...data, verdict, low: null, high: null };
    }
    case 'cause-decided':
      walk.causeId = text(data['causeId']);
      return { ...data, needsPart: walk.withParts.has(walk.causeId) };
    case 'fix-failed':
      walk.causeId = null;
      return data;
    case 'parts-chosen': {
      walk.parts = partsOf(list(data['parts']), walk, event['sequence']);
      return { ...data, parts: walk.parts, on: onOf(walk, data['causeId']) };
    }
    case 'quoted': {
      const options = list(data['options']).map((option): Plain => {
        const { title, causeId, ...rest } = option;
        return {
          ...rest,
          kind: KINDS.includes(text(option['id'])) ? option['id'] : 'best-fit',
          causeIds: text(causeId) ? [causeId] : [],
          causeNames: [text(title)],
          lines: [],
          parts: walk.parts,
        };
      });
      walk.offer = { id: text(event['id']), options };
      const currency = text(plain(options[0]?.['gross'])['currency'], 'EUR');
      return {
        ...data,
        options,
        fee: { gross: { amountMinor: 0, currency }, waived: true },
        on: onOf(walk, options[0]?.['causeIds'] instanceof Array ? options[0]['causeIds'][0] : walk.causeId),
      };
    }
    case 'customer-answered': {
      // What was said yes to had the parts that were chosen then; the options are still those of the offer's own row.
      const accepted = walk.offer?.options.find((option) => option['id'] === data['optionId']);
      if (accepted) accepted['parts'] = walk.parts;
      return { ...data, offer: walk.offer?.id ?? 'none' };
    }
    case 'part-ordered':
    case 'part-due':
    case 'part-order-cancelled': {
      const { lineId, units, requirementId } = nextLine(data, walk, book, renamed);
      const base = { ...data, requirementId, lineId };
      if (data['type'] === 'part-ordered') return { ...base, units };
      const why = text(data['why']);
      if (data['type'] === 'part-due') {
        const { why: _why, ...due } = base as Plain;
        const status = why === 'accepted' ? 'accepted' : /sold as|comes as/.test(why) ? 'substituted' : 'back-ordered';
        return { ...due, status, note: why === 'accepted' ? null : why };
      }
      const kind = why === 'cancelled here' ? 'cancelled' : why === 'not in the answer' ? 'not-in-answer' : 'rejected';
      return { ...base, why: kind, note: kind === 'rejected' ? why : null };
    }
    case 'part-received': {
      const { orderId, ...rest } = data;
      const fromShelf = typeof orderId !== 'string';
      const old = text(data['requirementId']);
      const part = walk.parts.find((entry) => entry['requirementId'] === walk.ids.get(old)?.id);
      const line = fromShelf ? null : nextLine(data, walk, book, renamed);
      return {
        ...rest,
        requirementId: line?.requirementId ?? walk.ids.get(old)?.id ?? old,
        from: line ? { kind: 'order', orderId, lineId: line.lineId } : { kind: 'shelf' },
        units: line?.units ?? count(plain(part?.['bought'])['quantity']),
        verdict: data['verdict'] === 'from-shelf' ? 'as-ordered' : data['verdict'],
      };
    }
    case 'step-ticked':
    case 'step-cleared': {
      const { key, operationId: _operation, ...rest } = data;
      const [phase = 'strip', ...operation] = text(key).split(' ');
      const operationId = operation.join(' ') || 'step';
      return { ...rest, step: { phase, operationId }, title: operationId };
    }
    case 'bench-finished':
      return { ...data, proofIds: null };
    case 'ready-told':
      return { ...data, how: 'phone' };
    case 'closed': {
      const { minutesTaken, plannedMinutes, ...rest } = data;
      return { ...rest, takenMinutes: minutesTaken ?? null, listMinutes: plannedMinutes ?? null };
    }
    default:
      return data;
  }
}

function orderData(data: Plain, orderId: string, renamed: Renamed): Plain {
  const line = (row: Plain): Plain => {
    const { offerId, unitPrice, ...rest } = row;
    return { ...rest, lineId: offerId, packPrice: unitPrice };
  };
  switch (data['type']) {
    case 'order-made':
      return {
        ...data,
        lines: list(data['lines']).map((row) => {
          const entries = list(row['for']);
          const packs = count(row['packs']);
          return {
            ...line(row),
            for: entries.map((entry) => {
              const same = entries.filter((other) => other['partId'] === entry['partId']);
              const units = same.reduce((sum, other) => sum + count(other['units']), 0);
              const [ticketId, old] = [text(entry['ticketId']), text(entry['requirementId'])];
              return {
                ...entry,
                requirementId: renamed.get(lineKey(orderId, ticketId, old)) ?? old,
                perPack: Math.max(1, Math.ceil(units / packs)),
              };
            }),
          };
        }),
      };
    case 'answered': {
      const answer = plain(data['answer']);
      return { ...data, answer: { ...answer, lines: list(answer['lines']).map(line) } };
    }
    case 'send-failed': {
      const { detail: _detail, attempt: _attempt, ...rest } = data;
      return {
        ...rest,
        // A refusal was tried again for ever: it is tried once more, and then it counts.
        why: data['why'] === 'refused' ? 'unreadable' : data['why'],
        status: null,
        retryAt: data['retryAt'] ?? '2000-01-01T00:00:00.000Z',
      };
    }
    case 'line-received': {
      const { offerId, ...rest } = data;
      return { ...rest, lineId: offerId, packs: count(data['packs']), measured: data['measured'] ?? [] };
    }
    case 'cancelled':
      return { ...data, why: 'not-sent' };
    default:
      return data;
  }
}

/** Goods-in was written to the order and to the ticket: the two are one act. */
function groupOf(event: Plain, data: Plain, orderId: string | null): string {
  const from = plain(data['from']);
  if (data['type'] === 'line-received') return `received ${orderId ?? ''} ${text(data['lineId'])}`;
  if (data['type'] === 'part-received' && from['kind'] === 'order')
    return `received ${text(from['orderId'])} ${text(from['lineId'])}`;
  return text(event['id']);
}

export function roundsAndLines(tables: PlainTables): Upgraded {
  const streams = streamsOf(tables['events'] ?? []);
  const orders = new Map([...streams].filter(([stream]) => stream.startsWith('order:')));
  const book = lineBook(orders);
  const renamed: Renamed = new Map();
  const upgraded: Plain[] = [];
  const put = (event: Plain, data: Plain, orderId: string | null) =>
    upgraded.push({ ...event, version: 2, groupId: groupOf(event, data, orderId), data });
  for (const [stream, events] of streams) {
    if (!stream.startsWith('ticket:')) continue;
    const chosenFor = events.map((event) => plain(event['data'])).filter(({ type }) => type === 'parts-chosen');
    const walk: Walk = {
      ticketId: stream.replace(/^ticket:/, ''),
      modelId: null,
      serial: null,
      causeId: null,
      parts: [],
      ids: new Map(),
      offer: null,
      withParts: new Set(chosenFor.map(({ causeId }) => text(causeId))),
      taken: new Map(),
    };
    for (const event of events) put(event, ticketData(event, walk, book, renamed), null);
  }
  for (const [stream, events] of orders) {
    const orderId = stream.replace(/^order:/, '');
    for (const event of events) put(event, orderData(plain(event['data']), orderId, renamed), orderId);
  }
  const others = [...streams].flatMap(([stream, events]) =>
    stream.startsWith('ticket:') || stream.startsWith('order:') ? [] : events,
  );
  return { tables: { ...tables, events: [...upgraded, ...others] }, aside: [] };
}
