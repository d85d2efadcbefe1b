/**
 * The misreading channel: −ln P of each edit between what stands on the plate and what was read, in nats.
 * Classes by sight (worn stamping, camera, handwriting) and the default for any other slip.
 * The weights are the tool's own estimate; docs/methods.md tells how they were set and what they ignore.
 */
const LOOKALIKES = ['0ODQ', '1ILT', '8B3', '5S6', '2Z7', '6GC', 'UV', '4A', 'MN', 'KX', 'EF', 'PR', 'VY', '9G'];

const LIKE = 3.2;
const OTHER = 7.0;
const DROPPED = 5.4;
const ADDED = 5.6;
const SWAPPED = 5.6;
const UNREADABLE = 0.9;

export const costs = {
  like: LIKE,
  other: OTHER,
  dropped: DROPPED,
  added: ADDED,
  swapped: SWAPPED,
  unreadable: UNREADABLE,
} as const;

const SIZE = 128;
const table = new Float64Array(SIZE * SIZE).fill(OTHER);
for (let code = 0; code < SIZE; code += 1) table[code * SIZE + code] = 0.015;
for (const group of LOOKALIKES)
  for (const a of group) for (const b of group) if (a !== b) table[a.charCodeAt(0) * SIZE + b.charCodeAt(0)] = LIKE;
for (let code = 0; code < SIZE; code += 1) table[code * SIZE + '?'.charCodeAt(0)] = UNREADABLE;

/** Cost of reading `read` where `truth` stands (ASCII codes below 128). */
export const substitution = (truth: number, read: number): number => table[truth * SIZE + read] ?? OTHER;
