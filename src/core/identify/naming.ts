import { isKnowledge, tableNames, tables, type Row, type TableName } from '../catalogue';
import { normaliseNumber } from './plate/normal';

/** Which columns of a table name rows that are a package's own (not the trade's knowledge, whose ids everybody shares). */
type OwnColumns = { column: string; table: TableName }[];

const isOwn = (table: string): table is TableName =>
  tableNames.some((name) => name === table) && !isKnowledge(table as TableName);

const OWN_COLUMNS: ReadonlyMap<TableName, OwnColumns> = new Map(
  tableNames.map((table) => {
    const refs: Record<string, string> = tables[table].refs;
    const named = Object.entries(refs).flatMap(([column, to]) => (isOwn(to) ? [{ column, table: to }] : []));
    const own = isOwn(table) && 'id' in tables[table].columns.shape ? [{ column: 'id', table }] : [];
    return [table, [...own, ...named]];
  }),
);

const words = (text: unknown): string => String(text).trim().replace(/\s+/g, ' ').toLowerCase();

/**
 * What a person would know a row by, in whatever package it stands: a maker or a supplier by its name, a badge or a platform by name and maker, a model or a part
 * by number and maker. null for rows that are only of their package.
 */
export function knownBy(table: TableName, row: Readonly<Record<string, unknown>>): string | null {
  const maker = String(row['makerId'] ?? '');
  switch (table) {
    case 'makers':
    case 'suppliers':
      return `${table}\u0001${words(row['name'])}`;
    case 'badges':
    case 'platforms':
      return `${table}\u0001${maker}\u0001${words(row['name'])}`;
    case 'models':
      return `${table}\u0001${maker}\u0001${normaliseNumber(String(row['modelNumber']))}`;
    case 'parts':
      return `${table}\u0001${maker}\u0001${normaliseNumber(String(row['partNumber']))}`;
    default:
      return null;
  }
}

/** Tables whose rows are known by more than their id, in the order in which they must be read. */
export const KNOWN_TABLES = [
  'makers',
  'badges',
  'platforms',
  'models',
  'parts',
  'suppliers',
] as const satisfies readonly TableName[];

/**
 * Says the ids of one package as the shop's catalogue says them. Two packages may use the same id for different things, and different ids for the same thing: a row
 * that is known by its name or number in another layer gets that layer's id, every other id gets the package's prefix. Rows must come table by table in the order
 * of the tables, so that whatever a row refers to was said before. O(columns) a row; memory: one entry for each row that is known elsewhere.
 */
export class Naming {
  private readonly prefix: string;
  private readonly elsewhere: ReadonlyMap<string, string>;
  /** By table, the ids that another layer has under its own. */
  private readonly same = new Map<TableName, Map<string, string>>();

  /** `elsewhere`: `knownBy` → id, of the other layers. */
  constructor(prefix: string, elsewhere: ReadonlyMap<string, string>) {
    this.prefix = prefix;
    this.elsewhere = elsewhere;
  }

  /** Ids stay as they are. */
  get isPlain(): boolean {
    return this.prefix === '' && this.elsewhere.size === 0;
  }

  id(table: TableName, id: string): string {
    return this.same.get(table)?.get(id) ?? `${this.prefix}${id}`;
  }

  said<T extends TableName>(table: T, row: Row<T>): Row<T> {
    if (this.isPlain) return row;
    const said: Record<string, unknown> = { ...row };
    for (const { column, table: to } of OWN_COLUMNS.get(table) ?? [])
      if (column !== 'id' && typeof said[column] === 'string') said[column] = this.id(to, said[column]);
    if (isOwn(table) && typeof said['id'] === 'string') {
      const key = knownBy(table, said);
      const other = key === null ? undefined : this.elsewhere.get(key);
      if (other !== undefined) {
        const same = this.same.get(table) ?? new Map<string, string>();
        this.same.set(table, same.set(said['id'], other));
      }
      said['id'] = this.id(table, said['id']);
    }
    // Only the texts of ids changed.
    return said as Row<T>;
  }
}
