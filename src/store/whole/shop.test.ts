import fc from 'fast-check';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { freshDatabase } from '../../../tests/support/database';
import { DEMO_DAY } from '../../../tests/support/demoDay';
import { northern, smallPackage, southern } from '../../../tests/support/packages';
import { demoZip, giveLocks } from '../../../tests/support/worker';
import { remark } from '@/core/ticket';
import { asId, asInstant, type TicketId } from '@/core/units';
import { exportBackup } from '../backup/backup';
import type { SorterDatabase } from '../database';
import { catalogueOf } from '../editions/catalogueReader';
import { EditionGone, layersOf } from '../editions/layers';
import { dexieStore } from '../records/act';
import { onTicket, openTicket } from '../records/acts';
import { checkPackage, emptyShop, fillDemo, importCatalogue, removePackage, restoreShop, type Imported } from './shop';
import { isFilled, tidyUp } from './tidy';
import { undertake, undertakingOf } from './undertaking';

const quiet = () => undefined;
const never = () => false;
const imported = (db: SorterDatabase, file: File) => importCatalogue(db, [file], quiet, never);
const waitingOf = (came: Imported) => {
  if (came.kind !== 'waiting') throw new Error(`not waiting but ${came.kind}`);
  return came.waiting;
};
const north = (change = {}) => smallPackage('north', northern(change), 'North');
const south = () => smallPackage('south', southern(), 'South');

/** A shop with a ticket and a package; and its backup. */
async function shopWith(file = north()): Promise<{ db: SorterDatabase; backup: Blob }> {
  const db = freshDatabase();
  await openTicket(dexieStore(db), []);
  await imported(db, file);
  return { db, backup: await exportBackup(db) };
}

/** Every layer is there, whole and able to answer; nothing else lies about. */
async function isWhole(db: SorterDatabase): Promise<string[]> {
  const layers = await layersOf(db);
  const editions = await db.editions.toArray();
  const reader = await catalogueOf(db);
  for (const { reader: layer } of reader.searched) await layer.searchIndexes();
  const counts = await Promise.all(editions.map(({ id }) => db.buckets.where('edition').equals(id).count()));
  expect(editions.map(({ id }) => id).sort()).toEqual(layers.map(({ edition }) => edition.id).sort());
  expect(counts.every((count) => count > 0)).toBe(true);
  expect(editions.every(({ state }) => state === 'ready')).toBe(true);
  expect(await undertakingOf(db)).toBeNull();
  for (const { edition } of layers) expect((await reader.table('makers')).length, edition.title).toBeGreaterThan(0);
  return layers.map(({ edition }) => edition.title);
}

beforeEach(giveLocks);

describe('an import while another tab replaces something', () => {
  it('says that it waits, and goes on by itself', async () => {
    const { db } = await shopWith();
    const stages: string[] = [];
    let end: () => void = quiet;
    const isHeld = new Promise<void>((resolve) => (end = resolve));
    let other: Promise<void> = Promise.resolve();
    await new Promise<void>((begun) => {
      other = undertake(db, 'restore', () => {
        begun();
        return isHeld;
      });
    });
    const coming = importCatalogue(db, [south()], ({ stage }) => stages.push(stage), never);
    await vi.waitFor(() => expect(stages).toEqual(['waiting']));
    end();
    await other;
    expect((await coming).kind).toBe('waiting');
    expect(stages.slice(0, 2)).toEqual(['waiting', 'unpacking']);
  });

  it('says nothing of the kind when it need not wait', async () => {
    const stages: string[] = [];
    await importCatalogue(freshDatabase(), [south()], ({ stage }) => stages.push(stage), never);
    expect(stages).not.toContain('waiting');
  });
});

describe('what waits for a word', () => {
  it('is not put to use after a backup was restored, and the restored catalogue stays whole', async () => {
    const { db, backup } = await shopWith();
    const waiting = waitingOf(await imported(db, south()));
    expect(await restoreShop(db, backup)).toMatchObject({ ok: true });
    await expect(waiting.apply()).rejects.toThrow(EditionGone);
    await waiting.discard();
    await tidyUp(db);
    expect(await isWhole(db)).toEqual(['North']);
  });
  it('is not put to use over packages that it was not read against', async () => {
    const { db } = await shopWith();
    const [first, second] = [
      waitingOf(await imported(db, south())),
      waitingOf(await imported(db, north({ capacityKg: '8' }))),
    ];
    await first.apply();
    await expect(second.apply()).rejects.toMatchObject({ why: 'moved-on' });
    await second.discard();
    await tidyUp(db);
    expect(await isWhole(db)).toEqual(['North', 'South']);
  });
  it('is kept by whoever holds it, and swept when its tab is gone', async () => {
    const { db } = await shopWith();
    waitingOf(await imported(db, south()));
    await tidyUp(db);
    expect(await db.editions.count()).toBe(2);
    // The tab dies, and its locks with it.
    giveLocks();
    await tidyUp(db);
    expect(await isWhole(db)).toEqual(['North']);
  });
});

describe('an undertaking', () => {
  it('is stated while it lasts; another waits its turn, and nobody sweeps', async () => {
    const { db, backup } = await shopWith();
    const seen: (string | undefined)[] = [];
    await Promise.all([
      undertake(db, 'remove', async () => {
        seen.push((await undertakingOf(db))?.what);
        await new Promise((resolve) => setTimeout(resolve, 30));
        seen.push((await undertakingOf(db))?.what);
      }),
      tidyUp(db).then((cutOff) => expect(cutOff).toBeNull()),
      restoreShop(db, backup),
    ]);
    expect(seen).toEqual(['remove', 'remove']);
    expect(await isWhole(db)).toEqual(['North']);
  });
  it('that a killed tab left is said once, and what it began counts for nothing', async () => {
    const { db } = await shopWith();
    const [edition] = await db.editions.toArray();
    if (!edition) throw new Error('no edition');
    await db.editions.put({ ...edition, id: 'half', state: 'writing' });
    await db.meta.put({
      key: 'undertaking',
      value: { what: 'restore', tab: 'dead', since: asInstant('2026-11-24T08:00:00.000Z') },
    });
    expect(await tidyUp(db)).toMatchObject({ what: 'restore' });
    expect(await tidyUp(db)).toBeNull();
    expect(await isWhole(db)).toEqual(['North']);
  });
  it('fills a demo shop whose first filling was cut off, and not one that was filled', async () => {
    const db = freshDatabase();
    // What a filling leaves that dies in the middle: an edition, and no word that it was filled.
    await db.editions.put({
      id: 'half',
      name: 'x',
      version: '',
      prefix: '',
      title: 'x',
      at: asInstant('2026-11-24T08:00:00.000Z'),
      state: 'writing',
      counts: {},
      buckets: {},
    });
    expect(await isFilled(db)).toBe(false);
    let fetched = 0;
    const fetching = async () => {
      fetched += 1;
      return demoZip();
    };
    expect(await fillDemo(db, fetching, DEMO_DAY, quiet, true)).toBeNull();
    expect(await isFilled(db)).toBe(true);
    expect(await fillDemo(db, fetching, DEMO_DAY, quiet, true)).toBeNull();
    expect(fetched).toBe(1);
    await isWhole(db);
  });
});

describe('a note that comes after the shop was emptied in another tab', () => {
  it('makes no ticket without its beginning', async () => {
    const { db } = await shopWith();
    const stream = (await db.summaries.toArray())[0]?.stream ?? '';
    const ticketId = asId<TicketId>(stream.replace('ticket:', ''));
    await emptyShop(db);
    expect(await onTicket(dexieStore(db), ticketId, remark('too late'))).toEqual({
      ok: false,
      error: { kind: 'gone' },
    });
    expect(await db.events.count()).toBe(0);
  });
});

describe('any two of import, put to use, restore, removal, emptying and a tab that opens, at any moment', () => {
  it('leave a shop that is whole: as it was, or as one of them makes it', async () => {
    const { backup } = await shopWith();
    const deed = fc.constantFrom('import', 'renew', 'restore', 'remove', 'empty', 'tab', 'check');
    await fc.assert(
      fc.asyncProperty(deed, deed, fc.nat(40), async (first, second, wait) => {
        giveLocks();
        const { db } = await shopWith();
        const does = async (what: string): Promise<void> => {
          const take = async (file: File) => {
            const came = await imported(db, file);
            if (came.kind !== 'waiting') return;
            await came.waiting.apply().catch((error: unknown) => {
              if (!(error instanceof EditionGone)) throw error;
              return came.waiting.discard();
            });
          };
          if (what === 'import') await take(south());
          if (what === 'renew') await take(north({ capacityKg: '8' }));
          if (what === 'restore') await restoreShop(db, backup);
          if (what === 'empty') await emptyShop(db);
          if (what === 'tab') await tidyUp(db);
          if (what === 'check') await checkPackage(db, [south()], quiet, never);
          const [layer] = await layersOf(db);
          if (what === 'remove' && layer) await removePackage(db, layer.edition.id);
        };
        await Promise.all([does(first), new Promise((resolve) => setTimeout(resolve, wait)).then(() => does(second))]);
        await tidyUp(db);
        await isWhole(db);
        db.close();
      }),
      { numRuns: 12 },
    );
  });
});
