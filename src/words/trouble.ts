/** What went wrong, in our words, as the end of a sentence: a library speaks to programmers. */
export function troubleWords(error: unknown): string {
  const { name, message } = told(error);
  if (/quota ?exceeded/i.test(`${name} ${message}`)) return FULL;
  const known = KNOWN[name];
  if (known) return known;
  if (/failed to fetch|networkerror|load failed/i.test(message)) return 'the server of Sorter cannot be reached';
  return message.trim().replace(/\.$/, '') || 'the browser did not say why';
}

const FULL = 'the disk is full';
const BUSY = 'the browser broke off writing to the disk';
const KNOWN: Readonly<Record<string, string>> = {
  ConstraintError: 'two entries claim the same place; reload the page and enter it again',
  BulkError: 'two entries claim the same place; reload the page and enter it again',
  DatabaseClosedError: 'this tab has let go of the shop’s data, a newer Sorter may be open in another; reload the page',
  InvalidStateError: 'this tab has let go of the shop’s data; reload the page',
  MissingAPIError: 'this browser keeps no data here, as in a private window; use another window or browser',
  OpenFailedError: 'the browser could not open the shop’s data; close other tabs and reload',
  VersionError: 'the shop’s data were written by a newer Sorter; start the newer one',
  DataCloneError: 'something of it cannot be kept',
  DataError: 'something of it has no name to keep it by',
  AbortError: BUSY,
  UnknownError: BUSY,
  TransactionInactiveError: BUSY,
  TimeoutError: 'it took too long',
  EditionGone:
    'the shop or its catalogue was replaced meanwhile, perhaps in another tab; nothing of it was kept, give the file again',
  SyntaxError: 'something of it is cut off or is not in the form that it claims to be',
};

function told(error: unknown): { name: string; message: string } {
  if (typeof error !== 'object' || error === null) return { name: '', message: String(error) };
  // A transaction that was broken off says inside why.
  const inner = 'inner' in error && typeof error.inner === 'object' && error.inner !== null ? told(error.inner) : null;
  if (inner && KNOWN[inner.name] === undefined && /quota/i.test(inner.name)) return inner;
  return {
    name: 'name' in error ? String(error.name) : '',
    message: 'message' in error ? String(error.message) : String(error),
  };
}

/** Why something could not be saved, what was kept, and what to do. */
export function notSavedWords(error: unknown): string {
  const why = troubleWords(error);
  return `This was not saved: ${why}. What was saved before is kept. ${
    why === FULL ? 'Make room on the disk, then enter it again.' : 'Enter it again; if it fails again, reload the page.'
  }`;
}

type Doing = 'import' | 'list' | 'remove' | 'restore' | 'demo' | 'empty';

/** What another tab does that this one waits for. */
export function underWayWords(what: Doing): string {
  return `Another tab ${UNDER_WAY[what]}. This one waits, and then shows what is there.`;
}
const UNDER_WAY: Record<Doing, string> = {
  import: 'imports a catalogue',
  list: 'takes in a list',
  remove: 'removes a package of the catalogue',
  restore: 'restores a backup',
  demo: 'fills the demo shop',
  empty: 'empties the shop',
};

/** What a tab had begun when it was closed or killed, and what is there now. */
export function cutOffWords(what: Doing): string {
  return `${CUT_OFF[what]} was cut off when its tab was closed: ${what === 'restore' || what === 'demo' || what === 'empty' ? 'the shop is as it was before' : 'what was not in use by then was not kept. Begin it again'}.`;
}
const CUT_OFF: Record<Doing, string> = {
  import: 'An import',
  list: 'Taking in a list',
  remove: 'Removing a package',
  restore: 'Restoring a backup',
  demo: 'Filling the demo shop',
  empty: 'Emptying the shop',
};
