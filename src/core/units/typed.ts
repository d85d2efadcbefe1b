/**
 * A number as a person types it, with a comma or a point; null for an empty text, for what is no number, and for one beyond the bounds (inclusive).
 */
export function typedNumber(text: string, low = -Infinity, high = Infinity): number | null {
  const plain = text.trim().replace(',', '.');
  const value = Number(plain);
  return plain !== '' && Number.isFinite(value) && value >= low && value <= high ? value : null;
}
