import { instantOf } from '@/core/units';
import fc from 'fast-check';
import { bringUp } from './migrations';
import { RECORD_VERSION } from './version';
import type { Plain } from './upgrades/plain';
import { describe, expect, it } from 'vitest';
import { memoryStore } from '../../../tests/support/memoryStore';
import {
  brokenPromises,
  CLOCK_START,
  commands,
  leadsOn,
  newShop,
  run,
  type Command,
  type Shop,
} from '../../../tests/support/shopModel';

const HISTORIES = Number(process.env['HISTORIES'] ?? 150);
const SEED = Number(process.env['SEED'] ?? 7);
const LENGTH = 60;

/** Whatever was written is read back as it is: from a backup of today nothing changes and nothing is put aside. */
function readBack(lines: readonly string[]): string[] {
  const rows = lines.map((line): Plain => JSON.parse(line) as Plain);
  const { tables, aside } = bringUp({ events: rows }, RECORD_VERSION);
  const again = (tables['events'] ?? []).map((row) => JSON.stringify(row));
  return aside.length || again.join('\n') !== lines.join('\n') ? ['what was written is not read back'] : [];
}

/** Plays a history and says what broke, and where. */
async function play(history: readonly Command[]): Promise<{ shop: Shop; broken: string[] }> {
  let at = CLOCK_START;
  const clock = () => instantOf(new Date((at += 60_000)));
  const store = memoryStore(clock);
  const shop = await newShop(store);
  for (const [index, command] of history.entries()) {
    await run(shop, command);
    const broken = await brokenPromises(shop);
    for (const ticket of [0, 1]) if (!(await leadsOn(shop, ticket))) broken.push('nothing leads on');
    if (broken.length)
      return { shop, broken: broken.map((what) => `step ${index + 1}, ${JSON.stringify(command)}: ${what}`) };
  }
  return { shop, broken: readBack(store.lines()) };
}

/** Histories that broke a promise on the way to today's shape. */
const KEPT: Record<string, Command[]> = {
  'an offer made for one cause was kept for another': [
    { do: 'read-plate', ticket: 0, model: 0 },
    { do: 'settle', ticket: 0, cause: 0 },
    { do: 'choose', ticket: 0, variant: 0, price: 1000 },
    { do: 'offer', ticket: 0, price: 1000 },
    { do: 'settle', ticket: 0, cause: 1 },
    { do: 'keep', ticket: 0, what: 'part' },
    { do: 'keep', ticket: 0, what: 'offer' },
    { do: 'answer', ticket: 0, answer: 'yes', cheaper: false },
  ],
  'a part that was offered got a second name when it was chosen again, and was ordered under both': [
    { do: 'read-plate', ticket: 0, model: 0 },
    { do: 'settle', ticket: 0, cause: 0 },
    { do: 'choose', ticket: 0, variant: 0, price: 1000 },
    { do: 'offer', ticket: 0, price: 1000 },
    { do: 'answer', ticket: 0, answer: 'yes', cheaper: true },
    { do: 'choose', ticket: 0, variant: 0, price: 1000 },
    { do: 'keep', ticket: 0, what: 'offer' },
    { do: 'plan', together: false },
    { do: 'place', stale: 0, twice: false },
    { do: 'answer', ticket: 0, answer: 'yes', cheaper: false },
  ],
};

describe('a shop of two tickets and their orders', () => {
  it(`keeps its promises through ${HISTORIES} drawn histories (seed ${SEED})`, async () => {
    const seen = { orders: 0, refusals: new Set<string>(), taken: 0, fetched: 0, kept: 0 };
    await fc.assert(
      fc.asyncProperty(fc.array(commands, { minLength: 10, maxLength: LENGTH, size: 'max' }), async (history) => {
        const { shop, broken } = await play(history);
        seen.orders += shop.orders.length;
        seen.taken += shop.book.size;
        for (const stockId of shop.lots) {
          const lot = (await shop.store.stock(stockId))?.state;
          seen.fetched += lot?.movements.filter(({ why }) => why === 'taken').length ?? 0;
          seen.kept += lot?.reserved.length ?? 0;
        }
        for (const { kind } of shop.refusals) seen.refusals.add(kind);
        expect(broken).toEqual([]);
      }),
      { numRuns: HISTORIES, seed: SEED },
    );
    // It drew what it is about.
    expect(seen.orders).toBeGreaterThan(HISTORIES / 10);
    expect(seen.taken).toBeGreaterThan(HISTORIES / 30);
    expect(seen.fetched).toBeGreaterThan(HISTORIES / 10);
    expect(seen.kept).toBeGreaterThan(HISTORIES / 20);
    for (const kind of [
      'not-in-stock',
      'plan-is-stale',
      'shaken',
      'does-not-fit',
      'order-is-past',
      'nothing-to-take-back',
    ])
      expect([...seen.refusals]).toContain(kind);
  });

  for (const [name, history] of Object.entries(KEPT))
    it(`kept: ${name}`, async () => {
      expect((await play(history)).broken).toEqual([]);
    });
});
