import type { StationProps } from '../shared/StationProps';

export type PartProps = StationProps<'machine' | 'age' | 'lore' | 'causes' | 'part' | 'offer' | 'next'>;
