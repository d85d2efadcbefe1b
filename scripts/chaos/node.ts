import 'fake-indexeddb/auto';
import { readPackage } from '@/core/package';
import { knowledgeFiles } from '../../tests/support/demo';
import { nodeLocks } from '../../tests/support/locks';

/** What a browser gives and Node does not: locks, and the knowledge that the application's server would hand out. */
export function likeABrowser(): void {
  if (!('locks' in ((globalThis as { navigator?: object }).navigator ?? {})))
    Object.defineProperty(globalThis, 'navigator', {
      value: { locks: nodeLocks() },
      configurable: true,
      writable: true,
    });
  const knowledge = JSON.stringify(readPackage(knowledgeFiles()).catalogue);
  globalThis.fetch = () => Promise.resolve(new Response(knowledge));
}

/** Words that belong to a library or to a programmer, not to a technician. */
const FOREIGN =
  /unexpected (token|end|non)|undefined|\bnull\b|cannot read|is not a function|TypeError|RangeError|SyntaxError|IDB|indexeddb|zod|invalid input|expected .* received|key path|constraint|transaction|\[object|at position \d/i;

/** Whether a refusal speaks our words. */
export const inOurWords = (text: string): boolean =>
  text.trim() !== '' && !FOREIGN.test(text.replace(/“[^”]*”|"[^"]*"/g, ''));
