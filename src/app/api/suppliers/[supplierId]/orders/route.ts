import { setTimeout as wait } from 'node:timers/promises';
import { readUblOrder, writeUblOrderResponse } from '@/core/order';
import { answerOrder, faultOf, market, shopIdSchema, SLOW_MS, withState } from '@/suppliers';

export const runtime = 'nodejs';
export const dynamic = 'force-dynamic';

const MAX_BYTES = 1_000_000;

const refuse = (status: number, why: string) =>
  new Response(why, { status, headers: { 'content-type': 'text/plain; charset=utf-8' } });

/** A simulated supplier takes an order: UBL Order in, UBL OrderResponse out. */
export async function POST(request: Request, context: { params: Promise<{ supplierId: string }> }): Promise<Response> {
  const { supplierId } = await context.params;
  const shop = shopIdSchema.safeParse(request.headers.get('x-sorter-shop'));
  const key = request.headers.get('idempotency-key');
  if (!shop.success || !key) return refuse(400, 'An order needs x-sorter-shop and idempotency-key.');
  const fault = faultOf(request.headers.get('x-sorter-fault'));
  if (fault === 'down') return refuse(503, 'Out of service.');
  const text = await request.text();
  if (text.length > MAX_BYTES) return refuse(413, 'The order is too long.');
  const order = readUblOrder(text);
  if (!order.ok) return refuse(422, `This is not a UBL order: ${JSON.stringify(order.error)}`);
  const catalogue = await market();
  if (!catalogue.suppliers.some((supplier) => supplier.id === supplierId)) return refuse(404, 'No such supplier.');
  const answer = await withState(shop.data, (state) =>
    answerOrder(catalogue, state, supplierId, key, order.value, order.value.issuedOn, fault),
  );
  if (fault === 'lost-answer') return refuse(502, 'The line broke after the order was taken.');
  if (fault === 'nonsense')
    return new Response('<html>Welcome</html>', { status: 200, headers: { 'content-type': 'application/xml' } });
  if (fault === 'slow') await wait(SLOW_MS);
  return new Response(writeUblOrderResponse(answer, order.value.number, order.value.issuedOn), {
    status: 200,
    headers: { 'content-type': 'application/xml; charset=utf-8' },
  });
}
