'use client';
import { useRef, useSyncExternalStore, type DragEvent } from 'react';
import type { ImportProgress } from '@/store';
import { Button, Progress } from '@/ui';
import { ImportOutcomeView } from './ImportOutcomeView';
import { importRun } from './importRun';

const STAGES: Record<ImportProgress['stage'], string> = {
  waiting: 'Waiting until another tab is done with the catalogue or the shop',
  unpacking: 'Unpacking',
  reading: 'Reading',
  checking: 'Checking references',
  writing: 'Writing',
};

/** Import of a data package, zipped or as the files of a folder: all or nothing, every bad row listed. */
export function ImportPanel() {
  const { at, outcome } = useSyncExternalStore(importRun.subscribe, importRun.now, importRun.now);
  const zip = useRef<HTMLInputElement>(null);
  const folder = useRef<HTMLInputElement>(null);
  const check = useRef<HTMLInputElement>(null);
  const start = (files: FileList | null) => void importRun.start([...(files ?? [])]);
  const drop = (event: DragEvent) => {
    event.preventDefault();
    start(event.dataTransfer.files);
  };
  return (
    <section
      aria-label="Import"
      className="mt-3 border-t-[3px] border-ink pt-2.5"
      onDragOver={(event) => event.preventDefault()}
      onDrop={drop}
    >
      <h2 className="text-lg font-semibold">Import a catalogue</h2>
      <p className="max-w-prose text-[15px] text-soft">
        A data package (datapackage.json with CSV files), as one zip or as a folder. It comes beside the packages that
        are here, or renews the one of its own name, only if every row is good and only after you have seen what it
        changes; tickets stay as they are.
      </p>
      <div className="mt-2 flex flex-wrap gap-2.5">
        <Button onClick={() => zip.current?.click()} disabled={at !== null}>
          Choose a zip
        </Button>
        <Button onClick={() => folder.current?.click()} disabled={at !== null}>
          Choose a folder
        </Button>
        {at ? <Button onClick={importRun.stop}>Stop</Button> : null}
        <Button tone="quiet" onClick={() => check.current?.click()} disabled={at !== null}>
          Check my package
        </Button>
        <a
          href="/package-template.zip"
          download
          className="inline-flex min-h-11 items-center px-3.5 text-[15px] text-mark underline underline-offset-4"
        >
          A package to begin with
        </a>
      </div>
      <input
        ref={check}
        type="file"
        accept=".zip,application/zip"
        className="sr-only"
        tabIndex={-1}
        aria-label="Package to check"
        onChange={(event) => {
          void importRun.start([...(event.target.files ?? [])], 'check');
          event.target.value = '';
        }}
      />
      <input
        ref={zip}
        type="file"
        accept=".zip,application/zip"
        className="sr-only"
        tabIndex={-1}
        aria-label="Catalogue as a zip"
        onChange={(event) => {
          start(event.target.files);
          event.target.value = '';
        }}
      />
      <input
        ref={(element) => {
          folder.current = element;
          element?.setAttribute('webkitdirectory', '');
        }}
        type="file"
        multiple
        className="sr-only"
        tabIndex={-1}
        aria-label="Catalogue as a folder"
        onChange={(event) => {
          start(event.target.files);
          event.target.value = '';
        }}
      />
      <div aria-live="polite" className="mt-3">
        {at ? <Progress label={`${STAGES[at.stage]} ${at.file}`} done={at.done} total={at.total} /> : null}
        {outcome ? (
          <ImportOutcomeView
            outcome={outcome}
            onApply={(read) => void importRun.apply(read)}
            onDiscard={(read) => void importRun.discard(read)}
          />
        ) : null}
      </div>
    </section>
  );
}
