import { expose } from 'comlink';
import {
  buildModelIndex,
  normaliseNumber,
  readPlate,
  sortInput,
  type InputContext,
  type InputReading,
  type ModelIndex,
  type PlateReading,
} from '@/core/identify';
import type { Model, Part } from '@/core/catalogue';
import { crossReference, type CrossReference } from '@/core/fit';
import { activeEdition, database, EditionReader, type SorterDatabase } from '@/store';

type Loaded = {
  edition: string;
  index: ModelIndex;
  models: Map<string, Model>;
  parts: Map<string, Part[]>;
  partList: Part[];
  modelList: Model[];
  counts: ReadonlyMap<string, number>;
};

let loaded: Promise<Loaded | null> | null = null;
let loadedEdition = '';

async function load(db: SorterDatabase): Promise<Loaded | null> {
  const edition = await activeEdition(db);
  if (!edition) return null;
  const reader = new EditionReader(db, edition);
  const [modelList, partList, summaries] = await Promise.all([
    reader.table('models'),
    reader.table('parts'),
    db.summaries.where('[kind+open]').equals(['ticket', 0]).toArray(),
  ]);
  const parts = new Map<string, Part[]>();
  for (const part of partList) {
    const key = normaliseNumber(part.partNumber);
    parts.set(key, [...(parts.get(key) ?? []), part]);
  }
  const counts = new Map<string, number>();
  for (const { modelId } of summaries) if (modelId) counts.set(modelId, (counts.get(modelId) ?? 0) + 1);
  return {
    edition: edition.id,
    index: buildModelIndex(modelList),
    models: new Map(modelList.map((model) => [model.id, model])),
    parts,
    partList,
    modelList,
    counts,
  };
}

/** The index of the active edition, built once per edition. */
async function current(): Promise<Loaded | null> {
  const active = await database().meta.get('activeEdition');
  const id = typeof active?.value === 'string' ? active.value : '';
  if (!loaded || id !== loadedEdition) {
    loadedEdition = id;
    loaded = load(database());
  }
  return loaded;
}

const NOTHING: PlateReading = { candidates: [], unknown: 1, unlisted: 0, rereads: [], taken: '' };

const api = {
  async readPlate(text: string): Promise<{ reading: PlateReading; models: Model[] }> {
    const data = await current();
    if (!data) return { reading: NOTHING, models: [] };
    const reading = readPlate(data.index, text, { shopCounts: data.counts });
    return { reading, models: reading.candidates.flatMap((candidate) => data.models.get(candidate.modelId) ?? []) };
  },

  async sortInput(
    text: string,
    context: InputContext,
    tickets: { id: string; number: number }[],
    orders: { id: string; number: string }[],
  ): Promise<InputReading[]> {
    const data = await current();
    return sortInput(
      {
        readPlate: (plate) => (data ? readPlate(data.index, plate, { shopCounts: data.counts }) : NOTHING),
        partsByNumber: (number) => data?.parts.get(number) ?? [],
        tickets,
        orders,
      },
      text,
      context,
    );
  },

  /** A number with everything it is connected with, and how many offers each has. */
  async reference(partId: string): Promise<{ reference: CrossReference; offers: Record<string, number> } | null> {
    const edition = await activeEdition(database());
    if (!edition) return null;
    const near = await new EditionReader(database(), edition).partsWith([partId]);
    const offers: Record<string, number> = {};
    for (const offer of near.offers) if (offer.stock > 0) offers[offer.partId] = (offers[offer.partId] ?? 0) + 1;
    return { reference: crossReference(near, partId), offers };
  },

  async model(modelId: string): Promise<Model | null> {
    return (await current())?.models.get(modelId) ?? null;
  },

  /** Models and parts whose number contains the text, for browsing; at most `limit` of each, with the totals. */
  async browse(
    text: string,
    limit: number,
  ): Promise<{ models: Model[]; modelCount: number; parts: Part[]; partCount: number }> {
    const data = await current();
    if (!data) return { models: [], modelCount: 0, parts: [], partCount: 0 };
    const wanted = normaliseNumber(text);
    const words = text.trim().toLowerCase();
    const models = data.modelList.filter(
      (model) => wanted === '' || normaliseNumber(model.modelNumber).includes(wanted),
    );
    const parts = data.partList.filter(
      (part) =>
        wanted === '' ||
        normaliseNumber(part.partNumber).includes(wanted) ||
        part.description.toLowerCase().includes(words),
    );
    return {
      models: models.slice(0, limit),
      modelCount: models.length,
      parts: parts.slice(0, limit),
      partCount: parts.length,
    };
  },
};

export type SearchApi = typeof api;
expose(api);
