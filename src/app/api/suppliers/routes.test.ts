import { mkdtempSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../../tests/support/demo';
import { readUblOrderResponse, writeUblOrder } from '@/core/order/documents';
import { defined, money, moneyToDecimal, asDay, asId } from '@/core/units';
import { DELETE, POST } from './[supplierId]/orders/route';
import { GET } from './orders/route';

const SHOP = '00000000-0000-4000-8000-00000000000a';
const home = process.cwd();

beforeAll(() => {
  // The routes keep their state under the working directory and read the demo beside it.
  const folder = mkdtempSync(path.join(tmpdir(), 'routes-'));
  symlinkSync(path.join(home, 'demo-shop'), path.join(folder, 'demo-shop'));
  process.chdir(folder);
});
afterAll(() => process.chdir(home));

const offer = defined(
  demoCatalogue().offers.find((entry) => entry.supplierId === 'northquay' && entry.stockPacks > 4),
  'an offer',
);
const order = (number: string, packs = 1) =>
  writeUblOrder({
    number,
    issuedOn: asDay('2026-11-24'),
    currency: 'EUR',
    buyer: 'Shop',
    supplier: 'Northquay',
    mode: 'nq-day',
    lines: [
      {
        id: asId(offer.id),
        packs,
        partId: offer.partId,
        name: 'X',
        partNumber: 'X',
        supplierNumber: offer.supplierNumber,
        packPrice: money(1, 'EUR'),
      },
    ],
  });

const send = (body: string, headers: Record<string, string> = {}, supplierId = 'northquay') =>
  POST(
    new Request('http://localhost/api', {
      method: 'POST',
      body,
      headers: { 'idempotency-key': 'k1', 'x-sorter-shop': SHOP, ...headers },
    }),
    { params: Promise.resolve({ supplierId }) },
  );

const taken = async (): Promise<unknown> =>
  (await GET(new Request('http://localhost/api', { headers: { 'x-sorter-shop': SHOP } }))).json();

describe('a simulated supplier behind its route', () => {
  it('answers an order in UBL, with its own price and a date', async () => {
    const response = await send(order('HW-1'));
    expect(response.status).toBe(200);
    expect(response.headers.get('content-type')).toContain('xml');
    const answer = readUblOrderResponse(await response.text());
    expect(answer).toMatchObject({
      ok: true,
      value: { lines: [{ lineId: offer.id, price: moneyToDecimal(offer.packPrice) }] },
    });
  });

  it('takes the same order once, however often it comes, also when the first answer was lost', async () => {
    const before = await taken();
    const lost = await send(order('HW-2'), { 'idempotency-key': 'k2', 'x-sorter-fault': 'lost-answer' });
    expect(lost.status).toBe(502);
    const first = await (await send(order('HW-2'), { 'idempotency-key': 'k2' })).text();
    const second = await (await send(order('HW-2'), { 'idempotency-key': 'k2' })).text();
    expect(second).toBe(first);
    expect(await taken()).toEqual({ orders: Number(Reflect.get(Object(before), 'orders')) + 1 });
  });

  it('takes back what it never took, for good, and not what it took', async () => {
    const back = (key: string) =>
      DELETE(
        new Request('http://localhost/api', {
          method: 'DELETE',
          headers: { 'idempotency-key': key, 'x-sorter-shop': SHOP },
        }),
        { params: Promise.resolve({ supplierId: 'northquay' }) },
      );
    expect((await back('never')).status).toBe(204);
    expect((await send(order('HW-9'), { 'idempotency-key': 'never' })).status).toBe(410);
    await send(order('HW-10'), { 'idempotency-key': 'k10' });
    const kept = await back('k10');
    expect(kept.status).toBe(200);
    expect(readUblOrderResponse(await kept.text()).ok).toBe(true);
  });

  it('is out of service, or talks nonsense, when told to', async () => {
    expect((await send(order('HW-3'), { 'x-sorter-fault': 'down' })).status).toBe(503);
    const nonsense = await send(order('HW-3'), { 'idempotency-key': 'k3', 'x-sorter-fault': 'nonsense' });
    expect(readUblOrderResponse(await nonsense.text()).ok).toBe(false);
  });

  it.each([
    ['no key', order('HW-4'), { 'idempotency-key': '' }, 'northquay', 400],
    ['no shop', order('HW-4'), { 'x-sorter-shop': '../../x' }, 'northquay', 400],
    ['no such supplier', order('HW-4'), {}, 'nobody', 404],
    ['no order', 'hello', {}, 'northquay', 422],
    ['far too long', `${order('HW-4')}${' '.repeat(1_000_001)}`, {}, 'northquay', 413],
  ])('refuses %s, saying why', async (_name, body, headers, supplierId, status) => {
    const response = await send(body, headers, supplierId);
    expect(response.status).toBe(status);
    expect((await response.text()).length).toBeGreaterThan(5);
  });

  it('asks who wants to see its books', async () => {
    expect((await GET(new Request('http://localhost/api'))).status).toBe(400);
  });
});
