import { bearingByDesignation, findBearing } from './bearings';

/** Parts that are sold by their size, whoever's machine they are in. */
export type StandardKind = 'bearing' | 'seal' | 'belt' | 'hose';

const OF_ROLE: Readonly<Record<string, StandardKind>> = {
  'bearing-drum': 'bearing',
  'bearing-pulley': 'bearing',
  'shaft-seal': 'seal',
  'tub-seal': 'seal',
  belt: 'belt',
  'drain-hose': 'hose',
  'tub-hose': 'hose',
};

/** How a part of this role is sold by its size; null for one that is only sold by its number. */
export const standardKindOf = (roleId: string): StandardKind | null => OF_ROLE[roleId] ?? null;

/** mm by which a worn bearing may be off. */
const WORN_MM = 0.3;
const plain = (value: number): string => String(Math.round(value * 10) / 10);

/**
 * The designations that sizes in the hand stand for, likeliest first: a bearing by bore, outside and width (ISO 15); a rotary shaft seal by shaft, housing and width (ISO 6194-1
 * names it so); a ribbed belt by its ribs and effective length (ISO 9982, profile PJ); a hose by its bore and length. Empty where the text holds other than the sizes asked for. O(bearings).
 */
export function standardNumbers(kind: StandardKind, text: string): string[] {
  const named = kind === 'bearing' ? bearingByDesignation(text) : null;
  if (named) return [named.designation];
  const [first, second, third, more] = (text.match(/\d+(?:[.,]\d+)?/g) ?? []).map((figure) =>
    Number(figure.replace(',', '.')),
  );
  if (first === undefined || second === undefined || more !== undefined) return [];
  if (kind === 'bearing')
    return third === undefined
      ? []
      : findBearing({ bore: first, outside: second, width: third, tolerance: WORN_MM }).map(
          ({ designation }) => designation,
        );
  if (kind === 'seal')
    return third !== undefined && first < second ? [`${plain(first)}x${plain(second)}x${plain(third)}`] : [];
  if (third !== undefined) return [];
  const [small, large] = [Math.min(first, second), Math.max(first, second)];
  if (kind === 'hose') return small > 0 && large > small ? [`${plain(small)}x${plain(large)}`] : [];
  // Ribs are counted, the length is in millimetres.
  return Number.isInteger(small) && small >= 2 && small <= 20 && large >= 300 && large <= 3000
    ? [`${small} PJ ${Math.round(large)}`]
    : [];
}
