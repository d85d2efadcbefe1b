import type { PlannedOperation } from '@/core/labour';

/** An operation of a drawn way in: as long to strip as to refit. */
export const operation = (
  id: string,
  needs: readonly (readonly string[])[],
  minutes: number,
  more: Partial<PlannedOperation> = {},
): PlannedOperation => ({
  id,
  title: id,
  kind: 'access',
  needs,
  stripMinutes: minutes,
  refitMinutes: minutes,
  elapsedHours: 0,
  tools: [],
  consumables: [],
  people: 1,
  cautions: [],
  rescueChance: 0,
  rescueMinutes: 0,
  ...more,
});
