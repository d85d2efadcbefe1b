import { formatNumber, plural } from './format';

const DAY_MS = 86_400_000;

/** How old the last copy of the shop is. */
export function copyAgeWords({ last, changes }: { last: string | null; changes: number }, at: string): string {
  if (last === null)
    return changes === 0
      ? 'Nothing was entered yet, and nothing was copied.'
      : `No copy of this shop was taken yet: ${plural(changes, 'entry', 'entries')} lie in this browser alone.`;
  const days = Math.max(0, Math.floor((Date.parse(at) - Date.parse(last)) / DAY_MS));
  const age = days === 0 ? 'less than a day' : plural(days, 'day');
  return `The last copy is ${age} old; ${changes === 0 ? 'nothing' : plural(changes, 'entry', 'entries').replace(/^\d+/, formatNumber(changes))} since.`;
}

const OUTCOMES = {
  written: 'A copy is in the folder.',
  'nothing-new': 'Nothing is new since the last copy.',
  'no-folder': 'No folder is chosen.',
  'not-allowed':
    'The browser was not allowed to write into the folder. No copy was written; allow it, or choose another folder.',
  busy: 'The shop is being replaced or copied in another tab: no copy was written now. Try again in a moment.',
} as const;

export const copyOutcomeWords = (outcome: keyof typeof OUTCOMES): string => OUTCOMES[outcome];
