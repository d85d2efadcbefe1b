import { instantOf, localDateOf } from '@/core/units';
import { setTimeout as wait } from 'node:timers/promises';
import { readUblOrder, writeUblOrderResponse } from '@/core/order/documents';
import {
  answerOrder,
  faultOf,
  keySchema,
  market,
  refusalOf,
  shopIdSchema,
  SLOW_MS,
  voidOrder,
  withState,
} from '@/suppliers';

export const runtime = 'nodejs';
export const dynamic = 'force-dynamic';

const MAX_BYTES = 1_000_000;

const refuse = (status: number, why: string) =>
  new Response(why, { status, headers: { 'content-type': 'text/plain; charset=utf-8' } });

type Route = { params: Promise<{ supplierId: string }> };

/** Who asks, and under which key; or why that is not known. */
function askerOf(request: Request): { shop: string; key: string } | Response {
  const shop = shopIdSchema.safeParse(request.headers.get('x-sorter-shop'));
  const key = keySchema.safeParse(request.headers.get('idempotency-key'));
  return shop.success && key.success
    ? { shop: shop.data, key: key.data }
    : refuse(400, 'An order needs x-sorter-shop (a UUID) and idempotency-key (1 to 200 printable characters).');
}

/** The body as text; null when it is longer than it may be. */
async function textWithin(request: Request, most: number): Promise<string | null> {
  const decoder = new TextDecoder();
  let text = '';
  let bytes = 0;
  const reader = request.body?.getReader();
  if (!reader) return '';
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return bytes > most ? null : text + decoder.decode();
    bytes += value.length;
    // Read on without keeping it, so that whoever sends it hears why; up to a limit.
    if (bytes > 8 * most) {
      await reader.cancel();
      return null;
    }
    if (bytes <= most) text += decoder.decode(value, { stream: true });
  }
}

const document = (text: string) =>
  new Response(text, { status: 200, headers: { 'content-type': 'application/xml; charset=utf-8' } });

/** A simulated supplier takes an order: UBL Order in, UBL OrderResponse out. */
export async function POST(request: Request, context: Route): Promise<Response> {
  const { supplierId } = await context.params;
  const asker = askerOf(request);
  if (asker instanceof Response) return asker;
  const fault = faultOf(request.headers.get('x-sorter-fault'));
  if (fault === 'down') return refuse(503, 'Out of service.');
  if (fault === 'refuse') return refuse(422, 'This account is closed.');
  const text = await textWithin(request, MAX_BYTES);
  if (text === null) return refuse(413, 'The order is too long.');
  const order = readUblOrder(text);
  if (!order.ok) return refuse(422, `This is not a UBL order: ${JSON.stringify(order.error)}`);
  const why = refusalOf(order.value);
  if (why !== null) return refuse(422, why);
  const catalogue = await market();
  const supplier = catalogue.suppliers.find(({ id }) => id === supplierId);
  if (!supplier) return refuse(404, 'No such supplier.');
  const { number, issuedOn } = order.value;
  const known = await withState(asker.shop, (state) =>
    answerOrder(catalogue, state, supplier.id, asker.key, order.value, issuedOn, fault),
  );
  if (known.kind === 'void') return refuse(410, 'This order was taken back.');
  if (fault === 'lost-answer') return refuse(502, 'The line broke after the order was taken.');
  if (fault === 'nonsense') return document('<html>Welcome</html>');
  if (fault === 'slow') await wait(SLOW_MS);
  return document(writeUblOrderResponse(known.answer, number, issuedOn));
}

/**
 * A shop takes back an order of which it does not know whether it was taken. Taken: the answer again, and it stands. Not taken: 204, and nothing will be
 * taken under this key, however late the order itself may still arrive.
 */
export async function DELETE(request: Request, context: Route): Promise<Response> {
  const { supplierId } = await context.params;
  const asker = askerOf(request);
  if (asker instanceof Response) return asker;
  if (faultOf(request.headers.get('x-sorter-fault')) === 'down') return refuse(503, 'Out of service.');
  const supplier = (await market()).suppliers.find(({ id }) => id === supplierId);
  if (!supplier) return refuse(404, 'No such supplier.');
  const known = await withState(asker.shop, (state) => voidOrder(state, supplier.id, asker.key));
  if (known.kind === 'void') return new Response(null, { status: 204 });
  return document(writeUblOrderResponse(known.answer, asker.key, localDateOf(instantOf(new Date()), 'UTC')));
}
