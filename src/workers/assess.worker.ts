import { expose } from 'comlink';
import {
  compose,
  createDesk,
  type Assessment,
  type ChapterName,
  type Desk,
  type Unread,
  type Weighed,
} from '@/core/case';
import type { Catalogue } from '@/core/catalogue';
import { donorsFor, numbersOn, type DonorMatch, type DonorQuestion, type NumberOnMachine } from '@/core/fit';
import type { TicketState } from '@/core/ticket';
import { localDateOf, stableJson, type Instant, type TicketId } from '@/core/units';
import { eventStore, loadSettings, type CatalogueReader } from '@/store';
import { catalogueFor, donorsOnShelf, readerOfToday, worldOf } from './world';

/** What the page has not got yet. `version` names what it then has. */
export type Assessed =
  | { kind: 'gone' }
  | { kind: 'unread'; sequence: number; version: number; assessment: Unread }
  | { kind: 'weighed'; sequence: number; version: number; changed: Partial<Omit<Weighed, 'kind'>> };

/** One ticket on the desk: what was asked of it last, and what the page was given. */
type Table = {
  desk: Desk;
  question: { state: TicketState; now: Instant } | null;
  given: Weighed | null;
  version: number;
};

const numbered = new WeakMap<Catalogue, { key: string; numbers: readonly NumberOnMachine[] }>();
const tables = new Map<string, Table>();
const MOST_TABLES = 4;
let versions = 0;

function tableOf(ticketId: TicketId): Table {
  const known = tables.get(ticketId) ?? { desk: createDesk(), question: null, given: null, version: 0 };
  // The one used last is the last to go.
  tables.delete(ticketId);
  tables.set(ticketId, known);
  const [oldest] = tables.keys();
  if (tables.size > MOST_TABLES && oldest !== undefined) tables.delete(oldest);
  return known;
}

/** What of an assessment the page has not got. */
function changesFor(table: Table, assessment: Weighed, have: number): Partial<Omit<Weighed, 'kind'>> {
  const given = table.version === have ? table.given : null;
  const names = Object.keys(assessment).filter((name): name is ChapterName => name !== 'kind');
  return Object.fromEntries(
    names.filter((name) => given?.[name] !== assessment[name]).map((name) => [name, assessment[name]]),
  );
}

function answer(table: Table, assessment: Assessment, sequence: number, have: number): Assessed {
  versions += 1;
  const version = versions;
  if (assessment.kind === 'unread') {
    Object.assign(table, { given: null, version });
    return { kind: 'unread', sequence, version, assessment };
  }
  const changed = changesFor(table, assessment, have);
  Object.assign(table, { given: assessment, version });
  return { kind: 'weighed', sequence, version, changed };
}

async function weigh(table: Table, from: CatalogueReader, state: TicketState, now: Instant): Promise<Assessment> {
  const world = await worldOf(state, from);
  table.question = { state, now };
  return compose(table.desk.run, world, state, now);
}

const api = {
  /** Donors that carry a part of this machine. */
  async donors(
    ticketId: TicketId,
    wanted: Pick<DonorQuestion, 'roleId' | 'position' | 'listedPartIds'>,
    now: Instant,
  ): Promise<DonorMatch[]> {
    const [from, donors, ticket, { zone }] = await Promise.all([
      readerOfToday(),
      donorsOnShelf(),
      eventStore().ticket(ticketId),
      loadSettings(),
    ]);
    const platformId = ticket?.state.plate?.platformId;
    if (!ticket || !platformId || donors.length === 0) return [];
    const today = localDateOf(now, zone);
    return donorsFor(await catalogueFor(ticket.state, from), donors, { ...wanted, platformId, today });
  },

  /** The numbers that may be printed on the parts of a ticket's machine, as it was weighed last; none before the machine is known. */
  async numbersOn(ticketId: TicketId): Promise<readonly NumberOnMachine[]> {
    const [from, table] = [await readerOfToday(), tables.get(ticketId)];
    if (!table?.question || !table.given) return [];
    const { state, now } = table.question;
    const { candidates: models } = table.given.machine;
    const catalogue = await catalogueFor(state, from);
    const { zone } = await loadSettings();
    const key = stableJson({ models, serial: state.serial });
    const known = numbered.get(catalogue);
    if (known?.key === key) return known.numbers;
    const question = { models, serial: state.serial ?? undefined, today: localDateOf(now, zone) };
    const numbers = numbersOn(catalogue, question);
    numbered.set(catalogue, { key, numbers });
    return numbers;
  },

  /** What follows from a ticket as it is stored. `have`: the version that the page has; it is given what is new since. */
  async assess(ticketId: TicketId, now: Instant, have: number): Promise<Assessed> {
    const from = await readerOfToday();
    const ticket = await eventStore().ticket(ticketId);
    if (!ticket) return { kind: 'gone' };
    const table = tableOf(ticketId);
    return answer(table, await weigh(table, from, ticket.state, now), ticket.state.sequence, have);
  },

  /** The same question answered better, as far as any chapter can; null when none can, or when something else was asked meanwhile. */
  async refine(ticketId: TicketId, have: number): Promise<Assessed | null> {
    const [from, table] = [await readerOfToday(), tables.get(ticketId)];
    if (!table?.question || table.version !== have || !table.desk.refine()) return null;
    const { state, now } = table.question;
    return answer(table, await weigh(table, from, state, now), state.sequence, have);
  },
};

export type AssessApi = typeof api;
expose(api);
