import type { StationProps } from '../shared/StationProps';

export type FindingsProps = StationProps<
  'machine' | 'lore' | 'causes' | 'telling' | 'steps' | 'barred' | 'look' | 'why' | 'next'
>;
