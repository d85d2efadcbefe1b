'use client';
import { useLiveQuery } from 'dexie-react-hooks';
import { useMemo } from 'react';
import { UNKNOWN_MAKE } from '@/core/identify';
import { database, layersKey, OWN_VERSION } from '@/store';
import { useNewest } from '@/ui';
import { searchWorker } from '@/workers';

/** Names what the catalogue says today: another text when a layer comes, goes or grows. null: not read yet. */
export const useLayersKey = (): string | null =>
  useLiveQuery(async () => {
    const own = (await database().meta.get(OWN_VERSION))?.value;
    return `${await layersKey(database())} ${String(own ?? '')}`;
  }, []) ?? null;

/** Badge names of the catalogue; none where nobody knows the make. */
export function useBadges(): ReadonlyMap<string, string> {
  const { answer } = useNewest(useLayersKey(), () => searchWorker.get().badges());
  return useMemo(
    () =>
      new Map((answer ?? []).filter(({ id }) => id !== UNKNOWN_MAKE.badgeId).map((badge) => [badge.id, badge.name])),
    [answer],
  );
}
