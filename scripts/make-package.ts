import type { MakerId } from '@/core/units';
/**
 * Writes a catalogue package of any size, made up from a seed: `npm run package:make -- --models 250000 --out /tmp/large.zip`.
 * Per 1,000 models: 2,000 parts, 8,000 fits, 1,200 offers, 800 measured properties, about 400 relations; knowledge comes from the demo shop. `--change 0.01`
 * alters that share of the models' spin speeds and leaves out as many offers: a second edition to compare with.
 */
import { createWriteStream } from 'node:fs';
import { finished } from 'node:stream/promises';
import { parseArgs } from 'node:util';
import { strToU8, Zip, ZipDeflate } from 'fflate';
import Papa from 'papaparse';
import { tableNames, type TableName } from '@/core/catalogue';
import { packageDescriptor } from '@/core/package';
import { makeWorld } from './bench/identify/worlds/todayModels';
import { dice, readTable, type Cells, type Dice } from './demo/files';

const MODELS_PER_PLATFORM = 120;
const PARTS_PER_PLATFORM = 240;
const FITS_PER_MODEL = 8;

type Rows = Iterable<Cells>;

const { values } = parseArgs({
  options: {
    models: { type: 'string', default: '250000' },
    out: { type: 'string', default: '/tmp/sorter-package.zip' },
    seed: { type: 'string', default: '7' },
    change: { type: 'string', default: '0' },
  },
});
const size = Number(values.models);
const seed = Number(values.seed);
const change = Number(values.change);
const euros = (value: number) => `${value.toFixed(2)} EUR`;
const pad = (value: number, width: number) => String(value).padStart(width, '0');

type PlatformPlan = { id: string; makerId: MakerId; from: number; roles: string[]; firstPart: number };

function* partsOf(platforms: readonly PlatformPlan[], roll: Dice, words: ReadonlyMap<string, string>): Rows {
  for (const { makerId, roles, firstPart, id } of platforms)
    for (let index = 0; index < PARTS_PER_PLATFORM; index += 1) {
      const roleId = roles[index % roles.length] ?? '';
      yield {
        id: `p${firstPart + index}`,
        partNumber: `${id.toUpperCase()}-${pad(roll.whole(0, 9999), 4)}-${pad(index, 3)}`,
        makerId,
        roleId,
        description: `${words.get(roleId) ?? roleId}, form ${'ABCDEFGHIJ'.charAt(index % 10)}`,
        kind: 'maker',
        status: roll.chance(0.03) ? 'discontinued' : 'current',
      };
    }
}

function* fitsOf(models: readonly Cells[], platforms: ReadonlyMap<string, PlatformPlan>, roll: Dice): Rows {
  let count = 0;
  for (const model of models) {
    const platform = platforms.get(String(model['platformId']));
    if (!platform) continue;
    const first = roll.whole(0, PARTS_PER_PLATFORM - 1);
    for (let index = 0; index < FITS_PER_MODEL; index += 1) {
      const part = (first + index * 29) % PARTS_PER_PLATFORM;
      count += 1;
      yield {
        id: `f${count}`,
        modelId: String(model['id']),
        platformId: '',
        roleId: platform.roles[part % platform.roles.length] ?? '',
        partId: `p${platform.firstPart + part}`,
        position: 'any',
        builtFrom: '',
        builtTo: roll.chance(0.05) ? '2016-06-30' : '',
        quantity: 1,
      };
    }
  }
}

function* relationsOf(platforms: readonly PlatformPlan[], roll: Dice): Rows {
  let count = 0;
  for (const { firstPart, roles } of platforms)
    for (let index = 0; index + roles.length < PARTS_PER_PLATFORM; index += 1) {
      if (!roll.chance(0.22)) continue;
      count += 1;
      yield {
        id: `r${count}`,
        fromPartId: `p${firstPart + index}`,
        // The next part of the same role: chains, never a circle; now and then a source of its own opinion.
        toPartId: `p${firstPart + index + roles.length}`,
        kind: roll.chance(0.8) ? 'superseded-by' : 'interchangeable',
        quantity: 1,
        source: roll.chance(0.97) ? 'maker' : 'wholesaler',
        note: '',
      };
    }
}

function* offersOf(parts: number, roll: Dice, suppliers: readonly string[]): Rows {
  const count = Math.round(parts * 0.6);
  for (let index = 0; index < count; index += 1) {
    const [packPrice, gone] = [euros(3 + roll.random() * 120), roll.chance(change)];
    const row = {
      id: `o${index}`,
      supplierId: roll.pick(suppliers),
      partId: `p${Math.floor((index * parts) / count)}`,
      supplierNumber: `S${pad(index, 7)}`,
      packPrice,
      packQuantity: 1,
      stockPacks: roll.whole(0, 30),
      handlingDays: roll.whole(0, 4),
    };
    if (!gone) yield row;
  }
}

function* propertiesOf(parts: number, roll: Dice): Rows {
  for (let index = 0; index < parts * 0.4; index += 1)
    yield { partId: `p${Math.floor(index * 2.5)}`, property: 'width', value: String(roll.whole(20, 400)) };
}

function makeTables(): Map<TableName, Rows> {
  const roll = dice(seed);
  const knowledge = new Map<TableName, Rows>(tableNames.map((table) => [table, readTable(table)]));
  const roles = readTable('roles');
  const designs = readTable('platforms');
  const world = makeWorld(size, seed).listed;
  const makers = [...new Set(world.map((model) => model.makerId))];
  const platforms: PlatformPlan[] = [];
  const models = world.map((model, index): Cells => {
    let platform = platforms.at(-1);
    if (!platform || platform.makerId !== model.makerId || index - platform.from >= MODELS_PER_PLATFORM) {
      const first = roll.whole(0, roles.length - 1);
      platform = {
        id: `q${platforms.length}`,
        makerId: model.makerId,
        from: index,
        roles: roles.map((_, role) => roles[(first + role) % roles.length]?.['id'] ?? ''),
        firstPart: platforms.length * PARTS_PER_PLATFORM,
      };
      platforms.push(platform);
    }
    const spin = roll.pick([1000, 1200, 1400]);
    return {
      id: model.id,
      modelNumber: model.modelNumber,
      badgeId: `b-${model.makerId}`,
      makerId: model.makerId,
      platformId: platform.id,
      popularity: model.popularity.toFixed(2),
      producedFrom: `${roll.whole(2004, 2018)}-01-01`,
      producedTo: roll.chance(0.3) ? '' : `${roll.whole(2019, 2025)}-12-31`,
      capacityKg: roll.whole(5, 10),
      spinRpm: roll.chance(change) ? 1600 : spin,
    };
  });
  const names = makers.map((id) => ({ id, name: `Maker ${id.slice(1)}` }));
  const demoMakers = readTable('makers');
  knowledge.set('makers', [...demoMakers, ...names]);
  knowledge.set(
    'badges',
    names.map(({ id, name }) => ({ id: `b-${id}`, name, makerId: id })),
  );
  const demoPlatform = designs[0] ?? {};
  knowledge.set('platforms', [
    ...designs,
    ...platforms.map(({ id, makerId }) => ({ ...demoPlatform, id, makerId, name: `Platform ${id}` })),
  ]);
  const parts = platforms.length * PARTS_PER_PLATFORM;
  const suppliers = readTable('suppliers').map((row) => row['id'] ?? '');
  const words = new Map(roles.map((role) => [role['id'] ?? '', role['name'] ?? '']));
  knowledge.set('models', models);
  knowledge.set('parts', partsOf(platforms, dice(seed + 1), words));
  knowledge.set('fits', fitsOf(models, new Map(platforms.map((platform) => [platform.id, platform])), dice(seed + 2)));
  knowledge.set('relations', relationsOf(platforms, dice(seed + 3)));
  knowledge.set('offers', offersOf(parts, dice(seed + 4), suppliers));
  knowledge.set('part_properties', propertiesOf(parts, dice(seed + 5)));
  return knowledge;
}

async function write(): Promise<void> {
  const out = createWriteStream(values.out);
  const zip = new Zip((error, chunk, final) => {
    if (error) throw error;
    out.write(chunk);
    if (final) out.end();
  });
  const add = (name: string) => {
    const file = new ZipDeflate(name, { level: 4 });
    file.mtime = new Date(2000, 0, 1);
    zip.add(file);
    return file;
  };
  const descriptor = add('datapackage.json');
  const title = `Catalogue of ${size.toLocaleString('en')} models`;
  descriptor.push(strToU8(JSON.stringify(packageDescriptor('sorter-large', title))), true);
  for (const [table, rows] of makeTables()) {
    const file = add(`${table}.csv`);
    const columns = Object.keys(packageColumns(table));
    file.push(strToU8(`${columns.join(',')}\n`));
    let batch: Cells[] = [];
    let count = 0;
    const flush = () => {
      if (batch.length)
        file.push(
          strToU8(
            `${Papa.unparse({ fields: columns, data: batch.map((row) => columns.map((column) => row[column] ?? '')) }, { header: false, newline: '\n' })}\n`,
          ),
        );
      batch = [];
    };
    for (const row of rows) {
      batch.push(row);
      count += 1;
      if (batch.length === 20_000) {
        flush();
        await new Promise((resolve) => setImmediate(resolve));
      }
    }
    flush();
    file.push(new Uint8Array(0), true);
    if (count > 1000) console.log(`${table}: ${count.toLocaleString('en')}`);
  }
  zip.end();
  await finished(out);
  console.log(values.out);
}

/** Columns of a table, in their order. */
function packageColumns(table: TableName): Record<string, true> {
  const resource = packageDescriptor('x', 'x').resources.find(({ name }) => name === table);
  return Object.fromEntries((resource?.schema.fields ?? []).map(({ name }): [string, true] => [name, true]));
}

await write();
