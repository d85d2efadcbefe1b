import { useMemo } from 'react';
import type { Assessment } from '@/core/case';

/** Readable names for the ids in chains of reasons. */
export function useNames(assessment: Assessment) {
  return useMemo(
    () => ({
      part: (id: string) => assessment.partNumbers[id] ?? 'a number that is not listed',
      model: (id: string) => (assessment.model?.id === id ? assessment.model.modelNumber : 'a candidate model'),
      platform: (id: string) => (assessment.platform?.id === id ? assessment.platform.name : id),
    }),
    [assessment],
  );
}
export type Names = ReturnType<typeof useNames>;
