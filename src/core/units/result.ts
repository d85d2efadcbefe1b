/** What a user can cause is a value, never an exception. */
export type Result<T, E> = { ok: true; value: T } | { ok: false; error: E };

export const ok = <T>(value: T): { ok: true; value: T } => ({ ok: true, value });
export const fail = <E>(error: E): { ok: false; error: E } => ({ ok: false, error });

/** For bugs only: a state the types cannot exclude but the program never produces. */
export function assert(condition: unknown, what: string): asserts condition {
  if (!condition) throw new Error(`Bug: ${what}`);
}

export function defined<T>(value: T | undefined | null, what: string): T {
  assert(value !== undefined && value !== null, what);
  return value;
}
