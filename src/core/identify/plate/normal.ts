/** Case and separators carry no information: "tk 61-408/2" → "TK614082". `?` stays: it stands for an unreadable character. */
export function normaliseNumber(text: string): string {
  if (PLAIN.test(text)) return text;
  return text
    .toUpperCase()
    .normalize('NFKD')
    .replace(/[^A-Z0-9?]/g, '');
}

const PLAIN = /^[A-Z0-9?]*$/;

/** Positions of the kept characters in the original text. */
export function keptPositions(text: string): number[] {
  const positions: number[] = [];
  for (let i = 0; i < text.length; i += 1) if (/[A-Za-z0-9?]/.test(text.charAt(i))) positions.push(i);
  return positions;
}

/** What follows so many characters of a number, as printed. */
export const endingOf = (modelNumber: string, given: number): string => {
  const at = keptPositions(modelNumber)[given - 1];
  return at === undefined ? '' : modelNumber.slice(at + 1);
};
