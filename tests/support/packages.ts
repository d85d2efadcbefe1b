import { strToU8, zipSync } from 'fflate';
import { packageDescriptor } from '@/core/package';
import { isTableName, tables, type TableName } from '@/core/catalogue';
import type { SorterDatabase } from '@/store/database';
import { activate } from '@/store/editions/layers';
import { importPackage, type ImportResult, type ReadEdition } from '@/store/imports/importPackage';

type Rows = Partial<Record<TableName, readonly Record<string, string>[]>>;

const quoted = (cell: string) => `"${cell.replaceAll('"', '""')}"`;

/** A package of a few rows, as somebody sends it: cells that are not named are empty. */
export function smallPackage(name: string, rows: Rows, title = `Package ${name}`, version = ''): File {
  const within = Object.keys(rows).filter(isTableName);
  const files: Record<string, Uint8Array> = {
    'datapackage.json': strToU8(JSON.stringify(packageDescriptor(name, title, within, version))),
  };
  for (const table of within) {
    const columns = Object.keys(tables[table].columns.shape);
    const lines = (rows[table] ?? []).map((row) => columns.map((column) => quoted(row[column] ?? '')).join(','));
    files[`${table}.csv`] = strToU8([columns.join(','), ...lines, ''].join('\r\n'));
  }
  return new File([new Uint8Array(zipSync(files, { level: 1 }))], `${name}.zip`);
}

export const readIn = (db: SorterDatabase, file: File): Promise<ImportResult> =>
  importPackage(
    db,
    [file],
    () => undefined,
    () => false,
  );

/** Imported and put to use. */
export async function layerOn(db: SorterDatabase, file: File): Promise<ReadEdition> {
  const result = await readIn(db, file);
  if (result.kind !== 'read') throw new Error(`not read: ${JSON.stringify(result).slice(0, 600)}`);
  await activate(db, result.editionId);
  return result;
}

/** What two wholesalers may send: the same ids for other things, other ids for the same maker and part. */
export const northern = (change: { capacityKg?: string; pump?: string } = {}): Rows => ({
  makers: [{ id: '1', name: 'Vessby' }],
  badges: [{ id: '1', name: 'Vessby', makerId: '1' }],
  platforms: [
    {
      id: '1',
      makerId: '1',
      name: 'V1',
      design: 'F-BB',
      tags: 'F F-BB pump-own electronic bolted dampers',
      loading: 'front',
      tub: 'bolted',
      description: 'front loader',
    },
  ],
  models: [
    {
      id: '1',
      modelNumber: 'VB 10-100',
      badgeId: '1',
      makerId: '1',
      platformId: '1',
      popularity: '0.4',
      producedFrom: '2012-01-01',
      capacityKg: change.capacityKg ?? '7',
      spinRpm: '1400',
    },
  ],
  parts: [
    {
      id: '1',
      partNumber: change.pump ?? 'P-100',
      makerId: '1',
      roleId: 'pump',
      description: 'drain pump',
      kind: 'maker',
      status: 'discontinued',
    },
  ],
  fits: [{ id: '1', platformId: '1', roleId: 'pump', partId: '1', position: 'any', quantity: '1' }],
});

export const southern = (): Rows => ({
  makers: [
    { id: '1', name: 'Quellwerk' },
    { id: '2', name: 'VESSBY' },
  ],
  badges: [{ id: '1', name: 'Quellwerk', makerId: '1' }],
  platforms: [
    {
      id: '1',
      makerId: '1',
      name: 'Q9',
      design: 'T-AG',
      tags: 'T',
      loading: 'top',
      tub: 'bolted',
      description: 'top loader',
    },
  ],
  models: [
    {
      id: '1',
      modelNumber: 'QW 77',
      badgeId: '1',
      makerId: '1',
      platformId: '1',
      popularity: '9000',
      producedFrom: '2015-01-01',
      capacityKg: '9',
      spinRpm: '800',
    },
  ],
  parts: [
    {
      id: '1',
      partNumber: 'P-200',
      makerId: '2',
      roleId: 'pump',
      description: 'drain pump, newer',
      kind: 'maker',
      status: 'current',
    },
    {
      id: '2',
      partNumber: 'p100',
      makerId: '2',
      roleId: 'pump',
      description: 'drain pump, old number',
      kind: 'maker',
      status: 'discontinued',
    },
  ],
  relations: [
    { id: '1', fromPartId: '2', toPartId: '1', kind: 'superseded-by', quantity: '1', source: 'Southern list' },
  ],
  suppliers: [{ id: '1', name: 'Southern Trade', minimumOrder: '0.00 EUR', restocking: '0' }],
  shipping_modes: [{ id: '1', supplierId: '1', name: 'parcel', fee: '5.00 EUR', transitDays: '2' }],
  offers: [
    {
      id: '1',
      supplierId: '1',
      partId: '1',
      supplierNumber: 'S1',
      packPrice: '20.00 EUR',
      packQuantity: '1',
      stockPacks: '5',
      handlingDays: '1',
    },
  ],
});
