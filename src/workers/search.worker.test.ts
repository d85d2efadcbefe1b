import { beforeAll, describe, expect, it } from 'vitest';
import { demoCatalogue, demoTickets } from '../../tests/support/demo';
import { fillWithDemo, startWorker } from '../../tests/support/worker';
import { crossReference, partsOfModel } from '@/core/fit';
import { buildModelIndex, normaliseNumber, readPlate } from '@/core/identify';
import { applyEvents } from '@/core/ticket';
import { defined, asDay, asId } from '@/core/units';
import type { SorterDatabase } from '@/store';
import type { SearchApi } from './search.worker';

const catalogue = demoCatalogue();
const some = <T>(list: readonly T[], count: number): T[] =>
  list.filter((_, index) => index % Math.max(1, Math.floor(list.length / count)) === 0);
const anyModel = defined(catalogue.models[17], 'a model');

describe('searching before there is a catalogue', () => {
  it('finds nothing, and fails at nothing', async () => {
    const { api } = await startWorker<SearchApi>(() => import('./search.worker'));
    expect((await api.readPlate('VB 61-407/2')).reading).toMatchObject({ candidates: [], unknown: 1 });
    expect(await api.model(asId('m'))).toBeNull();
    expect(await api.modelSheet(asId('m'))).toBeNull();
    expect(await api.reference(asId('p'))).toBeNull();
    expect(await api.serialIn('A12345', asId('m'), asDay('2026-11-24'))).toBeNull();
    expect(await api.partModels(asId('p'))).toEqual({ rows: [], more: false });
    expect(await api.search('4')).toEqual({ models: 0, parts: 0 });
    expect(await api.modelRows('4', 0, 10)).toEqual([]);
  });
});

describe('searching the demo catalogue', () => {
  let api: SearchApi;
  let db: SorterDatabase;
  beforeAll(async () => {
    ({ api, db } = await startWorker<SearchApi>(() => import('./search.worker')));
    await fillWithDemo(db);
  });

  it('brings the models of a reading along, in its order', async () => {
    for (const model of some(catalogue.models, 12)) {
      const { reading, models } = await api.readPlate(model.modelNumber);
      expect(models.map(({ id }) => id)).toEqual(reading.candidates.map(({ modelId }) => modelId));
      expect(models[0]).toEqual(catalogue.models.find(({ id }) => id === reading.candidates[0]?.modelId));
    }
  });

  it('shows of a model what the whole catalogue says of it', async () => {
    for (const model of some(catalogue.models, 15)) {
      const sheet = defined(await api.modelSheet(model.id), 'a sheet');
      // What the shop learned of a listed number stands with it.
      const roles = sheet.roles.map((role) => ({
        ...role,
        parts: role.parts.map((part) => ({ ...part, fittedHere: null })),
      }));
      expect(roles, model.modelNumber).toEqual(partsOfModel(catalogue, model.id));
      expect(sheet.sisters).toBe(catalogue.models.filter((one) => one.platformId === model.platformId).length - 1);
      expect(sheet.badge).toBe(catalogue.badges.find(({ id }) => id === model.badgeId)?.name);
    }
  });

  it('names the models of a part that a look at every fit names', async () => {
    for (const part of some(catalogue.parts, 25)) {
      const wanted = catalogue.fits
        .filter((fit) => fit.partId === part.id)
        .flatMap((fit) =>
          catalogue.models
            .filter((model) => model.id === fit.modelId || model.platformId === fit.platformId)
            .map((model) => `${model.id} ${fit.id}`),
        );
      const { rows, more } = await api.partModels(part.id);
      expect(more).toBe(false);
      expect(rows.map(({ model, fit }) => `${model.id} ${fit.id}`).sort(), part.partNumber).toEqual(wanted.sort());
    }
  });

  it('follows a number’s references as over the whole catalogue, and counts offers in stock only', async () => {
    for (const part of some(catalogue.parts, 40)) {
      const found = defined(await api.reference(part.id), 'a reference');
      const whole = crossReference(catalogue, part.id);
      expect(found.reference.parts.map(({ id }) => id).sort(), part.partNumber).toEqual(
        whole.parts.map(({ id }) => id).sort(),
      );
      expect(found.reference.soldToday).toEqual(whole.soldToday);
      const stocked = catalogue.offers.filter((offer) => offer.partId === part.id && offer.stockPacks > 0);
      expect(found.offers[part.id] ?? 0).toBe(stocked.length);
    }
  });

  it('gives the rows of the latest search, page by page, each once, and none of one that is over', async () => {
    const counted = await api.search('40');
    const rows = [];
    for (let from = 0; from < counted.models; from += 7) rows.push(...(await api.modelRows('40', from, from + 7)));
    const wanted = catalogue.models.filter(({ modelNumber }) => normaliseNumber(modelNumber).includes('40'));
    expect(new Set(rows.map(({ id }) => id)).size).toBe(counted.models);
    expect(rows.map(({ id }) => id)).toEqual(expect.arrayContaining(wanted.map(({ id }) => id)));
    expect((await api.partRows('40', 0, 5)).length).toBe(Math.min(5, counted.parts));
    await api.search('41');
    expect(await api.modelRows('40', 0, 5)).toEqual([]);
  });

  it('weighs what this shop has had before, as the core does when told how often', async () => {
    const counts = new Map<string, number>();
    for (const { closed, plate } of [...demoTickets().values()].map((stream) => applyEvents(stream)))
      if (closed && plate) counts.set(plate.modelId, (counts.get(plate.modelId) ?? 0) + 1);
    expect(counts.size).toBeGreaterThan(20);
    const index = buildModelIndex(catalogue.models);
    let moved = 0;
    for (const model of some(catalogue.models, 30)) {
      const text = model.modelNumber.replace(/\d(?=\D*$)/, '?');
      const { reading } = await api.readPlate(text);
      const own = readPlate(index, text, { shopCounts: counts });
      expect(reading.candidates.map(({ modelId }) => modelId)).toEqual(own.candidates.map(({ modelId }) => modelId));
      expect(reading.candidates[0]?.probability).toBeCloseTo(own.candidates[0]?.probability ?? -1, 9);
      if (Math.abs(reading.unknown - readPlate(index, text).unknown) > 1e-6) moved += 1;
    }
    expect(moved).toBeGreaterThan(10);
  });

  it('believes a picture as far as its reader was sure, as the core does', async () => {
    const unknown = async (sure?: number) => (await api.readPlate('QK-77120 TX', sure)).reading.unknown;
    const [typed, well, badly] = [await unknown(), await unknown(0.9), await unknown(0.2)];
    expect(well).toBeGreaterThan(0.9);
    expect(badly).toBeLessThan(well - 0.2);
    expect(typed).not.toBe(badly);
  });

  it('reads the serial out of a plate’s text by the scheme of the model’s maker', async () => {
    const model = defined(
      catalogue.models.find(({ makerId }) => makerId === 'fjordal'),
      'a model of this maker',
    );
    const read = await api.serialIn(`MODEL ${model.modelNumber}\nS/N H20K40931\n230 V`, model.id, asDay('2026-11-24'));
    expect(read?.serial).toBe('H20K40931');
    expect(await api.serialIn('230 V', model.id, asDay('2026-11-24'))).toBeNull();
  });

  it('names listed relatives of a number that is not listed, with a chance that leaves room for none', async () => {
    const found = await api.relatives(`${anyModel.modelNumber}9`);
    const [first] = found;
    expect(first?.platformId).toBe(anyModel.platformId);
    expect(first?.probability).toBeGreaterThan(0.25);
    expect(found.reduce((sum, { probability }) => sum + probability, 0)).toBeLessThan(1);
    expect(await api.relatives('??')).toEqual([]);
  });

  it('searches the edition that is in use, as soon as it is', async () => {
    const { writeEdition } = await import('@/store/editions/editionWriter');
    const { activate, layersOf } = await import('@/store/editions/layers');
    const renamed = { ...anyModel, modelNumber: 'QQQ-77-QQQ' };
    const models = catalogue.models.map((model) => (model.id === anyModel.id ? renamed : model));
    const top = (await layersOf(db))[0]?.edition;
    const named = { name: top?.name ?? '', title: 'next', version: '', prefix: '' };
    await activate(db, await writeEdition(db, named, { ...catalogue, models }));
    expect(await api.search('QQQ77QQQ')).toMatchObject({ models: 1 });
    expect((await api.readPlate('qqq77qqq')).models[0]?.id).toBe(anyModel.id);
  });
});
