import { mkdir, readFile, rename, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { orderAnswerSchema, type OrderAnswer } from '@/core/order';
import * as z from '@/core/units/zod';

const folder = () => path.join(process.cwd(), '.data');

/** A key of one supplier: the same key at another one is another order. */
const slotOf = (supplierId: string, key: string): string => `${supplierId}\n${key}`;

/** What is on the disk: lists of entries, so that no key can be mistaken for a property of an object. */
const storedSchema = z.object({
  /** Answers by supplier and idempotency key: the same order is never taken twice. */
  answers: z.array(z.tuple([z.string(), orderAnswerSchema])),
  /** Supplier and key of what was taken back before anything was taken under it. */
  voided: z.array(z.string()),
  /** Packs sold by offer. */
  sold: z.array(z.tuple([z.string(), z.number().int().min(0)])),
  counter: z.number().int(),
});

/** One shop's state at all simulated suppliers. */
export class SupplierState {
  counter = 10_000;
  private readonly answers = new Map<string, OrderAnswer>();
  private readonly voided = new Set<string>();
  private readonly soldPacks = new Map<string, number>();

  static of(stored: unknown): SupplierState {
    const state = new SupplierState();
    const { answers, voided, sold, counter } = storedSchema.parse(stored);
    for (const [slot, answer] of answers) state.answers.set(slot, answer);
    for (const slot of voided) state.voided.add(slot);
    for (const [offerId, packs] of sold) state.soldPacks.set(offerId, packs);
    state.counter = counter;
    return state;
  }

  /** Throws rather than writes down what could not be read again. */
  stored(): z.infer<typeof storedSchema> {
    return storedSchema.parse({
      answers: [...this.answers],
      voided: [...this.voided],
      sold: [...this.soldPacks],
      counter: this.counter,
    });
  }

  get orders(): number {
    return this.answers.size;
  }
  answerTo = (supplierId: string, key: string): OrderAnswer | undefined => this.answers.get(slotOf(supplierId, key));
  isVoid = (supplierId: string, key: string): boolean => this.voided.has(slotOf(supplierId, key));
  sold = (offerId: string): number => this.soldPacks.get(offerId) ?? 0;

  take(supplierId: string, key: string, answer: OrderAnswer): void {
    this.answers.set(slotOf(supplierId, key), answer);
  }
  void(supplierId: string, key: string): void {
    this.voided.add(slotOf(supplierId, key));
  }
  sell(offerId: string, packs: number): void {
    this.soldPacks.set(offerId, this.sold(offerId) + packs);
  }
}

/** Shop ids come from outside: only the form of a UUID becomes a file name. */
export const shopIdSchema = z.uuid();
/** What names an order for good: printable, and not longer than a key is. */
export const keySchema = z.string().regex(/^[\x21-\x7e]{1,200}$/);

const fileOf = (shopId: string) => path.join(folder(), `suppliers-${shopId}.json`);

async function read(shopId: string): Promise<SupplierState> {
  let text: string;
  try {
    text = await readFile(fileOf(shopId), 'utf8');
  } catch {
    return new SupplierState();
  }
  try {
    return SupplierState.of(JSON.parse(text));
  } catch {
    // Of an older form, or damaged: the stand-in begins anew, and keeps the file aside.
    await rename(fileOf(shopId), `${fileOf(shopId)}.aside`);
    return new SupplierState();
  }
}

async function write(shopId: string, state: SupplierState): Promise<void> {
  const text = JSON.stringify(state.stored());
  await mkdir(folder(), { recursive: true });
  const draft = `${fileOf(shopId)}.tmp`;
  await writeFile(draft, text);
  await rename(draft, fileOf(shopId));
}

const queues = new Map<string, Promise<unknown>>();

function queued<T>(shopId: string, work: () => Promise<T>): Promise<T> {
  const run = (queues.get(shopId) ?? Promise.resolve()).then(work);
  const end = run.then(
    () => undefined,
    () => undefined,
  );
  queues.set(shopId, end);
  void end.then(() => {
    if (queues.get(shopId) === end) queues.delete(shopId);
  });
  return run;
}

/** Changes the state of one shop, one change after the other. */
export const withState = <T>(shopId: string, change: (state: SupplierState) => T): Promise<T> =>
  queued(shopId, async () => {
    const state = await read(shopId);
    const result = change(state);
    await write(shopId, state);
    return result;
  });

/** Looks at the state of one shop; nothing is written. */
export const lookAtState = <T>(shopId: string, look: (state: SupplierState) => T): Promise<T> =>
  queued(shopId, async () => look(await read(shopId)));
