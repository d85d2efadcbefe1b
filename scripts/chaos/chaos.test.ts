import { describe, expect, it } from 'vitest';
import { spoiledBackups, spoiledLists, spoiledPackages, type FileFigures } from './files';
import { ordersUnderLies } from './orders';

/* A small part of `npm run chaos`: the whole of it is run by hand, with fresh seeds. */

const clean = ({ crashed, half, foreignWords }: FileFigures) => ({ crashed, half, foreignWords });
const NOTHING = { crashed: [], half: [], foreignWords: [] };

describe('spoiled files', () => {
  it('packages are refused in our words, or good; nothing is left half', async () => {
    const came = await spoiledPackages(11, 60);
    expect(clean(came)).toEqual(NOTHING);
    expect(Math.min(came.refused, came.taken)).toBeGreaterThan(0);
  });
  it('lists are read or refused in our words', async () => {
    const came = await spoiledLists(12, 150);
    expect(clean(came)).toEqual(NOTHING);
    expect(Math.min(came.refused, came.taken)).toBeGreaterThan(0);
  });
  it('backups leave the shop as it was, or make it theirs', async () => {
    const came = await spoiledBackups(13, 30);
    expect(clean(came)).toEqual(NOTHING);
    expect(Math.min(came.refused, came.taken)).toBeGreaterThan(0);
  });
});

describe('orders under faults and lies', () => {
  it('are placed once, never lost, and no lie is taken without a word, in a thousand faulty sendings', async () => {
    const { orders, lies, faulty, ...wrong } = await ordersUnderLies(14, 420, 0.95);
    expect(faulty).toBeGreaterThan(1000);
    expect(wrong).toEqual({ twice: [], lost: [], believed: [], crashed: [] });
    expect(Math.min(orders, lies)).toBeGreaterThan(20);
  });
});
