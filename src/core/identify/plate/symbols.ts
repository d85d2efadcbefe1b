/** Digits and letters of a normalised number as small codes, 0–9 and 10–35: in the order of their characters, so texts sort as their codes do. */
export const SYMBOLS = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ';
export const SYMBOL_COUNT = SYMBOLS.length;
/** The code of `?`: a character that cannot be read. */
export const UNREADABLE = SYMBOL_COUNT;
export const MAX_LENGTH = 40;

const CODES = new Int8Array(128).fill(-1);
for (let code = 0; code < SYMBOL_COUNT; code += 1) CODES[SYMBOLS.charCodeAt(code)] = code;
CODES['?'.charCodeAt(0)] = UNREADABLE;

/** Codes of a normalised number; what is no symbol is left out. */
export function codesOf(normal: string): Uint8Array {
  const codes = new Uint8Array(normal.length);
  let length = 0;
  for (let i = 0; i < normal.length; i += 1) {
    const code = CODES[normal.charCodeAt(i)] ?? -1;
    if (code >= 0) codes[length++] = code;
  }
  return codes.subarray(0, length);
}

export const isDigit = (code: number): boolean => code < 10;
