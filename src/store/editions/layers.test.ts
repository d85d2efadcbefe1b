import { describe, expect, it } from 'vitest';
import { freshDatabase } from '../../../tests/support/database';
import { demoCatalogue, knowledgeFiles } from '../../../tests/support/demo';
import { layerOn, northern, readIn, smallPackage, southern } from '../../../tests/support/packages';
import { emptyCatalogue, tableNames, type Catalogue, type Row } from '@/core/catalogue';
import { partsFor } from '@/core/fit';
import { readPackage } from '@/core/package';
import { asDay, asId, defined, type ModelId, type PlatformId } from '@/core/units';
import { exportBackup } from '../backup/backup';
import { exportCatalogue } from '../backup/exportCatalogue';
import { restoreBackup } from '../backup/restore';
import type { SorterDatabase } from '../database';
import { catalogueOf, type CatalogueReader } from './catalogueReader';
import { writeEdition } from './editionWriter';
import { activate, layersOf, removeLayer, switchLayer } from './layers';

const today = asDay('2026-11-26');

const byNumber = async (reader: CatalogueReader, number: string) => reader.partsNumbered([number]);

/** The numbers that mend a role on a model, as a ticket would ask. */
async function numbersFor(reader: CatalogueReader, modelId: ModelId, platformId: PlatformId): Promise<string[]> {
  const catalogue = await reader.forMachine(platformId, [modelId]);
  const { candidates } = partsFor(catalogue, { models: [{ modelId, probability: 1 }], roleId: asId('pump'), today });
  return candidates.map(({ part }) => part.partNumber);
}

async function both(): Promise<SorterDatabase> {
  const db = freshDatabase();
  await layerOn(db, smallPackage('north', northern()));
  await layerOn(db, smallPackage('south', southern()));
  return db;
}

describe('packages side by side', () => {
  it('keep apart what has the same id, and know as one what has the same maker and number', async () => {
    const reader = await catalogueOf(await both());
    expect((await reader.table('makers')).map(({ name }) => name).sort()).toEqual(['Quellwerk', 'VESSBY']);
    const models = (await reader.forMachine(asId('1'), [asId('1')])).models;
    expect(models.map(({ modelNumber }) => modelNumber)).toEqual(['VB 10-100']);
    const [old] = await byNumber(reader, 'P-100');
    expect(old?.id).toBe('1');
    // The one package says what fits, the other what replaced it and what that costs.
    expect(await numbersFor(reader, asId('1'), asId('1'))).toEqual(['P-200']);
    const [newer] = await byNumber(reader, 'P-200');
    const { offers } = await reader.partsWith([defined(newer, 'the newer number').id]);
    expect(offers).toMatchObject([{ packPrice: { amountMinor: 2000 } }]);
  });

  it('say of a row that both have what each says, the upper one first', async () => {
    const reader = await catalogueOf(await both());
    const [old] = await byNumber(reader, 'P-100');
    expect(old?.description).toBe('drain pump, old number');
    expect(reader.sourceOf(defined(old, 'the part'))).toMatchObject({ kind: 'package', title: 'Package south' });
    const said = await reader.said('parts', '1');
    expect(said.map(({ source, row }) => [source.kind === 'package' ? source.title : '', row.description])).toEqual([
      ['Package south', 'drain pump, old number'],
      ['Package north', 'drain pump'],
    ]);
  });

  it('tell before they are put to use what they say differently', async () => {
    const db = freshDatabase();
    await layerOn(db, smallPackage('north', northern()));
    const result = await readIn(db, smallPackage('south', southern()));
    if (result.kind !== 'read') throw new Error('not read');
    expect(result).toMatchObject({ renews: null, beside: ['Package north'], changes: null });
    expect(result.overrides).toMatchObject([{ title: 'Package north' }]);
    const columns = result.overrides[0]?.changes.flatMap(({ rows }) => rows.flatMap((row) => row.columns));
    expect(columns).toContainEqual({ column: 'description', before: 'drain pump', after: 'drain pump, old number' });
  });

  it('say where they differ from what ships', async () => {
    const causes = defined(
      knowledgeFiles().find(({ path }) => path === 'causes.csv'),
      'causes',
    ).text.split('\n');
    const columns = defined(causes[0], 'a head').split(',');
    const shipped = readPackage(knowledgeFiles()).catalogue.causes[0];
    expect(columns[0]).toBe('id');
    const result = await readIn(
      freshDatabase(),
      smallPackage('k', {
        causes: [
          {
            id: defined(shipped, 'a cause').id,
            designs: 'all',
            name: 'Another name',
            weight: '1',
            position: 'any',
            cure: '1',
          },
        ],
      }),
    );
    if (result.kind !== 'read') throw new Error(JSON.stringify(result));
    expect(result.overrides).toMatchObject([{ title: '', changes: [{ table: 'causes', changed: 1 }] }]);
  });

  it('are renewed in their place, and keep the ids that tickets know', async () => {
    const db = await both();
    const [north] = await layersOf(db);
    const again = await layerOn(db, smallPackage('north', northern({ capacityKg: '8' }), 'North again', '2'));
    expect(again).toMatchObject({ renews: 'Package north', version: '2' });
    expect(again.changes?.map(({ table, changed }) => [table, changed])).toEqual([['models', 1]]);
    const layers = await layersOf(db);
    expect(layers.map(({ edition }) => edition.title)).toEqual(['North again', 'Package south']);
    expect(layers[0]?.edition.id).not.toBe(north?.edition.id);
    const [model] = await (await catalogueOf(db)).models([asId('1')]);
    expect(model?.capacityKg).toBe(8);
    expect(await db.editions.count()).toBe(2);
  });

  it('keep a part known by its number when the package that named it first is gone', async () => {
    const db = await both();
    const [before] = await byNumber(await catalogueOf(db), 'P-100');
    const [north] = await layersOf(db);
    await removeLayer(db, defined(north, 'north').edition.id);
    const [after] = await byNumber(await catalogueOf(db), 'P-100');
    expect(after?.id).toBe(before?.id);
    await layerOn(db, smallPackage('south', { ...southern(), codes: [] }));
    expect((await byNumber(await catalogueOf(db), 'P-100'))[0]?.id).toBe(before?.id);
  });

  it('are seen or not, one by one', async () => {
    const db = await both();
    const [, south] = await layersOf(db);
    const id = defined(south, 'south').edition.id;
    await switchLayer(db, id, false);
    expect(await byNumber(await catalogueOf(db), 'P-200')).toEqual([]);
    expect(await numbersFor(await catalogueOf(db), asId('1'), asId('1'))).toEqual([]);
    await switchLayer(db, id, true);
    expect(await numbersFor(await catalogueOf(db), asId('1'), asId('1'))).toEqual(['P-200']);
    await removeLayer(db, id);
    expect((await layersOf(db)).map(({ edition }) => edition.title)).toEqual(['Package north']);
    expect(await db.buckets.where('edition').equals(id).count()).toBe(0);
  });

  it('all go into a backup, in their order, switched off or not, and come back as the same bytes', async () => {
    const db = await both();
    await switchLayer(db, defined((await layersOf(db))[0], 'north').edition.id, false);
    const backup = await exportBackup(db);
    const other = freshDatabase();
    expect(await restoreBackup(other, backup)).toEqual({ ok: true, aside: 0 });
    expect((await layersOf(other)).map(({ edition, on }) => [edition.name, edition.prefix, on])).toEqual([
      ['north', '', false],
      ['south', 'south:', true],
    ]);
    expect(await exportBackup(other)).toEqual(backup);
  });

  it('go out as one package that imports elsewhere as it was seen here', async () => {
    const out = defined(await exportCatalogue(await both()), 'a catalogue');
    const other = freshDatabase();
    await layerOn(other, new File([out], 'all.zip'));
    const reader = await catalogueOf(other);
    expect(await numbersFor(reader, asId('1'), asId('1'))).toEqual(['P-200']);
    expect((await byNumber(reader, 'P-100')).map(({ description }) => description)).toEqual(['drain pump, old number']);
  });
});

/** A catalogue dealt out into layers: every row of the large tables lies in one of them, whatever it refers to. */
function dealt(catalogue: Catalogue, layers: number): Catalogue[] {
  const parts = Array.from({ length: layers }, emptyCatalogue);
  for (const table of tableNames)
    catalogue[table].forEach((row, index) => {
      const large = ['parts', 'relations', 'offers', 'part_properties'].includes(table);
      const into = parts[large ? (index * 7) % layers : 0];
      (into?.[table] as Row<typeof table>[]).push(row);
    });
  return parts;
}

describe('a catalogue in several layers', () => {
  it('answers as the same catalogue in one', async () => {
    const catalogue = demoCatalogue();
    const [whole, layered] = [freshDatabase(), freshDatabase()];
    await activate(whole, await writeEdition(whole, 'whole', catalogue));
    for (const [index, layer] of dealt(catalogue, 3).entries())
      await activate(layered, await writeEdition(layered, `layer ${index}`, layer));
    const [one, three] = [await catalogueOf(whole), await catalogueOf(layered)];
    const sorted = (rows: readonly unknown[]) => rows.map((row) => JSON.stringify(row)).sort();
    const some = catalogue.models.filter((_, index) => index % 60 === 0);
    expect(some.length).toBeGreaterThan(5);
    for (const model of some) {
      const [a, b] = [
        await one.forMachine(model.platformId, [model.id]),
        await three.forMachine(model.platformId, [model.id]),
      ];
      for (const roleId of ['pump', 'belt', 'shaft-seal', 'door-lock'])
        expect(
          partsFor(b, { models: [{ modelId: model.id, probability: 1 }], roleId: asId(roleId), today }),
          `${model.id} ${roleId}`,
        ).toEqual(partsFor(a, { models: [{ modelId: model.id, probability: 1 }], roleId: asId(roleId), today }));
    }
    for (const part of catalogue.parts.filter((_, index) => index % 150 === 0)) {
      const [a, b] = [await one.partsWith([part.id]), await three.partsWith([part.id])];
      const own = (found: typeof a) =>
        found.relations.filter((row) => row.fromPartId === part.id || row.toPartId === part.id);
      expect(sorted(own(b)), part.id).toEqual(sorted(own(a)));
      expect(sorted(await three.fitsOf(part.id))).toEqual(sorted(await one.fitsOf(part.id)));
    }
  });
});
