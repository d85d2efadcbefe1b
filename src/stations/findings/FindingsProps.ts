import type { StationProps } from '../shared/StationProps';

export type FindingsProps = StationProps<'machine' | 'lore' | 'causes' | 'steps' | 'barred' | 'look' | 'next'>;
