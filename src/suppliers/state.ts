import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { orderAnswerSchema } from '@/core/order';
import * as z from '@/core/units/zod';

const folder = () => path.join(process.cwd(), '.data');

const stateSchema = z.object({
  /** Answers by idempotency key: the same order is never taken twice. */
  answers: z.record(
    z.string(),
    z.object({ supplierId: z.string(), orderNumber: z.string(), answer: orderAnswerSchema }),
  ),
  /** Keys that were taken back before anything was taken under them. */
  voided: z.array(z.string()).default([]),
  /** Packs sold by offer. */
  sold: z.record(z.string(), z.number().int()),
  counter: z.number().int(),
});
export type SupplierState = z.infer<typeof stateSchema>;

const blank = (): SupplierState => ({ answers: {}, voided: [], sold: {}, counter: 10_000 });

/** Shop ids come from outside: only the form of a UUID becomes a file name. */
export const shopIdSchema = z.uuid();

const fileOf = (shopId: string) => path.join(folder(), `suppliers-${shopId}.json`);

async function read(shopId: string): Promise<SupplierState> {
  let text: string;
  try {
    text = await readFile(fileOf(shopId), 'utf8');
  } catch {
    return blank();
  }
  return stateSchema.parse(JSON.parse(text));
}

async function write(shopId: string, state: SupplierState): Promise<void> {
  await mkdir(folder(), { recursive: true });
  const draft = `${fileOf(shopId)}.tmp`;
  await writeFile(draft, JSON.stringify(state));
  await rename(draft, fileOf(shopId));
}

const queues = new Map<string, Promise<unknown>>();

/** Changes the state of one shop, one change after the other. */
export function withState<T>(shopId: string, change: (state: SupplierState) => T): Promise<T> {
  const before = queues.get(shopId) ?? Promise.resolve();
  const run = before.then(async () => {
    const state = await read(shopId);
    const result = change(state);
    await write(shopId, state);
    return result;
  });
  queues.set(
    shopId,
    run.catch(() => undefined),
  );
  return run;
}
