import Papa from 'papaparse';
import { isKnowledge, rowCells, tableNames, tables, type TableName } from '@/core/catalogue';
import { packageDescriptor } from '@/core/package';
import type { SorterDatabase } from '../database';
import { EditionReader } from '../editions/editionReader';
import { activeEdition } from '../editions/editions';
import { zipOf } from '../zip';

const NEWLINE = '\r\n';
const csv = (rows: readonly (readonly string[])[]): string =>
  `${Papa.unparse([...rows], { newline: NEWLINE })}${NEWLINE}`;

async function* csvOf<T extends TableName>(reader: EditionReader, table: T): AsyncGenerator<string> {
  yield csv([Object.keys(tables[table].columns.shape)]);
  // What ships with the application goes along: the package then stands by itself.
  if (isKnowledge(table)) yield csv((await reader.table(table)).map((row) => rowCells(table, row)));
  else
    for await (const rows of reader.rows(table))
      if (rows.length > 0) yield csv(rows.map((row) => rowCells(table, row)));
}

/**
 * The catalogue in use as a data package (datapackage.json and one CSV file for every table, RFC 4180, UTF-8), zipped: what the import reads, and what any
 * program that knows the standard can read. Null in a shop without a catalogue. A few buckets at a time; O(rows).
 */
export async function exportCatalogue(db: SorterDatabase): Promise<Blob | null> {
  const edition = await activeEdition(db);
  if (!edition) return null;
  const reader = new EditionReader(db, edition);
  return zipOf([
    {
      path: 'datapackage.json',
      text: () => [`${JSON.stringify(packageDescriptor('catalogue', edition.title), null, 2)}\n`],
    },
    ...tableNames.map((table) => ({ path: `${table}.csv`, text: () => csvOf(reader, table) })),
  ]);
}
