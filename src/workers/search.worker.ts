import type { LocalDate, ModelId, PartId } from '@/core/units';
import { expose } from 'comlink';
import type { Fit, Model, Part, Row } from '@/core/catalogue';
import { crossReference, partsOfModel, type CrossReference, type RoleParts } from '@/core/fit';
import {
  exactNumbers,
  findNumbers,
  mayBeMisread,
  nearNumbers,
  normaliseNumber,
  readPlate,
  serialIn,
  sortInput,
  type InputContext,
  type InputReading,
  type PlateReading,
} from '@/core/identify';
import {
  activeEdition,
  CLOSED_VERSION,
  database,
  EditionReader,
  type SearchIndexes,
  type SorterDatabase,
} from '@/store';

type Loaded = { reader: EditionReader; indexes: SearchIndexes };

let loaded: Promise<Loaded | null> | null = null;
let loadedEdition = '';
let counted: { key: string; counts: ReadonlyMap<string, number> } = { key: '', counts: new Map() };

async function load(db: SorterDatabase): Promise<Loaded | null> {
  const edition = await activeEdition(db);
  if (!edition) return null;
  const reader = new EditionReader(db, edition);
  return { reader, indexes: await reader.searchIndexes() };
}

/** The stored indexes of the active edition, read once per edition. */
async function current(): Promise<Loaded | null> {
  const active = await database().meta.get('activeEdition');
  const id = typeof active?.value === 'string' ? active.value : '';
  if (!loaded || id !== loadedEdition) {
    loadedEdition = id;
    loaded = load(database());
  }
  return loaded;
}

/** How often each model was mended here: counted anew when a ticket is closed. */
async function shopCounts(): Promise<ReadonlyMap<string, number>> {
  const db = database();
  const key = String((await db.meta.get(CLOSED_VERSION))?.value ?? '');
  if (counted.key === key && key !== '') return counted.counts;
  const counts = new Map<string, number>();
  for (const { modelId } of await db.summaries.where('[kind+open]').equals(['ticket', 0]).toArray())
    if (modelId) counts.set(modelId, (counts.get(modelId) ?? 0) + 1);
  counted = { key, counts };
  return counts;
}

const NOTHING: PlateReading = { candidates: [], unknown: 1, unlisted: 0, rereads: [], taken: '' };

export type ModelSheet = { model: Model; badge: string; platform: string; sisters: number; roles: RoleParts[] };
/** A model that takes a part, and by which fit. */
export type PartModel = { model: Model; fit: Fit };
/** A fit for a whole platform names more models than anyone reads: this many of each are listed. */
const MODELS_LISTED = 5000;

type Search = { text: string; edition: string; models: Int32Array; parts: Int32Array };
let latestSearch: Search = { text: '', edition: '', models: new Int32Array(0), parts: new Int32Array(0) };

const api = {
  async readPlate(text: string): Promise<{ reading: PlateReading; models: Model[] }> {
    const data = await current();
    if (!data) return { reading: NOTHING, models: [] };
    const reading = readPlate(data.indexes.models, text, { shopCounts: await shopCounts() });
    return { reading, models: await data.reader.models(reading.candidates.map(({ modelId }) => modelId)) };
  },

  async badges(): Promise<Row<'badges'>[]> {
    return (await current())?.reader.table('badges') ?? [];
  },

  async sortInput(text: string, where: Omit<InputContext, 'schemes'>): Promise<InputReading[]> {
    const data = await current();
    const list = data?.indexes.partList;
    const parts = list ? await data.reader.partsAt(exactNumbers(list, text)) : [];
    const near =
      list && parts.length === 0 && mayBeMisread(normaliseNumber(text))
        ? await data.reader.partsAt(nearNumbers(list, text).slice(0, 8))
        : [];
    const [counts, summaries, schemes] = await Promise.all([
      shopCounts(),
      database().summaries.toArray(),
      data?.reader.table('serial_schemes') ?? [],
    ]);
    return sortInput(
      {
        readPlate: (plate) => (data ? readPlate(data.indexes.models, plate, { shopCounts: counts }) : NOTHING),
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
  },

  /** A number with everything it is connected with, and how many offers each has. */
  async reference(partId: PartId): Promise<{ reference: CrossReference; offers: Record<string, number> } | null> {
    const data = await current();
    if (!data) return null;
    const near = await data.reader.partsWith([partId]);
    const offers: Record<string, number> = {};
    for (const offer of near.offers) if (offer.stockPacks > 0) offers[offer.partId] = (offers[offer.partId] ?? 0) + 1;
    return { reference: crossReference(near, partId), offers };
  },

  async model(modelId: ModelId): Promise<Model | null> {
    return (await (await current())?.reader.models([modelId]))?.[0] ?? null;
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
    rows.sort((a, b) => (a.model.modelNumber < b.model.modelNumber ? -1 : 1));
    return { rows: rows.slice(0, MODELS_LISTED), more: rows.length > MODELS_LISTED };
  },

  /** How many models and parts match a text; the rows themselves are asked for as they come into view. */
  async search(text: string): Promise<{ models: number; parts: number }> {
    const data = await current();
    if (!data) return { models: 0, parts: 0 };
    latestSearch = {
      text,
      edition: data.reader.edition.id,
      models: findNumbers(data.indexes.modelList, text),
      parts: findNumbers(data.indexes.partList, text),
    };
    return { models: latestSearch.models.length, parts: latestSearch.parts.length };
  },

  /** Rows of the last search from one place to another; none when the text is no longer that of the last search. */
  async modelRows(text: string, from: number, to: number): Promise<Model[]> {
    const data = await current();
    if (!data || latestSearch.text !== text || latestSearch.edition !== data.reader.edition.id) return [];
    return data.reader.modelsAt([...latestSearch.models.subarray(from, to)]);
  },

  async partRows(text: string, from: number, to: number): Promise<Part[]> {
    const data = await current();
    if (!data || latestSearch.text !== text || latestSearch.edition !== data.reader.edition.id) return [];
    return data.reader.partsAt([...latestSearch.parts.subarray(from, to)]);
  },
};

export type SearchApi = typeof api;
expose(api);
