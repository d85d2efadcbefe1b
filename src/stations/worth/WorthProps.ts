import type { StationProps } from '../shared/StationProps';

export type WorthProps = StationProps<
  | 'machine'
  | 'age'
  | 'lore'
  | 'causes'
  | 'offer'
  | 'range'
  | 'market'
  | 'conditions'
  | 'worth'
  | 'choices'
  | 'tips'
  | 'paths'
  | 'nearby'
  | 'payers'
  | 'why'
  | 'bench'
  | 'next'
>;
