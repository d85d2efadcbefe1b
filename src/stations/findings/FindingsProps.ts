import type { StationProps } from '../shared/StationProps';

export type FindingsProps = StationProps<'lore' | 'causes' | 'steps' | 'next'>;
