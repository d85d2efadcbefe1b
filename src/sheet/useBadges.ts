'use client';
import { useMemo } from 'react';
import { UNKNOWN_MAKE } from '@/core/identify';
import { useLayersKey } from '@/store/react';
import { useNewest } from '@/ui';
import { searchWorker } from '@/workers';

/** Badge names of the catalogue; none where nobody knows the make. */
export function useBadges(): ReadonlyMap<string, string> {
  const { answer } = useNewest(useLayersKey(), () => searchWorker.get().badges());
  return useMemo(
    () =>
      new Map((answer ?? []).filter(({ id }) => id !== UNKNOWN_MAKE.badgeId).map((badge) => [badge.id, badge.name])),
    [answer],
  );
}
