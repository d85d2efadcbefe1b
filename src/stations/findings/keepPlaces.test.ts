import fc from 'fast-check';
import { expect, test } from 'vitest';
import { keepPlaces } from './keepPlaces';

const ids = (prefix: string, count: number) => Array.from({ length: count }, (_, i) => `${prefix}${i}`);
const known = new Set([...ids('f', 30)]);
const some = fc.uniqueArray(fc.constantFrom(...known), { maxLength: 12 });

test('what was answered a moment ago stands once, though the last assessment still asks for it', () => {
  const shown = keepPlaces(ids('f', 8), { answered: ['f20'], telling: ['f20', 'f21'], known });
  expect(shown.filter((id) => id === 'f20')).toHaveLength(1);
});

test('whatever is answered and asked: nothing stands twice, nothing moves, every answer is there', () => {
  fc.assert(
    fc.property(fc.array(fc.record({ answered: some, telling: some }), { maxLength: 8 }), (steps) => {
      let kept: readonly string[] = [];
      for (const { answered, telling } of steps) {
        const shown = keepPlaces(kept, { answered, telling, known });
        expect(new Set(shown).size).toBe(shown.length);
        expect(shown.slice(0, kept.length)).toEqual(kept);
        for (const id of answered) expect(shown).toContain(id);
        kept = shown;
      }
    }),
  );
});

test('what would tell most takes only what room is left', () => {
  const kept = ids('f', 6);
  const shown = keepPlaces(kept, { answered: [], telling: ids('f', 12), known });
  expect(shown).toEqual(ids('f', 7));
  // What another machine knew takes no room.
  expect(keepPlaces(['x1', 'x2', ...kept], { answered: [], telling: ['f6', 'f7'], known })).toContain('f6');
});
