import type { StationProps } from '../shared/StationProps';

export type ProofProps = StationProps<'bench' | 'lore' | 'causes' | 'barred' | 'why' | 'next' | 'nearby'>;
