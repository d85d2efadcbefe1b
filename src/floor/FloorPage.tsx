'use client';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useMoment, useOpenTickets, useSettings } from '@/store/react';
import { plural } from '@/words';
import { Floor, grouped } from './Floor';

const Today = dynamic(() => import('./Today'), { ssr: false });

/** The first page is the day; on a phone the machines themselves follow. */
export function FloorPage() {
  const tickets = useOpenTickets();
  const settings = useSettings();
  const at = useMoment(settings);
  const yours = tickets ? (grouped(tickets, at.now).find(({ group }) => group === 'you')?.entries.length ?? 0) : 0;
  return (
    <main className="relative overflow-y-auto px-4 py-4 md:px-6">
      <h1 className="text-2xl font-bold">
        {tickets
          ? tickets.length
            ? `${plural(tickets.length, 'machine')} in the shop, ${yours} ${yours === 1 ? 'waits' : 'wait'} for you`
            : 'The shop is empty'
          : 'Sorter'}
      </h1>
      {tickets?.length && settings ? (
        <Today tickets={tickets} settings={settings} at={at} />
      ) : (
        <p className="mt-1 max-w-prose text-soft">
          Type, paste or scan into the line above: a rating plate opens a new machine; a ticket, part, bearing or order
          number opens what it names.
        </p>
      )}
      <div className="mt-4 md:hidden">
        <Floor />
        <Link href="/shelf" className="mr-6 inline-block min-h-11 content-center underline underline-offset-4">
          Shelf: parts that are here
        </Link>
        <Link href="/records" className="inline-block min-h-11 content-center underline underline-offset-4">
          Records: how the shop works
        </Link>
      </div>
    </main>
  );
}
