/*
 * What is true about saving. A change that the disk has no room for waits here, in its order, and is saved as soon as there is room; until then the page says
 * so. Everything else that goes wrong is the asker's to say.
 */

export type SavingState =
  /** Everything that was done is on the disk. */
  | { kind: 'saved' }
  /** On its way; it takes milliseconds. */
  | { kind: 'saving' }
  /** No room: this many changes are in this tab only. */
  | { kind: 'no-room'; waiting: number };

const NAMES = new Set(['QuotaExceededError', 'NS_ERROR_DOM_QUOTA_REACHED', 'NS_ERROR_FILE_NO_DEVICE_SPACE']);

/** Whether saving failed for want of room, however deep the database wraps it. */
export function hasNoRoom(error: unknown): boolean {
  for (let at = error, depth = 0; typeof at === 'object' && at !== null && depth < 6; depth += 1) {
    if ('name' in at && NAMES.has(String(at.name))) return true;
    // A write that broke off with its transaction: the transaction says why.
    if ('failures' in at && Array.isArray(at.failures) && at.failures.some((one) => hasNoRoom(one))) return true;
    at = 'inner' in at ? at.inner : null;
  }
  return error instanceof Error && /quota ?exceeded/i.test(error.message);
}

type Waiting = { key: string | null; work: () => Promise<unknown>; settle: Settle[] };
type Settle = { resolve: (value: unknown) => void; reject: (error: unknown) => void };

const AGAIN_MS = 3000;

/** One per page; tests make their own. */
export class Saving {
  private readonly queue: Waiting[] = [];
  private readonly listeners = new Set<() => void>();
  private underWay = 0;
  private state: SavingState = { kind: 'saved' };
  private timer: ReturnType<typeof setTimeout> | undefined;
  private trying: Promise<void> | null = null;
  private readonly againMs: number;

  constructor(againMs = AGAIN_MS) {
    this.againMs = againMs;
  }

  now = (): SavingState => this.state;

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /**
   * Saves, now or as soon as there is room: resolves when it is saved. While something waits, what comes later waits behind it. `key`: of what waits under
   * the same key only the newest is saved (a draft).
   */
  keep<T>(work: () => Promise<T>, key: string | null = null): Promise<T> {
    if (this.queue.length > 0) return this.wait(work, key);
    this.underWay += 1;
    this.say();
    return work()
      .catch((error: unknown) => {
        if (!hasNoRoom(error)) throw error;
        return this.wait(work, key);
      })
      .finally(() => {
        this.underWay -= 1;
        this.say();
      });
  }

  private wait<T>(work: () => Promise<T>, key: string | null): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      const settle: Settle = { resolve: (value) => resolve(value as T), reject };
      const same = key === null ? undefined : this.queue.find((entry) => entry.key === key);
      if (same) {
        same.work = work;
        same.settle.push(settle);
      } else this.queue.push({ key, work, settle: [settle] });
      this.say();
      this.later();
    });
  }

  private later(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.tryAgain(), this.againMs);
  }

  /** Saves what waits, in its order, as far as there is room. */
  tryAgain = (): Promise<void> =>
    (this.trying ??= this.drain().finally(() => {
      this.trying = null;
    }));

  private async drain(): Promise<void> {
    for (let first = this.queue[0]; first; first = this.queue[0]) {
      const { work } = first;
      try {
        const value = await work();
        // Typed on meanwhile: the newer text is still to be saved.
        if (first.work !== work) continue;
        this.queue.shift();
        for (const { resolve } of first.settle) resolve(value);
      } catch (error) {
        if (hasNoRoom(error)) {
          this.later();
          return;
        }
        this.queue.shift();
        for (const { reject } of first.settle) reject(error);
      }
      this.say();
    }
  }

  private say(): void {
    const waiting = this.queue.length;
    const next: SavingState =
      waiting > 0 ? { kind: 'no-room', waiting } : { kind: this.underWay > 0 ? 'saving' : 'saved' };
    if (
      next.kind === this.state.kind &&
      !(next.kind === 'no-room' && next.waiting !== (this.state.kind === 'no-room' && this.state.waiting))
    )
      return;
    this.state = next;
    for (const listener of this.listeners) listener();
  }
}

export const saving = new Saving();
