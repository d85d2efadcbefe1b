import { expose } from 'comlink';
import { type Offer } from '@/core/catalogue';
import { guessMapping, readPriceRow, usesDecimalComma, type PriceProblem, type PriceRow } from '@/core/prices';
import { normaliseNumber } from '@/core/identify';
import { groupBy, moneyToDecimal, type SupplierId } from '@/core/units';
import {
  catalogueOf,
  database,
  habitOf,
  matchPrices,
  putPrices,
  readPriceFile,
  rememberHabit,
  type CatalogueReader,
  type MatchedPrices,
  type PriceFile,
  type PriceHabit,
} from '@/store';

export type OpenedList =
  | {
      kind: 'table';
      header: string[];
      sample: string[][];
      rows: number;
      notes: string[];
      habit: PriceHabit;
      remembered: boolean;
    }
  | { kind: 'ubl'; title: string; supplier: string; rows: number }
  | { kind: 'unreadable'; why: string };

export type PriceChange = { number: string; before: string; after: string; kind: 'dearer' | 'cheaper' };
export type CheckedList = {
  rows: number;
  problems: PriceProblem[];
  unknown: string[];
  otherMaker: string[];
  ambiguous: string[];
  doubled: string[];
  /** Against what the shop buys at today from this supplier. */
  dearer: number;
  cheaper: number;
  same: number;
  added: number;
  gone: number;
  /** The greatest first. */
  changes: PriceChange[];
};

const SHOWN = 40;
let opened: Exclude<PriceFile, { kind: 'unreadable' }> | null = null;
let checked: MatchedPrices | null = null;

async function catalogue(): Promise<CatalogueReader> {
  const reader = await catalogueOf(database());
  if (reader.isEmpty) throw new Error('There is no catalogue yet: a price list needs parts to belong to.');
  return reader;
}

const money = (price: Offer['packPrice']) => `${moneyToDecimal(price)} ${price.currency}`;

const api = {
  /** Reads a file and guesses its columns, or takes them as they were mapped for this supplier the last time. */
  async open(
    file: File,
    supplierId: SupplierId,
    currency: string,
    progress: (done: number, total: number) => void = () => undefined,
  ): Promise<OpenedList> {
    checked = null;
    const read = await readPriceFile(file, progress);
    opened = read.kind === 'unreadable' ? null : read;
    if (read.kind === 'unreadable') return read;
    if (read.kind === 'ubl') {
      const { title, supplier, rows } = read.catalogue;
      return { kind: 'ubl', title, supplier, rows: rows.length };
    }
    const { header, rows, notes } = read;
    const known = await habitOf(database(), supplierId);
    const columns = Object.values(known?.mapping ?? {}).filter((name) => name !== undefined);
    const remembered = known !== null && columns.length > 0 && columns.every((name) => header.includes(name));
    const mapping = remembered ? known.mapping : guessMapping(header);
    const index = mapping.price === undefined ? -1 : header.indexOf(mapping.price);
    const decimalComma = usesDecimalComma(rows.slice(0, 200).map((row) => row[index] ?? ''));
    const habit = remembered ? known : { mapping, style: { decimalComma, currency } };
    return { kind: 'table', header, sample: rows.slice(0, 5), rows: rows.length, notes, habit, remembered };
  },

  /** Reads every row by the mapping, finds its part, and compares with today's prices. Nothing is stored but the mapping. */
  async check(supplierId: SupplierId, habit: PriceHabit): Promise<CheckedList> {
    if (!opened) throw new Error('Bug: no list is open');
    const rows: PriceRow[] = [];
    const problems: PriceProblem[] = [];
    if (opened.kind === 'ubl') {
      rows.push(...opened.catalogue.rows);
      problems.push(...opened.catalogue.problems);
    } else {
      const { header } = opened;
      for (const [index, values] of opened.rows.entries()) {
        const cells = Object.fromEntries(header.map((name, column) => [name, values[column] ?? '']));
        const read = readPriceRow(habit.mapping, habit.style, cells, index + 2);
        if (read.ok) rows.push(read.value);
        else problems.push(...read.error);
      }
      await rememberHabit(database(), supplierId, habit);
    }
    const reader = await catalogue();
    const makers = new Map((await reader.table('makers')).map((maker) => [maker.id, maker.name]));
    const parts = await reader.partsNumbered(rows.map(({ partNumber }) => partNumber));
    const byNumber = groupBy(new Set(parts), (part) => normaliseNumber(part.partNumber));
    checked = matchPrices(supplierId, rows, byNumber, makers);
    return { ...checked, rows: checked.rows.length, problems, ...(await compare(reader, supplierId, checked)) };
  },

  async apply(supplierId: SupplierId, title: string): Promise<void> {
    if (!checked) throw new Error('Bug: no list was checked');
    await putPrices(database(), { supplierId, title }, checked.rows);
  },
};

type Comparison = Pick<CheckedList, 'dearer' | 'cheaper' | 'same' | 'added' | 'gone' | 'changes'>;

/** Each number's price against the cheapest that this supplier has today. */
async function compare(reader: CatalogueReader, supplierId: SupplierId, { rows }: MatchedPrices): Promise<Comparison> {
  const db = database();
  const known = new Map<string, { price: Offer['packPrice']; number: string }>();
  if (await db.priceLists.get(supplierId)) {
    for (const row of await db.prices.where('supplierId').equals(supplierId).toArray())
      known.set(`${row.makerId ?? ''} ${row.number}`, { price: row.packPrice, number: row.number });
  } else {
    const parts = new Map<string, string>();
    for (const part of await reader.partsNumbered(rows.map(({ number }) => number)))
      parts.set(part.id, `${part.makerId ?? ''} ${normaliseNumber(part.partNumber)}`);
    for (const { reader: layer } of reader.searched)
      for await (const offers of layer.rows('offers'))
        for (const offer of offers)
          if (offer.supplierId === supplierId) {
            const key = parts.get(offer.partId) ?? `#${offer.partId}`;
            // Upper layers come first, and are believed.
            if (!known.has(key)) known.set(key, { price: offer.packPrice, number: offer.supplierNumber });
          }
  }
  const result: Comparison = { dearer: 0, cheaper: 0, same: 0, added: 0, gone: 0, changes: [] };
  const seen = new Set<string>();
  for (const row of rows) {
    const key = `${row.makerId ?? ''} ${row.number}`;
    const before = known.get(key);
    seen.add(key);
    if (!before) result.added += 1;
    else if (before.price.amountMinor === row.packPrice.amountMinor && before.price.currency === row.packPrice.currency)
      result.same += 1;
    else {
      const kind = row.packPrice.amountMinor > before.price.amountMinor ? 'dearer' : 'cheaper';
      result[kind] += 1;
      result.changes.push({ number: row.number, before: money(before.price), after: money(row.packPrice), kind });
    }
  }
  for (const key of known.keys()) if (!seen.has(key)) result.gone += 1;
  const size = ({ before, after }: PriceChange) => Math.abs(Number.parseFloat(after) / Number.parseFloat(before) - 1);
  result.changes = result.changes.sort((a, b) => size(b) - size(a)).slice(0, SHOWN);
  return result;
}

export type PricesApi = typeof api;
expose(api);
