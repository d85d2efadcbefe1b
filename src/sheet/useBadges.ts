'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import { useMemo } from 'react';
import { database } from '@/store';
import { useNewest } from '@/ui';
import { searchWorker } from '@/workers';

/** Badge names of the active edition. */
export function useBadges(): ReadonlyMap<string, string> {
  const edition = useLiveQuery(async () => String((await database().meta.get('activeEdition'))?.value ?? ''), []);
  const { answer } = useNewest(edition ?? null, () => searchWorker.get().badges());
  return useMemo(() => new Map((answer ?? []).map((badge) => [badge.id, badge.name])), [answer]);
}
