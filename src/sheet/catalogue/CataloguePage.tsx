'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import { useState } from 'react';
import { localDateOf } from '@/core/units';
import { activeEdition, database } from '@/store';
import { useSettings } from '@/store/react';
import { formatNumber } from '@/words';
import { ImportPanel } from './ImportPanel';
import { Lookup } from './Lookup';
import { PricePanel } from './PricePanel';
import { TakeOut } from './TakeOut';

/** Which catalogue is in use, looking into it, and importing another. */
export function CataloguePage({ initial }: { initial: string }) {
  const edition = useLiveQuery(() => activeEdition(database()), []);
  const settings = useSettings();
  const [text, setText] = useState(initial);
  return (
    <main className="relative min-h-0 overflow-y-auto px-4 py-4 md:px-6">
      <h1 className="text-[23px] font-bold">Catalogue</h1>
      <p className="text-soft">
        {edition
          ? `${edition.title}: ${formatNumber(edition.counts['models'] ?? 0)} models, ${formatNumber(edition.counts['parts'] ?? 0)} parts, ${formatNumber(edition.counts['fits'] ?? 0)} fits, ${formatNumber(edition.counts['offers'] ?? 0)} offers. Imported ${localDateOf(edition.at, settings?.zone ?? 'UTC')}.`
          : 'No catalogue yet. Import one below.'}
      </p>
      {edition ? <Lookup key={edition.id} text={text} onText={setText} /> : null}
      {edition ? <PricePanel /> : null}
      <ImportPanel />
      {edition ? <TakeOut /> : null}
    </main>
  );
}
