'use client';
import { useRef, useState, type ReactNode } from 'react';
import { database, hasOwnData, shopOpen } from '@/store';
import { Ask, Button, Mark } from '@/ui';
import type { useWholeShop } from './useWholeShop';

type Replacement = { title: string; yes: string; what: string; work: () => Promise<void> };

/** A backup with holes, restored as far as it goes. */
function CutRestore({ file, restore }: { file: File } & Pick<ReturnType<typeof useWholeShop>, 'restore'>) {
  return (
    <Button tone="stop" onClick={() => void restore(file, 'put-aside')}>
      Restore it as far as it goes
    </Button>
  );
}

/** Another shop in place of this one: a backup's; in the demo shop, the demo as it was. Whoever has something in it is asked before. `first` and `last`: what else can be done. */
export function ReplaceShop({
  shop: { said, busy, restore, demo },
  first,
  last,
}: {
  shop: ReturnType<typeof useWholeShop>;
  first?: ReactNode;
  last?: ReactNode;
}) {
  const [asked, setAsked] = useState<Replacement | null>(null);
  const input = useRef<HTMLInputElement>(null);
  const replace = async (replacement: Replacement) => {
    if (await hasOwnData(database())) setAsked(replacement);
    else await replacement.work();
  };
  return (
    <>
      <div className="mt-2 flex flex-wrap gap-2.5">
        {first}
        <Button disabled={busy} onClick={() => input.current?.click()}>
          Restore from a file
        </Button>
        {shopOpen() === 'demo' ? (
          <Button
            disabled={busy}
            onClick={() =>
              void replace({
                title: 'Put the demo shop back as it was?',
                yes: 'Put it back',
                what: 'What was done in the demo shop is gone. Your own shop is another one, and stays as it is.',
                work: demo,
              })
            }
          >
            Put the demo back as it was
          </Button>
        ) : null}
        {last}
      </div>
      <input
        ref={input}
        type="file"
        accept=".zip,application/zip"
        className="sr-only"
        tabIndex={-1}
        aria-label="Backup file"
        onChange={(event) => {
          const [file] = event.target.files ?? [];
          event.target.value = '';
          if (file)
            void replace({
              title: `Restore ${file.name}?`,
              yes: 'Replace everything',
              what: 'What is in the shop now is replaced by the backup’s content.',
              work: () => restore(file),
            });
        }}
      />
      <p aria-live="polite" className="mt-2">
        {busy ? 'Working …' : said ? <Mark tone={said.tone}>{said.text}</Mark> : null}
      </p>
      {said?.cut && !busy ? <CutRestore file={said.cut} restore={restore} /> : null}
      <Ask
        open={asked !== null}
        onOpenChange={(open) => {
          if (!open) setAsked(null);
        }}
        title={asked?.title ?? ''}
        yes={asked?.yes ?? ''}
        danger
        onYes={() => {
          setAsked(null);
          void asked?.work();
        }}
      >
        {asked?.what}
      </Ask>
    </>
  );
}
