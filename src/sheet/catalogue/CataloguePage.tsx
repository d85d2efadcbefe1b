'use client';
import Link from 'next/link';
import { useState } from 'react';
import { useLayersKey, useSettings } from '@/store/react';
import { useNewest } from '@/ui';
import { searchWorker } from '@/workers';
import { ImportPanel } from './ImportPanel';
import { Layers } from './Layers';
import { ListPanel } from './lists/ListPanel';
import { Lookup } from './Lookup';
import { OwnRows } from './OwnRows';
import { PricePanel } from './PricePanel';
import { TakeOut } from './TakeOut';

/** What the catalogue is made of, looking into it, and bringing more to it. */
export function CataloguePage({ initial }: { initial: string }) {
  const settings = useSettings();
  const layers = useLayersKey();
  const [text, setText] = useState(initial);
  const own = useNewest(layers, () => searchWorker.get().own()).answer ?? [];
  const learned = useNewest(layers, () => searchWorker.get().learned()).answer ?? [];
  const zone = settings?.zone ?? 'UTC';
  const isEmpty = layers === null || layers.trim() === '';
  return (
    <main className="relative min-h-0 overflow-y-auto px-4 py-4 md:px-6">
      <h1 className="text-[23px] font-bold">Catalogue</h1>
      <p>
        <Link
          href="/catalogue/knowledge"
          className="inline-flex min-h-11 items-center underline decoration-edge underline-offset-4"
        >
          What is known of causes
        </Link>
      </p>
      <Layers zone={zone} ownRows={own.filter(({ state }) => state !== 'struck').length} />
      {isEmpty ? null : <Lookup key={layers} text={text} onText={setText} />}
      <OwnRows rows={own} learned={learned} settings={settings} zone={zone} shopName={settings?.shopName ?? ''} />
      {isEmpty ? null : <PricePanel />}
      <ListPanel />
      <ImportPanel />
      {isEmpty ? null : <TakeOut />}
    </main>
  );
}
