'use client';
import dynamic from 'next/dynamic';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { useKeys } from './useKeys';

const KeyList = dynamic(() => import('./KeyList'), { ssr: false });

/** The keys that work everywhere, and their list. */
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
  return open ? <KeyList onOpenChange={setOpen} /> : null;
}
