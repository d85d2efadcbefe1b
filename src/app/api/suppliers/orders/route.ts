import { lookAtState, shopIdSchema } from '@/suppliers';

export const runtime = 'nodejs';
export const dynamic = 'force-dynamic';

/** How many orders the simulated suppliers have taken from this shop: their side of the story, to compare with ours. */
export async function GET(request: Request): Promise<Response> {
  const shop = shopIdSchema.safeParse(request.headers.get('x-sorter-shop'));
  if (!shop.success) return new Response('Asking needs x-sorter-shop.', { status: 400 });
  return Response.json(await lookAtState(shop.data, ({ orders }) => ({ orders })));
}
