import { beforeAll, describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../tests/support/demo';
import { fillWithDemo, startWorker } from '../../tests/support/worker';
import { moneyToDecimal, asId, type SupplierId } from '@/core/units';
import type { SorterDatabase } from '@/store';
import type { CheckedList, OpenedList, PricesApi } from './prices.worker';

const catalogue = demoCatalogue();
const SUPPLIER: SupplierId = asId('northquay');
/** Offers of this supplier whose part's number no other part has. */
const own = catalogue.offers
  .filter(({ supplierId }) => supplierId === SUPPLIER)
  .flatMap((offer) => {
    const part = catalogue.parts.find(({ id }) => id === offer.partId);
    const twins = catalogue.parts.filter(({ partNumber }) => partNumber === part?.partNumber);
    return part && twins.length === 1 ? [{ offer, part }] : [];
  })
  .filter(({ part }, index, all) => all.findIndex((other) => other.part.id === part.id) === index);
const csv = (rows: readonly string[], name = 'list.csv') => new File([rows.join('\r\n')], name);
const german = (offer: (typeof own)[number]['offer'], factor = 1) =>
  moneyToDecimal({ ...offer.packPrice, amountMinor: Math.round(offer.packPrice.amountMinor * factor) }).replace(
    '.',
    ',',
  );
const tableOf = (opened: OpenedList) => {
  if (opened.kind !== 'table') throw new Error(`no table but ${opened.kind}`);
  return opened;
};

describe('a supplier’s price list in the worker', () => {
  let api: PricesApi;
  let db: SorterDatabase;
  beforeAll(async () => {
    ({ api, db } = await startWorker<PricesApi>(() => import('./prices.worker')));
  });

  it('needs a catalogue, and says so', async () => {
    const opened = tableOf(await api.open(csv(['Artikel;Preis', 'A-1;2,50']), SUPPLIER, 'EUR'));
    await expect(api.check(SUPPLIER, opened.habit)).rejects.toThrow('no catalogue yet');
  });

  it('is opened with its columns guessed, decimal commas seen', async () => {
    await fillWithDemo(db);
    const rows = own
      .slice(0, 20)
      .map(({ offer, part }) => `${part.partNumber};${german(offer)};${offer.stockPacks * offer.packQuantity}`);
    const opened = tableOf(await api.open(csv(['Part no.;Net price;Stock', ...rows]), SUPPLIER, 'EUR'));
    expect(opened).toMatchObject({ header: ['Part no.', 'Net price', 'Stock'], rows: rows.length, remembered: false });
    expect(opened.habit.mapping).toMatchObject({ partNumber: 'Part no.', price: 'Net price', stock: 'Stock' });
    expect(opened.habit.style).toEqual({ decimalComma: true, currency: 'EUR' });
    expect(opened.sample).toHaveLength(5);
  });

  let checked: CheckedList;
  it('is compared with what the catalogue says of this supplier, before anything is stored', async () => {
    const [dearer, cheaper, same] = [own[0], own[1], own[2]];
    if (!dearer || !cheaper || !same) throw new Error('too few offers');
    const rows = [
      `${dearer.part.partNumber.toLowerCase()};${german(dearer.offer, 2)}`,
      `${cheaper.part.partNumber};${german(cheaper.offer, 0.5)}`,
      `${same.part.partNumber};${german(same.offer)}`,
      'ZZ-99-ZZ;1,00',
      `${same.part.partNumber};free`,
    ];
    const opened = tableOf(await api.open(csv(['Part no.;Net price', ...rows]), SUPPLIER, 'EUR'));
    checked = await api.check(SUPPLIER, opened.habit);
    expect(checked).toMatchObject({ rows: 3, dearer: 1, cheaper: 1, same: 1, added: 0, unknown: ['ZZ-99-ZZ'] });
    expect(checked.problems).toEqual([expect.objectContaining({ row: 6, value: 'free' })]);
    expect(checked.changes.map(({ kind }) => kind)).toEqual(['dearer', 'cheaper']);
    // What the list no longer names; an offer in several packs counts once.
    const sold = new Set(catalogue.offers.filter((offer) => offer.supplierId === SUPPLIER).map(({ partId }) => partId));
    expect(checked.gone).toBe(sold.size - 3);
    expect(await db.prices.count()).toBe(0);
  });

  it('takes the place of the last one, is remembered, and is what the next is compared with', async () => {
    await api.apply(SUPPLIER, 'list.csv');
    expect(await db.prices.where('supplierId').equals(SUPPLIER).count()).toBe(3);
    const again = tableOf(
      await api.open(csv(['Part no.;Net price', `${own[0]?.part.partNumber};9999,00`]), SUPPLIER, 'EUR'),
    );
    expect(again.remembered).toBe(true);
    expect(await api.check(SUPPLIER, again.habit)).toMatchObject({ rows: 1, dearer: 1, gone: 2 });
    // Another supplier's lists are read in their own way.
    const other = tableOf(await api.open(csv(['Part no.;Net price', 'A-1;2.50']), asId('other'), 'EUR'));
    expect(other.remembered).toBe(false);
    expect(other.habit.style.decimalComma).toBe(false);
  });

  it('cannot be checked after a file that could not be read', async () => {
    expect(
      await api.open(new File([new Uint8Array([0x50, 0x4b, 3, 4, 0, 0])], 'x.xlsx'), SUPPLIER, 'EUR'),
    ).toMatchObject({ kind: 'unreadable' });
    await expect(
      api.check(SUPPLIER, { mapping: {}, style: { decimalComma: false, currency: 'EUR' } }),
    ).rejects.toThrow();
    await expect(api.apply(SUPPLIER, 'x')).rejects.toThrow();
    expect(await db.prices.count()).toBe(3);
  });
});
