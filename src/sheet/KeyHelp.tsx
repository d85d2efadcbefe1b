'use client';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { Key, Panel } from '@/ui';
import { useKeys } from './useKeys';

const KEYS: [string, string][] = [
  ['/', 'to the one input'],
  ['d', 'to what is to be done next'],
  ['1 … 7', 'unfold or fold a station'],
  ['u', 'take the last thing back'],
  ['f', 'the floor'],
  ['c', 'the catalogue'],
  ['o', 'the orders'],
  ['s', 'the shop: settings and backup'],
  ['?', 'this list'],
  ['Esc', 'one step back; nothing is lost'],
];

export function KeyHelp() {
  const [open, setOpen] = useState(false);
  const router = useRouter();
  const keys = useMemo(
    () => ({
      '?': () => setOpen(true),
      '/': () => document.querySelector<HTMLInputElement>('#one-input')?.focus(),
      f: () => router.push('/'),
      c: () => router.push('/catalogue'),
      o: () => router.push('/orders'),
      s: () => router.push('/shop'),
    }),
    [router],
  );
  useKeys(keys);
  return (
    <Panel open={open} onOpenChange={setOpen} title="Keys">
      <dl className="grid grid-cols-[5rem_1fr] gap-y-1.5">
        {KEYS.map(([key, what]) => (
          <div key={key} className="contents">
            <dt>
              <Key>{key}</Key>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Panel>
  );
}
