/** What a table held: for each key, in the order of arrival, 64 bits of the key and 32 of the content. */
export type Ledger = {
  readonly size: number;
  readonly high: Uint32Array;
  readonly low: Uint32Array;
  readonly contents: Uint32Array;
};

let high = 0;
let low = 0;

/** 64 bits in two halves, left in `high` and `low`: two multiply-and-mix passes with different seeds, finished as MurmurHash3 finishes (fmix32). */
function fingerprint(text: string): void {
  let a = 0x9e3779b9;
  let b = 0x85ebca6b;
  for (let i = 0; i < text.length; i += 1) {
    const code = text.charCodeAt(i);
    a = Math.imul(a ^ code, 0x01000193);
    b = Math.imul(b ^ code, 0x5bd1e995);
    b ^= b >>> 15;
  }
  high = mix(a ^ text.length);
  low = mix(b ^ a);
}

function mix(value: number): number {
  let h = Math.imul(value ^ (value >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}

/** 32 bits of a text: two different texts agree once in 4,294,967,296. */
export function contentHash(text: string): number {
  fingerprint(text);
  return (high ^ low) >>> 0;
}

/**
 * A set of keys that remembers fingerprints, not texts: 2,000,000 keys take about 50 MB where a Set of strings takes 200. Keys get ordinals from 0.
 * Two different keys are taken for one with probability n² / 2⁶⁵: 1 in 9 million for 2,000,000 keys. Adding and finding: O(length of the key).
 */
export class KeyTable {
  private slots = new Int32Array(1024);
  private high = new Uint32Array(512);
  private low = new Uint32Array(512);
  private contents = new Uint32Array(512);
  private foundLast: string | null = null;
  private foundAt = -1;
  size = 0;

  static from(ledger: Ledger): KeyTable {
    const table = new KeyTable();
    while (table.high.length < ledger.size) table.grow();
    table.high.set(ledger.high);
    table.low.set(ledger.low);
    table.contents.set(ledger.contents);
    table.size = ledger.size;
    table.rehash(table.slots.length);
    return table;
  }

  /** The new key's ordinal; −1 when it is known already (its content stays). */
  add(key: string, content = 0): number {
    if (this.size === this.high.length) this.grow();
    fingerprint(key);
    const index = this.slotOf();
    if (this.slots[index] !== 0) return -1;
    const ordinal = this.size;
    this.high[ordinal] = high;
    this.low[ordinal] = low;
    this.contents[ordinal] = content;
    this.size += 1;
    this.slots[index] = this.size;
    return ordinal;
  }

  /** −1 when the key is unknown. */
  find(key: string): number {
    // Rows that name the same stand together.
    if (key === this.foundLast) return this.foundAt;
    fingerprint(key);
    const ordinal = (this.slots[this.slotOf()] ?? 0) - 1;
    if (ordinal >= 0) [this.foundLast, this.foundAt] = [key, ordinal];
    return ordinal;
  }

  has(key: string): boolean {
    return this.find(key) >= 0;
  }

  setContent(ordinal: number, content: number): void {
    this.contents[ordinal] = content;
  }

  contentOf(ordinal: number): number {
    return this.contents[ordinal] ?? 0;
  }

  ledger(): Ledger {
    const { size } = this;
    return {
      size,
      high: this.high.slice(0, size),
      low: this.low.slice(0, size),
      contents: this.contents.slice(0, size),
    };
  }

  /** The slot of the fingerprint in `high` and `low`, or the empty one where it belongs. Linear probing, at most half full. */
  private slotOf(): number {
    const mask = this.slots.length - 1;
    let index = (low ^ Math.imul(high, 0x9e3779b1)) & mask;
    for (;;) {
      const entry = (this.slots[index] ?? 0) - 1;
      if (entry < 0 || (this.high[entry] === high && this.low[entry] === low)) return index;
      index = (index + 1) & mask;
    }
  }

  private grow(): void {
    const bigger = (from: Uint32Array<ArrayBuffer>) => {
      const to = new Uint32Array(from.length * 2);
      to.set(from);
      return to;
    };
    this.high = bigger(this.high);
    this.low = bigger(this.low);
    this.contents = bigger(this.contents);
    this.rehash(this.slots.length * 2);
  }

  private rehash(length: number): void {
    this.slots = new Int32Array(length);
    for (let entry = 0; entry < this.size; entry += 1) {
      high = this.high[entry] ?? 0;
      low = this.low[entry] ?? 0;
      this.slots[this.slotOf()] = entry + 1;
    }
  }
}
