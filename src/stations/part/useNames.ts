import { useMemo } from 'react';
import type { Weighed } from '@/core/case';

/** Readable names for the ids in chains of reasons. */
export function useNames({ part, machine }: Pick<Weighed, 'part' | 'machine'>) {
  return useMemo(
    () => ({
      part: (id: string) => part.partNumbers[id] ?? 'a number that is not listed',
      model: (id: string) => (machine.model.id === id ? machine.model.modelNumber : 'a candidate model'),
      platform: (id: string) => (machine.platform.id === id ? machine.platform.name : id),
    }),
    [part, machine],
  );
}
export type Names = ReturnType<typeof useNames>;
