import type { StationProps } from '../shared/StationProps';

export type FindingsProps = StationProps<
  'machine' | 'lore' | 'causes' | 'telling' | 'steps' | 'along' | 'barred' | 'look' | 'why' | 'next'
>;
