import { vi } from 'vitest';
import { readPackage } from '@/core/package';
import { knowledgeFiles } from './demo';

// The page fetches what ships with the application from its server; here it is read from its folder.
vi.mock('@/store/editions/shipped', () => ({
  shippedKnowledge: async () => readPackage(knowledgeFiles()).catalogue,
}));
