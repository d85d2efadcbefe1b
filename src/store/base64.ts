const AT_ONCE = 8192;

export function toBase64(bytes: Uint8Array): string {
  let text = '';
  for (let index = 0; index < bytes.length; index += AT_ONCE)
    text += String.fromCharCode(...bytes.subarray(index, index + AT_ONCE));
  return btoa(text);
}

/** Throws on a text that is none. */
export const fromBase64 = (text: string): Uint8Array =>
  Uint8Array.from(atob(text), (character) => character.charCodeAt(0));
