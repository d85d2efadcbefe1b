import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { contentHash, KeyTable } from '.';

describe('a table of keys', () => {
  it('knows what a Set knows, and numbers keys in the order of their coming', () => {
    fc.assert(
      fc.property(
        fc.array(fc.string({ maxLength: 12 }), { maxLength: 3000 }),
        fc.array(fc.string()),
        (keys, others) => {
          const table = new KeyTable();
          const plain = new Map<string, number>();
          for (const key of keys) {
            expect(table.add(key, contentHash(key))).toBe(plain.has(key) ? -1 : plain.size);
            if (!plain.has(key)) plain.set(key, plain.size);
          }
          expect(table.size).toBe(plain.size);
          for (const key of [...keys, ...others]) expect(table.find(key)).toBe(plain.get(key) ?? -1);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('tells numbers in a row apart, a hundred thousand of them', () => {
    const table = new KeyTable();
    let wrong = 0;
    for (let i = 0; i < 100_000; i += 1) if (table.add(`p-${i}`) !== i) wrong += 1;
    expect(wrong).toBe(0);
    const contents = new Set(Array.from({ length: 20_000 }, (_, i) => contentHash(`row ${i}`)));
    // Birthday bound: 20,000² / 2³³ is 0.05 expected agreements.
    expect(contents.size).toBeGreaterThanOrEqual(19_998);
  });

  it('comes back from its ledger as it was', () => {
    const table = new KeyTable();
    for (let i = 0; i < 5000; i += 1) table.add(`key ${i}`, i * 7);
    const again = KeyTable.from(table.ledger());
    expect(again.size).toBe(5000);
    expect(again.contentOf(again.find('key 4999'))).toBe(4999 * 7);
    expect(again.add('key 12')).toBe(-1);
    expect(again.add('new')).toBe(5000);
    expect(again.ledger().size).toBe(5001);
  });
});
