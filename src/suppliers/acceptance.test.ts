import { mkdtempSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll } from 'vitest';
import { DELETE, POST } from '@/app/api/suppliers/[supplierId]/orders/route';
import { overHttp } from '@/store/outbox/supplierService';
import { asDay, instantOf, keyBy, localDateOf } from '@/core/units';
import { demoCatalogue } from '../../tests/support/demo';
import { acceptSupplier, type Sample } from '../../tests/support/supplierAcceptance';

const SHOP = '00000000-0000-4000-8000-0000000000ac';
const home = process.cwd();

beforeAll(() => {
  // The routes keep their state under the working directory and read the demo beside it.
  const folder = mkdtempSync(path.join(tmpdir(), 'acceptance-'));
  symlinkSync(path.join(home, 'demo-shop'), path.join(folder, 'demo-shop'));
  process.chdir(folder);
});
afterAll(() => process.chdir(home));

const { suppliers, offers, parts, shipping_modes: modes, relations } = demoCatalogue();
const partOf = keyBy(parts, ({ id }) => id);
const replaced = new Set(relations.filter(({ kind }) => kind === 'superseded-by').map(({ fromPartId }) => fromPartId));
const PARTS = 3;

const sampleOf = (supplierId: string): Sample => ({
  today: asDay('2026-11-24'),
  currency: 'EUR',
  supplier: supplierId,
  mode: modes.find((mode) => mode.supplierId === supplierId)?.id ?? '',
  stocked: offers
    .filter((offer) => offer.supplierId === supplierId && offer.stockPacks > 20 && !replaced.has(offer.partId))
    .slice(0, PARTS)
    .map(({ partId, supplierNumber, packPrice }) => ({
      partNumber: partOf.get(partId)?.partNumber ?? '',
      supplierNumber,
      packPrice,
    })),
});

for (const { id, name, orders } of suppliers)
  if (orders === 'online')
    acceptSupplier(name, () => ({
      // The very handlers that stand behind the address, without a network between.
      service: overHttp(
        `http://localhost/api/suppliers/${id}/orders`,
        () => Promise.resolve(SHOP),
        (input, init) => {
          const request = new Request(typeof input === 'string' ? input : String(input), init);
          const context = { params: Promise.resolve({ supplierId: id }) };
          return request.method === 'DELETE' ? DELETE(request, context) : POST(request, context);
        },
      ),
      sample: sampleOf(id),
      freshKey: randomUUID,
    }));

/** A real one: its address, and as SUPPLIER_SAMPLE the parts that it sells, as JSON like `Sample`. It gets real orders: its own test account, not the shop's. */
const address = process.env['SUPPLIER'];
if (address)
  acceptSupplier(address, () => ({
    service: overHttp(address, () => Promise.resolve(SHOP)),
    sample: {
      today: localDateOf(instantOf(new Date()), 'UTC'),
      ...(JSON.parse(process.env['SUPPLIER_SAMPLE'] ?? '{}') as Omit<Sample, 'today'>),
    },
    freshKey: randomUUID,
  }));
