'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import { useMemo } from 'react';
import { activeEdition, database, EditionReader } from '@/store';

/** Badge names of the active edition. */
export function useBadges(): ReadonlyMap<string, string> {
  const rows = useLiveQuery(async () => {
    const edition = await activeEdition(database());
    return edition ? new EditionReader(database(), edition).table('badges') : [];
  }, []);
  return useMemo(() => new Map((rows ?? []).map((badge) => [badge.id, badge.name])), [rows]);
}
