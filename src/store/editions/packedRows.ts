import { columnsOf, rowText } from '@/core/package';
import { derivedKinds, KINDS, LARGE, type Large } from './layout';

/**
 * Rows of the large tables lie in the database as bytes: a JSON array of arrays, values in the order of the kind's columns, null for an empty one. A
 * third of the size and a tenth of the work of rows as objects, and nothing for the garbage collector to walk through.
 */
export const COMPONENT_COLUMNS = ['partId', 'component'];

const COLUMNS = new Map<string, readonly string[]>([
  ...LARGE.flatMap((table: Large) =>
    KINDS[table].map(({ kind }): [string, readonly string[]] => [kind, columnsOf(table)]),
  ),
  ['components', COMPONENT_COLUMNS],
  [derivedKinds.modelPages, columnsOf('models')],
  [derivedKinds.partPages, columnsOf('parts')],
]);

/** The columns of a kind's packed rows; undefined for a kind whose rows are stored as they are. */
const columnsOfKind = (kind: string): readonly string[] | undefined => COLUMNS.get(kind.split('+')[0] ?? kind);

const encoder = new TextEncoder();
const decoder = new TextDecoder();

export const isPacked = (kind: string): boolean => columnsOfKind(kind) !== undefined;

export function packRows(kind: string, rows: readonly Readonly<Record<string, unknown>>[]): Uint8Array {
  const columns = columnsOfKind(kind) ?? [];
  return encoder.encode(`[${rows.map((row) => rowText(columns, row)).join(',')}]`);
}

export function unpackRows(kind: string, packed: Uint8Array): Record<string, unknown>[] {
  const columns = columnsOfKind(kind) ?? [];
  const values: unknown = JSON.parse(decoder.decode(packed));
  return (values as unknown[][]).map((row) => {
    const read: Record<string, unknown> = {};
    for (let index = 0; index < columns.length; index += 1)
      if (row[index] !== null) read[columns[index] ?? ''] = row[index];
    return read;
  });
}

const COMMA = 0x2c;
const OPEN = 0x5b;
const CLOSE = 0x5d;

/** Packed rows of one kind on their way to their buckets, outside the garbage-collected heap. */
export class Pile {
  private bytes = new Uint8Array(1 << 16);
  private ends = new Uint32Array(1 << 10);
  private buckets = new Int32Array(1 << 10);
  private used = 0;
  private count = 0;

  get size(): number {
    return this.used;
  }

  /** `row` as `rowText` gives it. */
  add(bucket: number, row: string): void {
    const most = this.used + row.length * 3;
    if (most > this.bytes.length) {
      const bigger = new Uint8Array(Math.max(this.bytes.length * 2, most));
      bigger.set(this.bytes);
      this.bytes = bigger;
    }
    if (this.count === this.ends.length) {
      const [ends, buckets] = [new Uint32Array(this.count * 2), new Int32Array(this.count * 2)];
      ends.set(this.ends);
      buckets.set(this.buckets);
      [this.ends, this.buckets] = [ends, buckets];
    }
    this.used += this.write(row);
    this.ends[this.count] = this.used;
    this.buckets[this.count] = bucket;
    this.count += 1;
  }

  /** UTF-8 from here on; plain ASCII, nearly all of it, without a call into the encoder. Returns how many bytes. */
  private write(row: string): number {
    const { bytes, used } = this;
    for (let index = 0; index < row.length; index += 1) {
      const code = row.charCodeAt(index);
      if (code > 0x7f) return encoder.encodeInto(row, bytes.subarray(used)).written;
      bytes[used + index] = code;
    }
    return row.length;
  }

  /** Bucket by bucket what has been added, in the order of adding. The pile is empty afterwards. */
  *drain(): Generator<{ bucket: number; packed: Uint8Array }> {
    const { bytes, ends, buckets, count } = this;
    // A counting sort keeps the order of adding within a bucket.
    const places = new Uint32Array(buckets.subarray(0, count).reduce((most, index) => Math.max(most, index), 0) + 2);
    for (let index = 0; index < count; index += 1) places[(buckets[index] ?? 0) + 1]! += 1;
    for (let index = 1; index < places.length; index += 1) places[index]! += places[index - 1]!;
    const order = new Uint32Array(count);
    for (let index = 0; index < count; index += 1) order[places[buckets[index] ?? 0]!++] = index;
    const startOf = (index: number) => (index === 0 ? 0 : (ends[index - 1] ?? 0));
    for (let from = 0; from < count;) {
      const bucket = buckets[order[from] ?? 0] ?? 0;
      let to = from;
      let length = 2;
      for (; to < count && buckets[order[to] ?? 0] === bucket; to += 1) {
        const index = order[to] ?? 0;
        length += (ends[index] ?? 0) - startOf(index) + (to > from ? 1 : 0);
      }
      const packed = new Uint8Array(length);
      let used = 0;
      packed[used++] = OPEN;
      for (let next = from; next < to; next += 1) {
        const index = order[next] ?? 0;
        if (next > from) packed[used++] = COMMA;
        packed.set(bytes.subarray(startOf(index), ends[index]), used);
        used += (ends[index] ?? 0) - startOf(index);
      }
      packed[used] = CLOSE;
      yield { bucket, packed };
      from = to;
    }
    this.used = 0;
    this.count = 0;
  }
}
