import { troubleWords } from '@/words';
import { proxy } from 'comlink';
import { saving, type ImportProgress, type ReadEdition } from '@/store';
import { importWorker } from '@/workers';
import type { ShownOutcome } from './ImportOutcomeView';

export type ImportRun = { at: ImportProgress | null; outcome: ShownOutcome | null };

let run: ImportRun = { at: null, outcome: null };
/** Something that waited is being discarded: the next import begins when it is gone. */
let discarding: Promise<void> = Promise.resolve();
const listeners = new Set<() => void>();

function put(next: ImportRun): void {
  run = next;
  for (const listener of listeners) listener();
}

/** The page's one import. It goes on, and its outcome waits, while the person is elsewhere on the page. */
export const importRun = {
  subscribe(listener: () => void): () => void {
    listeners.add(listener);
    return () => listeners.delete(listener);
  },
  now: (): ImportRun => run,

  /** `what`: put it to use, or only look whether it could be. */
  async start(files: readonly File[], what: 'import' | 'check' = 'import'): Promise<void> {
    const [first] = files;
    await discarding;
    if (!first || run.at) return;
    if (run.outcome?.kind === 'waiting') await importWorker.get().discard(run.outcome.read.editionId);
    // A worker keeps what its last import needed; a new one begins with nothing.
    importWorker.stop();
    put({ at: { stage: 'unpacking', done: 0, total: 1, file: first.name }, outcome: null });
    // A last word of progress may come after the outcome: it is not shown.
    let running = true;
    const show = (at: ImportProgress) => {
      if (running) put({ at, outcome: null });
    };
    try {
      const worker = importWorker.get();
      const outcome = await (what === 'check'
        ? worker.checkPackage([...files], proxy(show))
        : worker.importCatalogue([...files], proxy(show)));
      put({ at: null, outcome });
    } catch (error) {
      put({ at: null, outcome: { kind: 'failed', why: troubleWords(error) } });
    }
    running = false;
    // What waits is held by its worker; otherwise nothing is.
    if (run.outcome?.kind !== 'waiting') importWorker.stop();
  },

  stop(): void {
    void importWorker.get().cancel();
  },

  async apply(read: ReadEdition): Promise<void> {
    try {
      const applied = await saving.keep(() => importWorker.get().apply(read.editionId));
      put({ at: null, outcome: applied ? { kind: 'applied', read } : { kind: 'gone', read } });
    } catch (error) {
      put({ at: null, outcome: { kind: 'failed', why: troubleWords(error) } });
    }
  },

  async discard(read: ReadEdition): Promise<void> {
    discarding = importWorker
      .get()
      .discard(read.editionId)
      .then(
        () => put({ at: null, outcome: { kind: 'discarded' } }),
        (error: unknown) => put({ at: null, outcome: { kind: 'failed', why: troubleWords(error) } }),
      );
    await discarding;
  },
};
