import 'fake-indexeddb/auto';
import { readFileSync } from 'node:fs';
import { emptyCatalogue, tableNames, type Catalogue, type Row } from '@/core/catalogue';
import { readPlate } from '@/core/identify';
import { SorterDatabase } from '@/store/database';
import { CatalogueReader } from '@/store/editions/catalogueReader';
import { writeEdition } from '@/store/editions/editionWriter';
import { activate, editionsInUse } from '@/store/editions/layers';
import { readDemoCatalogue } from '../demo/catalogue';
import { quantileOf, table } from './report';

const RUNS = 24;

/** Rows of the large tables dealt out over layers, whatever they refer to: harder than any real package. */
function dealt(catalogue: Catalogue, layers: number): Catalogue[] {
  const parts = Array.from({ length: layers }, emptyCatalogue);
  const spread = ['parts', 'relations', 'offers', 'part_properties', 'models'];
  for (const name of tableNames)
    catalogue[name].forEach((row, index) => {
      const into = parts[spread.includes(name) ? (index * 7) % layers : 0];
      (into?.[name] as Row<typeof name>[]).push(row);
    });
  return parts;
}

async function times(runs: number, work: (run: number) => Promise<unknown>): Promise<number[]> {
  const found: number[] = [];
  for (let run = 0; run < runs; run += 1) {
    const from = performance.now();
    await work(run);
    found.push(performance.now() - from);
  }
  return found;
}

/** One machine's catalogue and one plate, asked of one layer and of several. The store is in memory here: ratios count, not milliseconds. */
export async function benchLayers(): Promise<void> {
  // The page fetches what ships; here it is read where the build put it.
  const knowledge = readFileSync('public/knowledge.json', 'utf8');
  globalThis.fetch = () => Promise.resolve(new Response(knowledge));
  const catalogue = readDemoCatalogue();
  const rows: (string | number)[][] = [];
  let baseline: { machine: number; plate: number } | null = null;
  for (const layers of [1, 3, 6]) {
    const db = new SorterDatabase(`bench-${layers}`);
    for (const [index, layer] of dealt(catalogue, layers).entries())
      await activate(db, await writeEdition(db, `layer ${index}`, layer));
    const reader = new CatalogueReader(db, 'bench', await editionsInUse(db), null);
    const models = catalogue.models.filter((_, index) => index % 17 === 0).slice(0, RUNS);
    const ask = (run: number) => {
      const model = models[run % models.length];
      return model ? reader.forMachine(model.platformId, [model.id]) : Promise.resolve(null);
    };
    await ask(0);
    const machine = quantileOf(await times(RUNS, ask), 0.5);
    const indexes = await Promise.all(
      reader.searched.map(async (layer) => (await layer.reader.searchIndexes()).models),
    );
    const numbers = models.map(({ modelNumber }) => modelNumber.replace('1', 'I'));
    const plate = quantileOf(
      await times(RUNS * 4, (run) => Promise.resolve(readPlate(indexes, numbers[run % numbers.length] ?? ''))),
      0.5,
    );
    baseline ??= { machine, plate };
    rows.push([
      layers === 1 ? 'baseline: one layer' : `${layers} layers`,
      machine,
      `${(machine / baseline.machine).toFixed(2)} x`,
      plate,
      `${(plate / baseline.plate).toFixed(2)} x`,
    ]);
    db.close();
  }
  table(
    'The same catalogue in layers, median',
    ['', "one machine's rows, ms", 'against', 'a plate, ms', 'against'],
    rows,
  );
}
