import type { StationProps } from '../shared/StationProps';

export type BenchProps = StationProps<'bench' | 'lore' | 'why' | 'next'>;
export type Shown = NonNullable<BenchProps['bench']>;
