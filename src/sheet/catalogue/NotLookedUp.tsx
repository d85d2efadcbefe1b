import { Mark } from '@/ui';

/** A question to the catalogue that came to nothing, and what to do. */
export function NotLookedUp({ why }: { why: string }) {
  return (
    <p role="alert" className="mt-2">
      <Mark tone="stop">Not looked up: {why}.</Mark> Nothing was changed. Type it again; if that does not help, reload
      the page.
    </p>
  );
}
