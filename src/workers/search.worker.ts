import type { LocalDate, ModelId, PartId, PlatformId } from '@/core/units';
import { expose } from 'comlink';
import {
  causeShares,
  emptyCatalogue,
  type Fit,
  type Model,
  type Part,
  type Role,
  type Row,
  type Supplier,
  type TableName,
  type Tool,
} from '@/core/catalogue';
import { codesIn, findingsIn } from '@/core/diagnose';
import { crossReference, isSameFit, partsOfModel, type CrossReference, type RoleParts } from '@/core/fit';
import {
  exactNumbers,
  findNumbers,
  kinshipOf,
  numberAt,
  numberNeighbours,
  platformShares,
  sharedShare,
  type Kinship,
  mayBeMisread,
  nearNumbers,
  normaliseNumber,
  numberAndWords,
  readPlate,
  serialIn,
  sortInput,
  type InputContext,
  type InputReading,
  type NumberAndWords,
  type PlateReading,
} from '@/core/identify';
import { UNSORTED_ROLE } from '@/core/sheets';
import {
  CAUSE_TABLES,
  isOwnKnowledge,
  learnedChanges,
  absentShare,
  unlistedShare,
  type CauseTables,
  type LearnedChange,
  type OwnEntry,
  type OwnRow,
} from '@/core/learn';
import { keyBy, unique } from '@/core/units';
import {
  catalogueOf,
  CLOSED_VERSION,
  database,
  earlierTickets,
  loadLearned,
  loadSettings,
  ownLayer,
  type BeforeQuestion,
  type CatalogueReader,
  type EarlierTicket,
  type LayerReader,
  type RowSource,
  type SearchIndexes,
} from '@/store';

type Searched = { source: RowSource; layer: LayerReader; indexes: SearchIndexes };
/** `layers`: the upper ones first. */
/** `absentPrior`: P(the next machine is not listed), before anything is read, of a shop without a package; null where the closed tickets tell it. */
type Loaded = { reader: CatalogueReader; layers: Searched[]; absentPrior: number | null };

let loaded: Promise<Loaded | null> | null = null;
let loadedKey: string | null = null;
let counted: { key: string; counts: ReadonlyMap<string, number> } = { key: '', counts: new Map() };

const ABSENT_BOUNDS = { least: 0.1, most: 0.98 };

async function load(reader: CatalogueReader): Promise<Loaded | null> {
  if (reader.isEmpty) return null;
  const layers = await Promise.all(
    reader.searched.map(async ({ source, reader: layer }) => ({ source, layer, indexes: await layer.searchIndexes() })),
  );
  if (layers.some(({ source }) => source.kind === 'package')) return { reader, layers, absentPrior: null };
  // Only what came in before: how often that was seen just once says how likely the next one is new (Good and Turing).
  const { once, seen } = unlistedShare(await reader.table('models'));
  const absentPrior = Math.min(ABSENT_BOUNDS.most, Math.max(ABSENT_BOUNDS.least, (once + 0.5) / (seen + 1)));
  return { reader, layers, absentPrior };
}

/** The indexes of the layers in use, read once while these are the same. */
async function current(): Promise<Loaded | null> {
  const reader = await catalogueOf(database());
  if (!loaded || reader.key !== loadedKey) {
    loadedKey = reader.key;
    loaded = load(reader);
  }
  return loaded;
}

const plateOf = (
  { layers, absentPrior }: Loaded,
  text: string,
  sure: number | undefined,
  shopCounts: ReadonlyMap<string, number>,
): PlateReading =>
  readPlate(
    layers.map(({ indexes }) => indexes.models),
    text,
    { shopCounts, sure, absentPrior: absentPrior ?? absentShare(shopCounts) },
  );

/** Parts at the places that a list gives, of every layer; one of each id, the upper layer's. */
async function partsBy({ layers }: Loaded, places: (indexes: SearchIndexes) => readonly number[]): Promise<Part[]> {
  const found = await Promise.all(layers.map(({ layer, indexes }) => layer.partsAt(places(indexes))));
  return [...keyBy(found.reverse().flat(), ({ id }) => id).values()];
}

/** How often each model was mended here: counted anew when a ticket is closed. */
async function shopCounts(): Promise<ReadonlyMap<string, number>> {
  const db = database();
  if ((await loadSettings()).notLearned.includes('models')) return new Map();
  const key = String((await db.meta.get(CLOSED_VERSION))?.value ?? '');
  if (counted.key === key && key !== '') return counted.counts;
  const counts = new Map<string, number>();
  for (const { modelId } of await db.summaries.where('[kind+open]').equals(['ticket', 0]).toArray())
    if (modelId) counts.set(modelId, (counts.get(modelId) ?? 0) + 1);
  counted = { key, counts };
  return counts;
}

/** A listed model that a machine that is not listed may be a sister of. */
export type Relative = {
  modelId: ModelId;
  modelNumber: string;
  platformId: PlatformId;
  badge: string;
  platform: string;
  probability: number;
};
const WORTH_A_GUESS = 0.25;
const KIN_SAMPLE = 200;
const kinships = new WeakMap<object, Promise<Kinship>>();

/** How often a listed number's nearest stands on its platform: of numbers taken evenly from the list, each looked for as if it were not there. */
async function kinshipIn({ layer, indexes: { modelList } }: Searched): Promise<Kinship> {
  const step = Math.max(1, Math.floor(modelList.size / KIN_SAMPLE));
  const sample = Array.from({ length: Math.floor(modelList.size / step) }, (_, index) => index * step);
  const looked = sample.map((position) => {
    const number = numberAt(modelList, position);
    return { position, number, near: numberNeighbours(modelList, number) };
  });
  const positions = unique(looked.flatMap(({ position, near }) => [position, ...near.map((entry) => entry.position)]));
  const models = await layer.modelsAt(positions);
  const platforms = new Map(positions.map((position, index) => [position, models[index]?.platformId]));
  const pairs = looked.flatMap(({ position, number, near }) =>
    near.map((entry) => ({
      share: sharedShare(number, entry.shared),
      same: platforms.get(entry.position) === platforms.get(position),
    })),
  );
  return kinshipOf(pairs);
}

async function relativesIn(searched: Searched, number: string): Promise<{ model: Model; probability: number }[]> {
  const near = numberNeighbours(searched.indexes.modelList, number);
  if (near.length === 0) return [];
  const kinship = kinships.get(searched.indexes) ?? kinshipIn(searched);
  kinships.set(searched.indexes, kinship);
  const models = await searched.layer.modelsAt(near.map(({ position }) => position));
  const shares = platformShares(
    await kinship,
    sharedShare(number, near[0]?.shared ?? 0),
    models.map(({ platformId }) => platformId),
  );
  return shares.flatMap(({ platformId, probability }) => {
    const model = models.find((entry) => entry.platformId === platformId);
    return model ? [{ model, probability }] : [];
  });
}

const NOTHING: PlateReading = { candidates: [], unknown: 1, unlisted: 0, rereads: [], taken: '' };

/** Tables of the shop's own rows that a person looks through; names of makes and ways of sending follow from these. */
const OWN_LISTED: TableName[] = [
  'fits',
  'relations',
  'models',
  'platforms',
  'parts',
  'offers',
  'part_properties',
  'suppliers',
  'economics',
];

/** What one layer says of a row that another one says too. */
export type Said<T> = { source: RowSource; row: T };
export type ModelSheet = {
  model: Model;
  badge: string;
  platform: string;
  sisters: number;
  roles: RoleParts[];
  said: Said<Model>[];
  /** Where each fit comes from, by its id. */
  fitSources: Record<string, RowSource>;
};
/** A row of the shop's own, with the numbers and names that it is about. */
export type OwnListed = OwnEntry & {
  about: {
    model: string | null;
    part: string | null;
    other: string | null;
    supplier: string | null;
    role: string | null;
  };
};
/** Something learned from closed tickets, with the names of what it is about. */
export type LearnedListed = { change: LearnedChange; design: string | null; causes: Record<string, string> };
/** A model that takes a part, and by which fit. */
export type PartModel = { model: Model; fit: Fit };
/** A fit for a whole platform names more models than anyone reads: this many of each are listed. */
const MODELS_LISTED = 5000;

/** Places in each layer's lists, one layer after the other. */
type Search = { text: string; key: string; models: Int32Array[]; parts: Int32Array[] };
let latestSearch: Search = { text: '', key: '', models: [], parts: [] };

/** The places of a stretch of a search's results, layer by layer. */
function stretch(found: readonly Int32Array[], from: number, to: number): number[][] {
  let before = 0;
  return found.map((places) => {
    const own = [...places.subarray(Math.max(0, from - before), Math.max(0, to - before))];
    before += places.length;
    return own;
  });
}
const countOf = (found: readonly Int32Array[]) => found.reduce((sum, { length }) => sum + length, 0);

const api = {
  /** `sure`: how sure the reader of a picture was of the text, 0 to 1; left out of what was typed. */
  async readPlate(text: string, sure?: number): Promise<{ reading: PlateReading; models: Model[] }> {
    const data = await current();
    if (!data) return { reading: NOTHING, models: [] };
    const reading = plateOf(data, text, sure, await shopCounts());
    return { reading, models: await data.reader.models(reading.candidates.map(({ modelId }) => modelId)) };
  },

  /** The listed models with these ids, as far as there are any. */
  async models(ids: readonly ModelId[]): Promise<Model[]> {
    return (await current())?.reader.models(ids) ?? [];
  },

  async badges(): Promise<Row<'badges'>[]> {
    return (await catalogueOf(database())).table('badges');
  },

  /** What the shop learned itself, newest first, with what each row is about. */
  async own(): Promise<OwnListed[]> {
    const own = await ownLayer(database());
    if (!own) return [];
    const reader = await catalogueOf(database());
    const { rows, entries } = own;
    const models = keyBy(
      [...(await reader.models(unique(rows.fits.flatMap(({ modelId }) => modelId ?? [])))), ...rows.models],
      ({ id }) => String(id),
    );
    const named = unique([
      ...rows.fits.map(({ partId }) => partId),
      ...rows.relations.flatMap(({ fromPartId, toPartId }) => [fromPartId, toPartId]),
      ...rows.offers.map(({ partId }) => partId),
    ]);
    const parts = keyBy([...(await reader.partsWith(named)).parts, ...rows.parts], ({ id }) => String(id));
    const suppliers = keyBy([...(await reader.table('suppliers')), ...rows.suppliers], ({ id }) => String(id));
    const roles = keyBy(await reader.table('roles'), ({ id }) => String(id));
    const about = ({ cells }: OwnEntry): OwnListed['about'] => ({
      model: models.get(cells['modelId'] ?? '')?.modelNumber ?? null,
      part: parts.get(cells['partId'] ?? cells['fromPartId'] ?? '')?.partNumber ?? null,
      other: parts.get(cells['toPartId'] ?? '')?.partNumber ?? null,
      supplier: suppliers.get(cells['supplierId'] ?? '')?.name ?? null,
      role: roles.get(cells['roleId'] ?? '')?.name ?? null,
    });
    const when = ({ from }: OwnEntry) => from.reduce((last, { at }) => (at > last ? at : last), '');
    return entries
      .filter(({ table }) => OWN_LISTED.indexOf(table) >= 0)
      .map((entry): OwnListed => ({ ...entry, about: about(entry) }))
      .sort((a, b) =>
        when(a) < when(b) ? 1 : when(a) > when(b) ? -1 : OWN_LISTED.indexOf(a.table) - OWN_LISTED.indexOf(b.table),
      );
  },

  /** Tickets of before, of this machine or this customer. */
  earlier: (of: BeforeQuestion): Promise<EarlierTicket[]> => earlierTickets(database(), of),

  /** What the knowledge says of causes, and which of its rows are the shop's own. */
  async knowledge(): Promise<{ tables: CauseTables; own: OwnRow[] }> {
    const reader = await catalogueOf(database());
    const tables = emptyCatalogue();
    await Promise.all(CAUSE_TABLES.map(async (table) => Object.assign(tables, { [table]: await reader.table(table) })));
    const own = await database().own.toArray();
    return {
      tables,
      own: own.flatMap(({ id, table, cells }) => (cells && isOwnKnowledge(table) ? [{ id, table, cells }] : [])),
    };
  },

  /** What was learned from closed tickets, whether it counts or was left out. */
  async learned(): Promise<LearnedListed[]> {
    const reader = await catalogueOf(database());
    const [platforms, designs, causes, lives] = await Promise.all([
      reader.table('platforms'),
      reader.table('designs'),
      reader.table('causes'),
      reader.table('lives'),
    ]);
    const learned = await loadLearned(database(), new Map(platforms.map(({ id, design }) => [id, design])));
    const named = keyBy(designs, ({ id }) => id);
    const names = Object.fromEntries(causes.map(({ id, name }) => [id, name]));
    const sharesOf = (design: string) => causeShares(causes, named.get(design) ?? { tags: [] });
    return learnedChanges(learned, sharesOf, lives).map((change) => ({
      change,
      design: 'design' in change ? (named.get(change.design)?.name ?? change.design) : null,
      causes:
        change.kind === 'causes'
          ? Object.fromEntries(change.moved.map(({ causeId }) => [causeId, names[causeId] ?? causeId]))
          : {},
    }));
  },

  /** Tools that not every shop has. */
  async tools(): Promise<Tool[]> {
    return (await catalogueOf(database())).table('tools');
  },

  /** What operations use up, by name. */
  async sundries(): Promise<Role[]> {
    const catalogue = await catalogueOf(database());
    const used = new Set(
      (await catalogue.table('operations')).flatMap(({ consumables }) => consumables.map(({ id }) => id)),
    );
    return (await catalogue.table('roles')).filter(({ id }) => used.has(id)).sort((a, b) => (a.name < b.name ? -1 : 1));
  },

  /** What a part may be, by name. */
  async roles(): Promise<Role[]> {
    const roles = (await (await catalogueOf(database())).table('roles')).filter(({ id }) => id !== UNSORTED_ROLE);
    return roles.sort((a, b) => (a.name < b.name ? -1 : 1));
  },

  async suppliers(): Promise<Supplier[]> {
    return (await catalogueOf(database())).table('suppliers');
  },

  /** What a text may be, likeliest first, and what of it names a machine and what is said of it. */
  async sortInput(
    text: string,
    where: Omit<InputContext, 'schemes'>,
  ): Promise<{ readings: InputReading[]; line: NumberAndWords }> {
    const data = await current();
    const parts = data ? await partsBy(data, ({ partList }) => exactNumbers(partList, text)) : [];
    const near =
      data && parts.length === 0 && mayBeMisread(normaliseNumber(text))
        ? await partsBy(data, ({ partList }) => nearNumbers(partList, text).slice(0, 8))
        : [];
    const reader = await catalogueOf(database());
    const [counts, summaries, schemes, phrases, findings, codes] = await Promise.all([
      shopCounts(),
      database().summaries.toArray(),
      reader.table('serial_schemes'),
      reader.table('phrases'),
      reader.table('findings'),
      reader.table('codes'),
    ]);
    const readings = sortInput(
      {
        readPlate: (plate, sure) => (data ? plateOf(data, plate, sure, counts) : NOTHING),
        partsNear: () => near,
        partsByNumber: (number) => parts.filter((part) => normaliseNumber(part.partNumber) === number),
        tickets: summaries.flatMap((record) =>
          record.kind === 'ticket' ? [{ id: record.summary.ticketId, number: record.summary.number }] : [],
        ),
        orders: summaries.flatMap((record) =>
          record.kind === 'order' ? [{ id: record.summary.orderId, number: record.summary.number }] : [],
        ),
      },
      text,
      { ...where, schemes },
    );
    const line = numberAndWords(text, {
      taken: readings.flatMap((reading) => (reading.kind === 'model' ? [reading.taken] : []))[0] ?? '',
      photographed: where.sure !== undefined,
      tells: (words) => findingsIn(words, phrases, findings).length + codesIn(words, codes).length > 0,
    });
    return { readings, line };
  },

  /** A number with everything it is connected with, and how many offers each has. */
  async reference(
    partId: PartId,
  ): Promise<{ reference: CrossReference; offers: Record<string, number>; said: Said<Part>[] } | null> {
    const data = await current();
    if (!data) return null;
    const near = await data.reader.partsWith([partId]);
    const offers: Record<string, number> = {};
    for (const offer of near.offers) if (offer.stockPacks > 0) offers[offer.partId] = (offers[offer.partId] ?? 0) + 1;
    return { reference: crossReference(near, partId), offers, said: await data.reader.said('parts', partId) };
  },

  async model(modelId: ModelId): Promise<Model | null> {
    return (await (await current())?.reader.models([modelId]))?.[0] ?? null;
  },

  /** Listed models whose number is close to one that is not listed, with the probability that they stand on its platform: as it is among the listed ones themselves. */
  async relatives(number: string): Promise<Relative[]> {
    const data = await current();
    if (!data) return [];
    const found = await Promise.all(
      data.layers.filter(({ source }) => source.kind === 'package').map((layer) => relativesIn(layer, number)),
    );
    const best = found.flat().sort((a, b) => b.probability - a.probability);
    const platforms = new Map((await data.reader.table('platforms')).map(({ id, description }) => [id, description]));
    const badges = new Map((await data.reader.table('badges')).map(({ id, name }) => [id, name]));
    return best
      .filter(({ probability }) => probability >= WORTH_A_GUESS)
      .slice(0, 2)
      .map(({ model, probability }) => ({
        modelId: model.id,
        modelNumber: model.modelNumber,
        platformId: model.platformId,
        badge: badges.get(model.badgeId) ?? '',
        platform: platforms.get(model.platformId) ?? '',
        probability,
      }));
  },

  /** The serial number in the text of a plate, by the scheme of the model's maker. */
  async serialIn(text: string, modelId: ModelId, today: LocalDate): Promise<{ serial: string; fits: boolean } | null> {
    const data = await current();
    const [model] = (await data?.reader.models([modelId])) ?? [];
    if (!data || !model) return null;
    const { makerId, producedFrom, producedTo } = model;
    return serialIn(await data.reader.table('serial_schemes'), makerId, text, { producedFrom, producedTo, today });
  },

  /** A model with its parts by role. */
  async modelSheet(modelId: ModelId): Promise<ModelSheet | null> {
    const data = await current();
    const [model] = (await data?.reader.models([modelId])) ?? [];
    if (!data || !model) return null;
    const catalogue = await data.reader.forModel(model);
    const platform = catalogue.platforms.find(({ id }) => id === model.platformId);
    return {
      model,
      badge: catalogue.badges.find(({ id }) => id === model.badgeId)?.name ?? '',
      platform: platform ? `${platform.name}: ${platform.description}` : model.platformId,
      sisters: catalogue.models.filter(({ platformId }) => platformId === model.platformId).length - 1,
      roles: partsOfModel(catalogue, modelId),
      said: await data.reader.said('models', modelId),
      fitSources: Object.fromEntries(catalogue.fits.map((fit) => [fit.id, data.reader.sourceOf(fit)])),
    };
  },

  /** The models that a part is listed for, by themselves or by their platform. */
  async partModels(partId: PartId): Promise<{ rows: PartModel[]; more: boolean }> {
    const data = await current();
    if (!data) return { rows: [], more: false };
    const rows: PartModel[] = [];
    const fits = await data.reader.fitsOf(partId);
    const named = new Map(
      (await data.reader.models(fits.flatMap((fit) => fit.modelId ?? []))).map((model) => [model.id, model]),
    );
    for (const fit of fits) {
      if (rows.length > MODELS_LISTED) break;
      const model = fit.modelId && named.get(fit.modelId);
      if (model) rows.push({ model, fit });
      if (fit.platformId !== undefined)
        for (const sister of await data.reader.platformModels(fit.platformId)) rows.push({ model: sister, fit });
    }
    // What the shop learned of a machine for which the number is listed anyway says nothing new here.
    const isListed = ({ model, fit }: PartModel) =>
      rows.some((row) => row.fit.probability === undefined && row.model.id === model.id && isSameFit(row.fit, fit));
    const shown = rows.filter((row) => row.fit.probability === undefined || !isListed(row));
    shown.sort((a, b) => (a.model.modelNumber < b.model.modelNumber ? -1 : 1));
    return { rows: shown.slice(0, MODELS_LISTED), more: rows.length > MODELS_LISTED };
  },

  /** How many models and parts match a text; the rows themselves are asked for as they come into view. */
  async search(text: string): Promise<{ models: number; parts: number }> {
    const data = await current();
    if (!data) return { models: 0, parts: 0 };
    latestSearch = {
      text,
      key: data.reader.key,
      models: data.layers.map(({ indexes }) => findNumbers(indexes.modelList, text)),
      parts: data.layers.map(({ indexes }) => findNumbers(indexes.partList, text)),
    };
    return { models: countOf(latestSearch.models), parts: countOf(latestSearch.parts) };
  },

  /** Rows of the last search from one place to another; none when the text is no longer that of the last search. */
  async modelRows(text: string, from: number, to: number): Promise<Model[]> {
    const data = await current();
    if (!data || latestSearch.text !== text || latestSearch.key !== data.reader.key) return [];
    const places = stretch(latestSearch.models, from, to);
    return (await Promise.all(data.layers.map(({ layer }, index) => layer.modelsAt(places[index] ?? [])))).flat();
  },

  async partRows(text: string, from: number, to: number): Promise<Part[]> {
    const data = await current();
    if (!data || latestSearch.text !== text || latestSearch.key !== data.reader.key) return [];
    const places = stretch(latestSearch.parts, from, to);
    return (await Promise.all(data.layers.map(({ layer }, index) => layer.partsAt(places[index] ?? [])))).flat();
  },
};

export type SearchApi = typeof api;
expose(api);
