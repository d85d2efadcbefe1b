import { vi } from 'vitest';
import { readPackage } from '@/core/package';
import { knowledgeFiles } from './demo';
import { nodeLocks } from './locks';

// The page fetches what ships with the application from its server; here it is read from its folder.
vi.mock('@/store/editions/shipped', () => ({
  shippedKnowledge: async () => readPackage(knowledgeFiles()).catalogue,
}));

if (!('navigator' in globalThis) || !('locks' in navigator)) vi.stubGlobal('navigator', { locks: nodeLocks() });
