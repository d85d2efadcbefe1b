import { existsSync, mkdtempSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../tests/support/demo';
import type { UblOrder } from '@/core/order/documents';
import { addDays, defined, money, asDay, type PartId, asId } from '@/core/units';
import type { Offer } from '@/core/catalogue';
import { answerOrder, voidOrder } from './answerOrder';
import { faultOf } from './faults';
import { refusalOf } from './acceptable';
import { lookAtState, shopIdSchema, SupplierState, withState } from './state';

const catalogue = demoCatalogue();
const blank = () => new SupplierState();
const current = new Set(
  catalogue.relations.filter((relation) => relation.kind === 'superseded-by').map((relation) => relation.fromPartId),
);
const stocked = defined(
  catalogue.offers.find((offer) => offer.stockPacks >= 3 && !current.has(offer.partId)),
  'an offer in stock',
);
const numberOf = (partId: PartId) => catalogue.parts.find(({ id }) => id === partId)?.partNumber ?? 'N';
/** A line as any shop may send it: its own name for the line, and the numbers of the part. */
const orderOf = ({ supplierNumber, partId }: Pick<Offer, 'supplierNumber' | 'partId'>, packs: number): UblOrder => ({
  number: 'HW-1',
  issuedOn: asDay('2026-11-24'),
  currency: 'EUR',
  buyer: 'x',
  supplier: 'x',
  mode: defined(
    catalogue.shipping_modes.find((mode) => mode.supplierId === stocked.supplierId),
    'a mode',
  ).id,
  lines: [
    {
      id: asId('line-1'),
      packs,
      partId,
      name: 'x',
      partNumber: numberOf(partId),
      supplierNumber,
      packPrice: money(1, 'EUR'),
    },
  ],
});
const answer = (
  state: SupplierState,
  key: string,
  order: UblOrder,
  fault: Parameters<typeof answerOrder>[6] = 'none',
) => {
  const known = answerOrder(catalogue, state, stocked.supplierId, key, order, asDay('2026-11-24'), fault);
  if (known.kind === 'void') throw new Error('void');
  return known.answer;
};

describe('a simulated supplier', () => {
  it('takes the same key once: same answer, stock sold once', () => {
    const state = blank();
    const first = answer(state, 'k', orderOf(stocked, 2));
    const again = answer(state, 'k', orderOf(stocked, 2));
    expect(again).toEqual(first);
    expect(state.sold(stocked.id)).toBe(2);
    expect(first.lines[0]).toMatchObject({ status: 'accepted', lineId: 'line-1', packPrice: stocked.packPrice });
    expect(answer(state, 'other', orderOf(stocked, 1)).reference).not.toBe(first.reference);
  });

  it('puts on back-order what its stock does not reach, for later than what it has', () => {
    const state = blank();
    const soon = answer(state, 'a', orderOf(stocked, 1)).lines[0];
    const later = answer(state, 'b', orderOf(stocked, stocked.stockPacks)).lines[0];
    expect(later?.status).toBe('back-ordered');
    const dueSoon = defined(soon?.dueOn ?? undefined, 'a day for the quick one');
    expect((later?.dueOn ?? '') > addDays(dueSoon, 2)).toBe(true);
  });

  it('sends the newer number of what is superseded, and refuses what it does not carry', () => {
    const step = defined(
      catalogue.offers.find(
        (offer) => offer.supplierId === stocked.supplierId && offer.stockPacks > 0 && current.has(offer.partId),
      ),
      'an offer of a superseded part',
    );
    const line = answer(blank(), 'c', orderOf(step, 1)).lines[0];
    expect(['substituted', 'accepted']).toContain(line?.status);
    expect(
      answer(blank(), 'd', orderOf({ supplierNumber: 'nowhere', partId: asId('p-nowhere') }, 1)).lines[0]?.status,
    ).toBe('rejected');
    expect(answer(blank(), 'e', orderOf(stocked, 1), 'reject').lines[0]?.status).toBe('rejected');
    expect(answer(blank(), 'f', orderOf(stocked, 1), 'back-order').lines[0]?.status).toBe('back-ordered');
  });

  it('knows a line by its own number or by the maker’s, whatever the shop calls it', () => {
    const bare = orderOf({ ...stocked, supplierNumber: '' }, 1);
    expect(answer(blank(), 'g', bare).lines[0]?.status).toBe('accepted');
  });

  it('takes nothing under a key that was taken back, however late it comes; what is taken stays', () => {
    const state = blank();
    const { supplierId } = stocked;
    expect(voidOrder(state, supplierId, 'late')).toEqual({ kind: 'void' });
    const late = answerOrder(catalogue, state, supplierId, 'late', orderOf(stocked, 1), asDay('2026-11-24'), 'none');
    expect(late).toEqual({ kind: 'void' });
    expect(state.sold(stocked.id)).toBe(0);
    const taken = answer(state, 'taken', orderOf(stocked, 1));
    expect(voidOrder(state, supplierId, 'taken')).toEqual({ kind: 'taken', answer: taken });
  });

  it('keeps an answer under a key of any name, one for each supplier', () => {
    const state = blank();
    for (const key of ['__proto__', 'constructor', 'toString'])
      expect(answer(state, key, orderOf(stocked, 1))).toEqual(answer(state, key, orderOf(stocked, 1)));
    expect(state.sold(stocked.id)).toBe(3);
    const other = defined(
      catalogue.suppliers.find(({ id }) => id !== stocked.supplierId),
      'another supplier',
    ).id;
    const first = answer(state, 'same', orderOf(stocked, 1));
    answerOrder(catalogue, state, other, 'same', orderOf(stocked, 1), asDay('2026-11-24'), 'none');
    expect(answer(state, 'same', orderOf(stocked, 1))).toEqual(first);
    expect(SupplierState.of(JSON.parse(JSON.stringify(state.stored()))).answerTo(stocked.supplierId, 'same')).toEqual(
      first,
    );
  });

  it('takes only what it can keep', () => {
    const order = orderOf(stocked, 1);
    const [line] = order.lines;
    if (!line) throw new Error('no line');
    expect(refusalOf(order)).toBeNull();
    expect(refusalOf({ ...order, lines: [{ ...line, partNumber: 'x'.repeat(100) }] })).toMatch(/80 characters/);
    expect(
      refusalOf({ ...order, lines: Array.from({ length: 1700 }, (_, index) => ({ ...line, id: asId(`l${index}`) })) }),
    ).toMatch(/500 lines/);
    expect(refusalOf({ ...order, lines: [line, line] })).toMatch(/same name/);
    expect(refusalOf({ ...order, issuedOn: asDay('9999-12-31') })).toMatch(/is none/);
    expect(refusalOf({ ...order, lines: [] })).toMatch(/without lines/);
  });

  it('knows its faults by name', () => {
    expect(faultOf('down')).toBe('down');
    expect(faultOf('rm -rf')).toBe('none');
    expect(faultOf(null)).toBe('none');
  });
});

describe('a shop’s state at the suppliers', () => {
  const home = process.cwd();
  beforeAll(() => process.chdir(mkdtempSync(path.join(tmpdir(), 'sorter-'))));
  afterAll(() => process.chdir(home));

  it('is kept apart by shop, changed one after the other, and refuses paths', async () => {
    const shop = '00000000-0000-4000-8000-000000000001';
    await Promise.all(Array.from({ length: 20 }, () => withState(shop, (state) => (state.counter += 1))));
    expect(await withState(shop, (state) => state.counter)).toBe(10_020);
    expect(await withState('00000000-0000-4000-8000-000000000002', (state) => state.counter)).toBe(10_000);
    expect(shopIdSchema.safeParse('../../etc/passwd').success).toBe(false);
    // Looking writes nothing.
    expect(await lookAtState('00000000-0000-4000-8000-000000000003', ({ orders }) => orders)).toBe(0);
    expect(readdirSync('.data').sort()).toEqual(
      [1, 2].map((last) => `suppliers-00000000-0000-4000-8000-00000000000${last}.json`),
    );
    // What cannot be read is kept aside, and the stand-in goes on.
    writeFileSync(path.join('.data', `suppliers-${shop}.json`), '{"answers": {}}');
    expect(await withState(shop, ({ counter }) => counter)).toBe(10_000);
    expect(existsSync(path.join('.data', `suppliers-${shop}.json.aside`))).toBe(true);
  });
});
