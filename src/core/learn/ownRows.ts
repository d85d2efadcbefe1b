import {
  emptyCatalogue,
  isTableName,
  POSITIONS,
  rowCells,
  tables,
  type Catalogue,
  type Offer,
  type Position,
  type Row,
  type TableName,
} from '../catalogue';
import {
  designsBy,
  isUnlistedModel,
  kindText,
  namedMaker,
  namedSupplier,
  tubSeen,
  typedPart,
  UNKNOWN_MAKE,
  unlistedModel,
} from '../identify';
import type { OrderState } from '../order';
import { rowKey } from '../package';
import {
  addDays,
  asDay,
  asId,
  groupBy,
  unique,
  zeroMoney,
  type Instant,
  type LocalDate,
  type MakerId,
  type OrderId,
  type PartId,
  type PlatformId,
  type SupplierId,
  type TicketId,
} from '../units';
import type { Lesson } from './lessons';

/** What a row was learned from. */
export type LearnedFrom =
  | { kind: 'ticket'; ticketId: TicketId; number: number; at: Instant }
  | { kind: 'order'; orderId: OrderId; number: string; at: Instant };

/** A row of the shop's own: learned as it stands, in other words of the shop's own, or struck out. */
export type OwnEntry = {
  id: string;
  table: TableName;
  cells: Record<string, string>;
  state: 'learned' | 'corrected' | 'struck';
  from: LearnedFrom[];
};

export type OwnRows = { rows: Catalogue; entries: OwnEntry[] };

/** What the shop itself says of a row, in place of what follows from its tickets; null: struck out. */
export type Correction = { id: string; table: string; cells: Record<string, string> | null };

/** What learning needs of the layers below. */
export type Below = Pick<
  Catalogue,
  'designs' | 'kind_questions' | 'kind_answers' | 'kind_likelihoods' | 'suppliers' | 'makers' | 'badges' | 'roles'
>;

/** A fit that nobody listed, before it was ever proved: so surely, as if that had been seen in so many cases. */
const FIT_PRIOR = { probability: 0.85, cases: 2 };
/** A model is made for some years before and after the one that was seen. */
const MADE_FOR_YEARS = 2;
const USUAL_AGE = { from: 3, to: 15 };
/** Nobody counts the stock of a supplier without a list. */
const ENOUGH = 999;
const DAYS_OF_A_TYPED_PART = 3;
const YEAR_DAYS = 365.25;

/** P(it fits) after so many proofs and failures: the mean of a beta distribution. */
export const fitProbability = (proved: number, failed: number): number =>
  (FIT_PRIOR.probability * FIT_PRIOR.cases + proved) / (FIT_PRIOR.cases + proved + failed);

export const ownRowId = (table: TableName, row: Readonly<Record<string, unknown>>): string =>
  `${table} ${rowKey(table, row)}`;

/** Rows as they are collected, each with what it was learned from; the last word on a key counts. */
class Collected {
  readonly found = new Map<string, { table: TableName; row: Row<TableName>; from: LearnedFrom[] }>();

  put<T extends TableName>(table: T, row: Row<T>, from: readonly LearnedFrom[]): void {
    const id = ownRowId(table, row);
    this.found.set(id, { table, row, from: [...(this.found.get(id)?.from ?? []), ...from] });
  }

  row<T extends 'parts' | 'offers'>(table: T, id: string): Row<T> | null {
    // The table names the row's type; TypeScript cannot follow that.
    return (this.found.get(ownRowId(table, { id }))?.row as Row<T> | undefined) ?? null;
  }
}

/**
 * The shop's own layer of the catalogue: what its tickets and orders taught, in today's words of the shop. Models that nobody listed, with how they are built;
 * numbers that were typed, with their suppliers, prices and sizes; fits that were proved; numbers that suppliers replaced. Pure: the same tickets give the same
 * rows, and what is taken back on a ticket is gone here too. O(lessons + orders).
 */
export function ownRows(
  lessons: readonly Lesson[],
  orders: readonly OrderState[],
  corrections: readonly Correction[],
  below: Below,
): OwnRows {
  const collected = new Collected();
  const ordered = [...lessons].sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : a.number - b.number));
  learnModels(collected, ordered, below);
  const typed = ordered
    .flatMap((lesson) => Object.values(lesson.typed).map((one) => ({ lesson, one })))
    .sort((a, b) => (a.one.at < b.one.at ? -1 : a.one.at > b.one.at ? 1 : a.lesson.number - b.lesson.number));
  for (const { lesson, one } of typed) learnTyped(collected, lesson, one, below);
  learnFits(collected, ordered);
  for (const order of [...orders].sort((a, b) => (a.madeAt < b.madeAt ? -1 : 1))) learnOrder(collected, order);
  return corrected(collected, corrections);
}

const fromTicket = ({ ticketId, number, at }: Lesson): LearnedFrom => ({ kind: 'ticket', ticketId, number, at });

/** The names of makes, suppliers and badges in the layers below are theirs; others are the shop's own. */
const sameName = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

function makeOf(name: string, below: Below): { makerId: MakerId; badgeId: string; own: boolean; name: string } {
  if (name.trim() === '') return { ...UNKNOWN_MAKE, own: true };
  const badge = below.badges.find((entry) => sameName(entry.name, name));
  if (badge) return { makerId: badge.makerId, badgeId: badge.id, own: false, name: badge.name };
  const said = name.trim();
  const makerId = below.makers.find((maker) => sameName(maker.name, said))?.id ?? namedMaker(said);
  return { makerId, badgeId: `badge:${makerId}`, own: true, name: said };
}

type Window = { from: LocalDate; to: LocalDate };

/** When a machine of which so much is known was probably made. */
function madeIn({ boughtOn, guessedYears, openedAt }: NonNullable<Lesson['unlisted']>): Window {
  const opened = asDay(openedAt.slice(0, 10));
  const before = (years: number) => addDays(opened, -Math.round(years * YEAR_DAYS));
  if (boughtOn) return { from: addDays(boughtOn, -Math.round(YEAR_DAYS)), to: boughtOn };
  if (guessedYears !== null) return { from: before(guessedYears * 1.25), to: before(guessedYears * 0.75) };
  return { from: before(USUAL_AGE.to), to: before(USUAL_AGE.from) };
}

function learnModels(into: Collected, lessons: readonly Lesson[], below: Below): void {
  const seen = lessons.filter((lesson) => lesson.unlisted !== null);
  for (const [id, same] of groupBy(seen, (lesson) => unlistedModel(lesson.unlisted?.number ?? ''))) {
    const facts = same.flatMap(({ unlisted }) => unlisted ?? []);
    const [first] = facts;
    if (!first) continue;
    const kind = Object.fromEntries(
      facts.flatMap((fact) => Object.entries(fact.kind).filter(([, answer]) => answer !== null)),
    );
    const [lead] = designsBy(below, kind);
    if (!lead) continue;
    const make = makeOf(facts.map((fact) => fact.make).findLast((name) => name !== '') ?? '', below);
    // Where anybody knew an age, what nobody knew widens nothing.
    const known = facts.filter(({ boughtOn, guessedYears }) => boughtOn !== null || guessedYears !== null);
    const windows = (known.length ? known : facts).map(madeIn);
    const from = same.map(fromTicket);
    const { design } = lead;
    const sisters = facts.map((fact) => fact.platformId).findLast((platform) => platform !== null) ?? null;
    const platformId = sisters ?? asId<PlatformId>(id);
    if (make.own) {
      into.put('makers', { id: make.makerId, name: make.name }, from);
      into.put('badges', { id: make.badgeId, name: make.name, makerId: make.makerId }, from);
    }
    if (sisters === null)
      into.put(
        'platforms',
        {
          id: platformId,
          makerId: make.makerId,
          name: first.number,
          design: design.id,
          tags: design.tags,
          loading: design.loading,
          tub: tubSeen(below, kind) ?? (design.tags.includes('welded') ? 'welded' : 'bolted'),
          description: design.name,
          serviceMode: undefined,
          seen: kindText(kind),
        },
        from,
      );
    into.put(
      'models',
      {
        id,
        modelNumber: first.number,
        badgeId: make.badgeId,
        makerId: make.makerId,
        platformId,
        popularity: same.length,
        producedFrom: addDays(least(windows.map((window) => window.from)), -Math.round(MADE_FOR_YEARS * YEAR_DAYS)),
        producedTo: addDays(most(windows.map((window) => window.to)), Math.round(MADE_FOR_YEARS * YEAR_DAYS)),
        capacityKg: 0,
        spinRpm: 0,
      },
      from,
    );
  }
}

const least = (days: readonly LocalDate[]): LocalDate => days.reduce((a, b) => (a < b ? a : b));
const most = (days: readonly LocalDate[]): LocalDate => days.reduce((a, b) => (a > b ? a : b));

/** A supplier without a name is whoever is asked. */
const WHOEVER = 'Whoever has it';

export function supplierNamed(
  name: string,
  below: Pick<Below, 'suppliers'>,
): { id: SupplierId; name: string; own: boolean } {
  const said = name.trim() === '' ? WHOEVER : name.trim();
  const listed = below.suppliers.find((supplier) => sameName(supplier.name, said));
  return listed ? { id: listed.id, name: listed.name, own: false } : { id: namedSupplier(said), name: said, own: true };
}

function learnTyped(into: Collected, lesson: Lesson, typed: Lesson['typed'][string], below: Below): void {
  const from: LearnedFrom[] = [{ ...fromTicket(lesson), at: typed.at }];
  const id = typedPart(typed.partNumber);
  const role = below.roles.find((entry) => entry.id === typed.roleId);
  into.put(
    'parts',
    {
      id,
      partNumber: typed.partNumber,
      makerId: undefined,
      roleId: typed.roleId,
      description: role?.name ?? typed.roleId,
      kind: 'maker',
      status: 'current',
    },
    from,
  );
  for (const [property, value] of Object.entries(lesson.measured[typed.roleId] ?? {}))
    into.put('part_properties', { partId: id, property, value }, from);
  if (!typed.piecePrice) return;
  const supplier = supplierNamed(typed.supplierName, below);
  const none = zeroMoney(typed.piecePrice.currency);
  if (supplier.own) putSupplier(into, supplier, none, from);
  into.put(
    'offers',
    {
      id: `${supplier.id} ${id}`,
      supplierId: supplier.id,
      partId: id,
      supplierNumber: typed.partNumber,
      packPrice: typed.piecePrice,
      packQuantity: 1,
      stockPacks: ENOUGH,
      handlingDays: typed.days ?? DAYS_OF_A_TYPED_PART,
      asOf: asDay(typed.at.slice(0, 10)),
    },
    from,
  );
}

function putSupplier(
  into: Collected,
  { id, name }: { id: SupplierId; name: string },
  none: Offer['packPrice'],
  from: readonly LearnedFrom[],
): void {
  into.put('suppliers', { id, name, minimumOrder: none, restocking: 0, note: undefined, orders: undefined }, from);
  into.put(
    'shipping_modes',
    { id: `mode ${id}`, supplierId: id, name: 'As agreed', fee: none, freeOver: undefined, transitDays: 0 },
    from,
  );
}

const isPosition = (text: string): text is Position => POSITIONS.some((position) => position === text);

function learnFits(into: Collected, lessons: readonly Lesson[]): void {
  const cases = lessons.flatMap((lesson) => {
    const { modelId } = lesson;
    return modelId === null ? [] : lesson.fitted.map((fitted) => ({ lesson, modelId, fitted }));
  });
  const key = ({ modelId, fitted }: (typeof cases)[number]) =>
    `fit ${modelId} ${fitted.roleId} ${fitted.position} ${fitted.partId}`;
  for (const [id, same] of groupBy(cases, key)) {
    const last = same.at(-1);
    if (!last) continue;
    const failed = same.filter(({ fitted }) => fitted.came === 'failed').length;
    const { modelId, fitted } = last;
    into.put(
      'fits',
      {
        id,
        modelId,
        platformId: undefined,
        roleId: fitted.roleId,
        partId: fitted.partId,
        position: isPosition(fitted.position) ? fitted.position : 'any',
        builtFrom: undefined,
        builtTo: undefined,
        quantity: fitted.quantity,
        probability: Math.round(1000 * fitProbability(same.length - failed, failed)) / 1000,
      },
      unique(same.map(({ lesson }) => lesson)).map(fromTicket),
    );
  }
}

/** What a supplier said of a number, and what a supplier of the shop's own was paid. */
function learnOrder(into: Collected, order: OrderState): void {
  const from: LearnedFrom[] = [{ kind: 'order', orderId: order.orderId, number: order.number, at: order.madeAt }];
  const asOf = asDay(order.madeAt.slice(0, 10));
  for (const line of order.lines) {
    const { partId, answeredNumber, answeredPrice } = line;
    const part = into.row('parts', partId);
    const offer = into.row('offers', `${order.supplierId} ${partId}`);
    const here = line.received.some(({ verdict }) => verdict !== 'wrong');
    if (line.status === 'substituted' && answeredNumber !== line.partNumber) {
      const toPartId: PartId = line.answeredPartId === partId ? typedPart(answeredNumber) : line.answeredPartId;
      if (part) {
        into.put('parts', { ...part, status: 'discontinued' }, from);
        if (toPartId === typedPart(answeredNumber))
          into.put('parts', { ...part, id: toPartId, partNumber: answeredNumber, status: 'current' }, from);
      }
      into.put(
        'relations',
        {
          id: `${partId} ${toPartId}`,
          fromPartId: partId,
          toPartId,
          kind: 'superseded-by',
          quantity: 1,
          source: order.supplierName,
          note: undefined,
          builtFrom: undefined,
          builtTo: undefined,
        },
        from,
      );
      if (offer)
        into.put(
          'offers',
          {
            ...offer,
            id: `${order.supplierId} ${toPartId}`,
            partId: toPartId,
            supplierNumber: answeredNumber,
            packPrice: answeredPrice,
            asOf,
          },
          from,
        );
    } else if (offer && here) into.put('offers', { ...offer, packPrice: answeredPrice, asOf }, from);
  }
}

/** The shop's own words in place of what was learned; what hangs on a row that was struck goes with it. */
function corrected({ found }: Collected, corrections: readonly Correction[]): OwnRows {
  const said = new Map(corrections.map((correction) => [correction.id, correction]));
  const entries = [...found].map(([id, { table, row, from }]): OwnEntry => {
    const correction = said.get(id);
    const cells = cellsOf(table, row);
    if (!correction) return { id, table, cells, state: 'learned', from };
    return correction.cells === null
      ? { id, table, cells, state: 'struck', from }
      : { id, table, cells: { ...cells, ...correction.cells }, state: 'corrected', from };
  });
  for (const { id, table, cells } of corrections)
    if (!found.has(id) && cells !== null && isTableName(table))
      entries.push({ id, table, cells, state: 'corrected', from: [] });
  const rows = emptyCatalogue();
  for (const entry of entries) if (entry.state !== 'struck') take(rows, entry);
  return { rows: withoutLooseEnds(rows, entries), entries };
}

export const cellsOf = (table: TableName, row: Row<TableName>): Record<string, string> => {
  const cells = rowCells(table, row);
  return Object.fromEntries(
    Object.keys(tables[table].columns.shape).map((column, index) => [column, cells[index] ?? '']),
  );
};

function take(rows: ReturnType<typeof emptyCatalogue>, { table, cells }: OwnEntry): void {
  const read = tables[table].columns.safeParse(cells);
  // The parser of the table gives its row; TypeScript cannot follow that.
  if (read.success) (rows[table] as unknown[]).push(read.data);
}

/** Own rows that name an own row which was struck out say nothing any more. */
function withoutLooseEnds(rows: Catalogue, entries: readonly OwnEntry[]): Catalogue {
  const struck = new Set(entries.filter(({ state }) => state === 'struck').map(({ id }) => id));
  if (struck.size === 0) return rows;
  const lives = (table: TableName, id: string | undefined) => id === undefined || !struck.has(`${table} ${id}`);
  return {
    ...rows,
    models: rows.models.filter((row) => lives('platforms', row.platformId)),
    part_properties: rows.part_properties.filter((row) => lives('parts', row.partId)),
    fits: rows.fits.filter((row) => lives('parts', row.partId) && lives('models', row.modelId)),
    relations: rows.relations.filter((row) => lives('parts', row.fromPartId) && lives('parts', row.toPartId)),
    offers: rows.offers.filter((row) => lives('parts', row.partId) && lives('suppliers', row.supplierId)),
    shipping_modes: rows.shipping_modes.filter((row) => lives('suppliers', row.supplierId)),
  };
}

/** How many of the shop's own models each was seen how often: what a new plate is held against (Good and Turing). */
export function unlistedShare(models: Catalogue['models']): { once: number; seen: number } {
  const own = models.filter(({ id }) => isUnlistedModel(id));
  return {
    once: own.filter(({ popularity }) => popularity === 1).length,
    seen: own.reduce((sum, { popularity }) => sum + popularity, 0),
  };
}

/** P(the next machine is in no package) before anything is known of a shop, and how many machines that counts as. Never less: an unlisted number that was taken for a listed one is not seen. */
const ABSENT = { share: 0.1, cases: 50 };

/**
 * P(the next machine is listed nowhere, not even by the shop itself): of the machines that were closed, those that came as a number that no list had; a tenth of fifty added.
 * `counts`: closed tickets by model. From 0.1 to 1. O(models).
 */
export function absentShare(counts: ReadonlyMap<string, number>): number {
  let [closed, first] = [0, 0];
  for (const [id, count] of counts) {
    closed += count;
    // The second of a kind is listed: by the shop.
    if (isUnlistedModel(id)) first += 1;
  }
  return Math.max(ABSENT.share, (ABSENT.share * ABSENT.cases + first) / (ABSENT.cases + closed));
}
