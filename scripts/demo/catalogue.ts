import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { isKnowledge, layeredCatalogue, tableNames, type Catalogue, type TableName } from '@/core/catalogue';
import { packageDescriptor, readPackage } from '@/core/package';
import { CATALOGUE_FOLDER, dice, writeTable, type Cells, type Dice } from './files';
import { readKnowledge, writeKnowledgeDescriptor } from '../knowledge';
import { makeModels } from './models';
import { makeParts } from './parts';

const GENERATED: readonly TableName[] = [
  'models',
  'parts',
  'part_properties',
  'fits',
  'relations',
  'suppliers',
  'shipping_modes',
  'offers',
];

const SUPPLIERS = [
  {
    id: 'northquay',
    name: 'Northquay Spares',
    minimumOrder: '0.00 EUR',
    restocking: 0.1,
    note: 'Fast, seldom cheapest.',
    level: 1.08,
    share: 0.7,
    handling: [0, 1],
    stock: 0.9,
  },
  {
    id: 'lindhafen',
    name: 'Lindhafen Parts Trade',
    minimumOrder: '15.00 EUR',
    restocking: 0.15,
    note: 'Wide range, two days.',
    level: 0.97,
    share: 0.75,
    handling: [1, 2],
    stock: 0.8,
  },
  {
    id: 'brightwater',
    name: 'Brightwater Wholesale',
    minimumOrder: '25.00 EUR',
    restocking: 0.2,
    note: 'Cheap, slow, minimum order.',
    level: 0.86,
    share: 0.55,
    handling: [2, 5],
    stock: 0.7,
  },
  {
    id: 'oldmill',
    name: 'Old Mill Bearings and Seals',
    minimumOrder: '0.00 EUR',
    restocking: 0,
    note: 'Standard parts only.',
    level: 0.8,
    share: 0.3,
    handling: [0, 1],
    stock: 0.95,
  },
  {
    id: 'kaiweg',
    name: 'Kaiweg Factory Parts',
    minimumOrder: '0.00 EUR',
    restocking: 0.25,
    note: 'The makers’ own numbers.',
    level: 1.15,
    share: 0.6,
    handling: [2, 6],
    stock: 0.75,
  },
] as const;

const MODES = [
  { id: 'nq-day', supplierId: 'northquay', name: 'next day', fee: '6.90 EUR', freeOver: '90.00 EUR', transitDays: 1 },
  { id: 'nq-ex', supplierId: 'northquay', name: 'before ten', fee: '14.50 EUR', freeOver: '', transitDays: 1 },
  { id: 'lh-std', supplierId: 'lindhafen', name: 'parcel', fee: '5.90 EUR', freeOver: '75.00 EUR', transitDays: 2 },
  { id: 'lh-ex', supplierId: 'lindhafen', name: 'express', fee: '12.90 EUR', freeOver: '', transitDays: 1 },
  { id: 'bw-std', supplierId: 'brightwater', name: 'parcel', fee: '4.50 EUR', freeOver: '60.00 EUR', transitDays: 3 },
  { id: 'om-std', supplierId: 'oldmill', name: 'parcel', fee: '4.90 EUR', freeOver: '40.00 EUR', transitDays: 1 },
  { id: 'kw-std', supplierId: 'kaiweg', name: 'parcel', fee: '7.90 EUR', freeOver: '120.00 EUR', transitDays: 2 },
  { id: 'kw-ex', supplierId: 'kaiweg', name: 'express', fee: '16.00 EUR', freeOver: '', transitDays: 1 },
];

const euros = (value: number) => `${value.toFixed(2)} EUR`;

function makeOffers(parts: readonly Cells[], base: ReadonlyMap<string, number>, dice: Dice): Cells[] {
  const offers: Cells[] = [];
  for (const part of parts) {
    if (part['status'] === 'discontinued') continue;
    const open = SUPPLIERS.filter((supplier) =>
      supplier.id === 'oldmill'
        ? ['standard', 'generic'].includes(String(part['kind'])) ||
          ['shaft-seal', 'bearing-drum', 'bearing-pulley', 'belt'].includes(String(part['roleId']))
        : supplier.id !== 'kaiweg' || part['makerId'] !== '',
    );
    const listed = open.filter((supplier) => dice.chance(supplier.share + (part['kind'] === 'generic' ? 0.15 : 0)));
    for (const supplier of listed.length ? listed : open.slice(0, 1)) {
      const price = (base.get(String(part['id'])) ?? 10) * supplier.level * (0.9 + dice.random() * 0.2);
      offers.push({
        id: `o-${String(offers.length + 1).padStart(5, '0')}`,
        supplierId: supplier.id,
        partId: String(part['id']),
        supplierNumber: `${supplier.id.slice(0, 2).toUpperCase()}${dice.whole(100000, 999999)}`,
        packPrice: euros(Math.max(0.1, price)),
        packQuantity: part['roleId'] === 'cable-ties' ? 100 : part['roleId'] === 'hose-washers' ? 10 : 1,
        stockPacks: dice.chance(supplier.stock) ? dice.whole(1, 40) : 0,
        handlingDays: dice.whole(supplier.handling[0], supplier.handling[1]),
      });
    }
  }
  return offers;
}

/** The demo's own tables: all that it does not take from the knowledge, and those of the knowledge from which its platforms deviate. */
const DEVIATIONS: readonly TableName[] = ['operations', 'state_changes', 'causes', 'fixes', 'limits', 'lives'];
const OWN = tableNames.filter((table) => !isKnowledge(table) || DEVIATIONS.includes(table));

/** The smallest package that imports (docs/smallest-package), which a wholesaler begins with. */
const TEMPLATE_TABLES: readonly TableName[] = [
  'makers',
  'badges',
  'platforms',
  'models',
  'parts',
  'fits',
  'relations',
  'suppliers',
  'shipping_modes',
  'offers',
];

function readFiles(paths: readonly TableName[], below: Catalogue): Catalogue {
  const { catalogue, problems } = readPackage(
    [
      { path: 'datapackage.json', text: JSON.stringify(packageDescriptor('demo', 'Demo', paths)) },
      ...paths.map((table) => ({
        path: `${table}.csv`,
        text: readFileSync(`${CATALOGUE_FOLDER}${table}.csv`, 'utf8'),
      })),
    ],
    below,
  );
  if (problems.length)
    throw new Error(
      `The demo catalogue has problems:\n${problems
        .slice(0, 20)
        .map((problem) => JSON.stringify(problem))
        .join('\n')}`,
    );
  return layeredCatalogue(below, catalogue);
}

/** The knowledge with the demo over it, as the application sees it. */
export const readDemoCatalogue = (): Catalogue => readFiles(OWN, readKnowledge());

export function writeDemoCatalogue(): Catalogue {
  writeKnowledgeDescriptor();
  // The hand-written tables first: the others are made from them.
  const knowledge = readFiles(
    OWN.filter((table) => !GENERATED.includes(table)),
    readKnowledge(),
  );
  const roll = dice(20261124);
  const models = makeModels(knowledge.platforms, roll);
  const set = makeParts(knowledge, models, roll);
  writeTable('models', models);
  writeTable('parts', set.parts);
  writeTable('part_properties', set.properties);
  writeTable('fits', set.fits);
  writeTable('relations', set.relations);
  writeTable(
    'suppliers',
    SUPPLIERS.map(({ id, name, minimumOrder, restocking, note }) => ({
      id,
      name,
      minimumOrder,
      restocking,
      note,
      // The simulated suppliers take them over their interface.
      orders: 'online',
    })),
  );
  writeTable('shipping_modes', MODES);
  writeTable('offers', makeOffers(set.parts, set.base, roll));
  rmSync(`${CATALOGUE_FOLDER}datapackage.json`, { force: true });
  writeFileSync(
    `${CATALOGUE_FOLDER}datapackage.json`,
    `${JSON.stringify(packageDescriptor('sorter-demo-shop', 'Catalogue of the demo shop', OWN), null, 1)}\n`,
  );
  writeFileSync(
    fileURLToPath(new URL('../../docs/smallest-package/datapackage.json', import.meta.url)),
    `${JSON.stringify(packageDescriptor('example-works', 'Example: the smallest package that imports', TEMPLATE_TABLES, '1'), null, 1)}\n`,
  );
  const catalogue = readDemoCatalogue();
  console.log(
    `models ${catalogue.models.length}, parts ${catalogue.parts.length}, fits ${catalogue.fits.length}, relations ${catalogue.relations.length}, offers ${catalogue.offers.length}`,
  );
  return catalogue;
}
