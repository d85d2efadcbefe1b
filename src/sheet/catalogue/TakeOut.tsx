'use client';
import { troubleWords } from '@/words';
import { useState } from 'react';
import { Button, download } from '@/ui';
import { filesWorker } from '@/workers';

const FILE = 'catalogue.zip';

/** The catalogue as it is in use, for another shop or another program. */
export function TakeOut() {
  const [said, setSaid] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const take = async () => {
    setBusy(true);
    try {
      const made = await filesWorker.get().exportCatalogue();
      if (made) download(FILE, 'application/zip', made);
      setSaid(made ? `It is in ${FILE}.` : 'There is no catalogue to take out.');
    } catch (error) {
      setSaid(`No file was made: ${troubleWords(error)}. The catalogue is as it was.`);
    }
    setBusy(false);
  };
  return (
    <section aria-label="Take out" className="mt-6 border-t border-line pt-2.5">
      <h2 className="text-lg font-semibold">Take the catalogue out</h2>
      <p className="max-w-prose text-[15px] text-soft">
        The same open format as the import: datapackage.json with CSV files, in one zip. Tickets and price lists are not
        in it; they are in “Everything in one file” on the Shop page.
      </p>
      <Button className="mt-2" disabled={busy} onClick={() => void take()}>
        Export the catalogue
      </Button>
      <p aria-live="polite" className="mt-2">
        {busy ? 'Writing …' : said}
      </p>
    </section>
  );
}
