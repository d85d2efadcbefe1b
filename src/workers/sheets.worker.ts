import { expose } from 'comlink';
import Papa from 'papaparse';
import type { Catalogue } from '@/core/catalogue';
import {
  ambiguityOf,
  guessColumns,
  guessKind,
  isDayFirst,
  readSheetRow,
  roleOfName,
  sheetCatalogue,
  type Ambiguity,
  type SheetKind,
  type SheetMapping,
  type SheetProblem,
  type SheetRow,
} from '@/core/sheets';
import { usesDecimalComma } from '@/core/prices';
import type { LocalDate, RoleId } from '@/core/units';
import {
  catalogueOf,
  database,
  readPriceFile,
  rememberSheet,
  sheetChanges,
  sheetHabit,
  sheetLayer,
  sheetWorld,
  putCustomers,
  takeSheet,
  type PriceTable,
  type SheetChanges,
  type SheetHabit,
} from '@/store';

export type OpenedSheet =
  | {
      kind: 'table';
      header: string[];
      sample: string[][];
      rows: number;
      notes: string[];
      /** As read the last time, or as it looks. */
      habit: Omit<SheetHabit, 'kind'> & { kind: SheetKind | null };
      remembered: boolean;
    }
  | { kind: 'unreadable'; why: string };

export type ProposedColumns = { mapping: SheetMapping; decimalComma: boolean; dayFirst: boolean; ambiguity: Ambiguity };

/** A name of a part in the list, how often it stands there, and the role that it means. */
export type NamedPart = { name: string; rows: number; roleId: RoleId | null };

export type CheckedSheet = {
  good: number;
  problems: SheetProblem[];
  badRows: number;
  names: NamedPart[];
  /** The first good rows, as they will be read. */
  read: SheetRow[];
  counts: Partial<Record<keyof Catalogue, number>>;
  /** Numbers of the list that a layer below lists already. */
  known: { models: number; parts: number };
  changes: SheetChanges | null;
};

const SAMPLE = 200;
const AT_ONCE = 2000;
let table: PriceTable | null = null;
let good: SheetRow[] = [];
let bad: { row: number; why: string }[] = [];
let stop = false;

const cellsOf = ({ header }: PriceTable, values: readonly string[]): Record<string, string> =>
  Object.fromEntries(header.map((name, column) => [name, values[column] ?? '']));
const sampleOf = (opened: PriceTable) => opened.rows.slice(0, SAMPLE).map((values) => cellsOf(opened, values));
const breath = () => new Promise<void>((resolve) => setTimeout(resolve, 0));
const opened = (): PriceTable => {
  if (!table) throw new Error('Bug: no list is open');
  return table;
};

function propose(kind: SheetKind): ProposedColumns {
  const rows = sampleOf(opened());
  const mapping = guessColumns(kind, opened().header);
  return withMarks(mapping, rows);
}

function withMarks(mapping: SheetMapping, rows: readonly Record<string, string>[]): ProposedColumns {
  const figures = [mapping.price, mapping.capacity].flatMap((column) =>
    column ? rows.map((row) => row[column] ?? '') : [],
  );
  return {
    mapping,
    decimalComma: usesDecimalComma(figures),
    dayFirst: isDayFirst(mapping, rows),
    ambiguity: ambiguityOf(mapping, rows),
  };
}

/** Every name of a part with the role that it means: as said, else as it looks. */
async function namesIn(rows: readonly SheetRow[], said: SheetHabit['roles']): Promise<NamedPart[]> {
  const counts = new Map<string, number>();
  for (const { texts } of rows) if (texts.partName) counts.set(texts.partName, (counts.get(texts.partName) ?? 0) + 1);
  const roles = (await (await catalogueOf(database())).table('roles')).filter(({ id }) => id !== 'unsorted');
  return [...counts]
    .map(([name, count]): NamedPart => ({
      name,
      rows: count,
      roleId: said[name] === undefined ? roleOfName(name, roles) : said[name],
    }))
    .sort((a, b) => b.rows - a.rows);
}

const wordsOf = ({ source, style }: SheetHabit, names: readonly NamedPart[], today: LocalDate) => ({
  source: source.trim(),
  today,
  currency: style.currency,
  roles: Object.fromEntries(names.map(({ name, roleId }) => [name, roleId])),
});

async function made(habit: SheetHabit, today: LocalDate) {
  const { kind, source } = habit;
  if (kind === 'customers') return null;
  const named = sheetLayer(kind, source);
  const world = await sheetWorld(database(), named, good);
  const names = await namesIn(good, habit.roles);
  const { catalogue, platformOf } = sheetCatalogue(kind, good, wordsOf(habit, names, today), world);
  return { named, world, catalogue, platformOf };
}

const api = {
  async open(
    file: File,
    currency: string,
    progress: (done: number, total: number) => void = () => undefined,
  ): Promise<OpenedSheet> {
    stop = false;
    good = [];
    bad = [];
    const read = await readPriceFile(file, progress, () => stop);
    if (read.kind !== 'table')
      return {
        kind: 'unreadable',
        why: read.kind === 'ubl' ? 'This is a catalogue in XML: give it to “Price lists of suppliers”.' : read.why,
      };
    table = read;
    const known = await sheetHabit(database(), read.header);
    const kind = known?.kind ?? guessKind(read.header);
    const { mapping, decimalComma, dayFirst } = kind
      ? propose(kind)
      : { mapping: {}, decimalComma: false, dayFirst: true };
    return {
      kind: 'table',
      header: read.header,
      sample: read.rows.slice(0, 5),
      rows: read.rows.length,
      notes: read.notes,
      habit: known ?? {
        kind,
        source: file.name.replace(/\.[a-z]+$/i, ''),
        mapping,
        style: { decimalComma, currency, dayFirst },
        roles: {},
      },
      remembered: known !== null,
    };
  },

  propose: (kind: SheetKind): ProposedColumns => propose(kind),

  /** Whether the columns as they are chosen hold what can be read in two ways. */
  ambiguity: (mapping: SheetMapping): Ambiguity => withMarks(mapping, sampleOf(opened())).ambiguity,

  /** Reads every row and says what would come of it. Nothing is stored but how it is read. null: stopped. */
  async check(
    habit: SheetHabit,
    today: LocalDate,
    progress: (done: number, total: number) => void,
  ): Promise<CheckedSheet | null> {
    stop = false;
    good = [];
    bad = [];
    const problems: SheetProblem[] = [];
    const source = opened();
    for (const [index, values] of source.rows.entries()) {
      if (index % AT_ONCE === 0) {
        progress(index, source.rows.length);
        await breath();
        if (stop) return null;
      }
      const read = readSheetRow(habit.kind, habit.mapping, habit.style, cellsOf(source, values), index + 2);
      if (read.ok) good.push(read.value);
      else {
        problems.push(...read.error);
        bad.push({ row: index, why: read.error.map(({ field, why }) => `${field} ${why}`).join('; ') });
      }
    }
    const result = await made(habit, today);
    await rememberSheet(database(), source.header, habit);
    return {
      good: good.length,
      problems: problems.slice(0, 500),
      badRows: bad.length,
      names: await namesIn(good, habit.roles),
      read: good.slice(0, 5),
      counts: result
        ? Object.fromEntries(Object.entries(result.catalogue).map(([name, rows]) => [name, rows.length]))
        : {},
      known: { models: result?.world.models.size ?? 0, parts: result?.world.parts.size ?? 0 },
      changes: result ? await sheetChanges(database(), result.named, result.catalogue) : null,
    };
  },

  cancel(): void {
    stop = true;
  },

  /** The rows that could not be read, as they stand, with why: to be mended and given again. */
  badRows(): Blob {
    const source = opened();
    const lines = bad.map(({ row, why }) => [
      ...source.header.map((_, column) => source.rows[row]?.[column] ?? ''),
      why,
    ]);
    const text = Papa.unparse([[...source.header, 'what is wrong'], ...lines], { newline: '\r\n' });
    return new Blob(['\ufeff', text, '\r\n'], { type: 'text/csv;charset=utf-8' });
  },

  /** The good rows into the catalogue, as a layer of their source; customers into the list of customers. How many. */
  async apply(habit: SheetHabit, today: LocalDate): Promise<number> {
    const db = database();
    await rememberSheet(db, opened().header, habit);
    const result = await made(habit, today);
    if (!result) return putCustomers(db, good);
    await takeSheet(db, result.named, result.catalogue, result.platformOf);
    return good.length;
  },
};

export type SheetsApi = typeof api;
expose(api);
