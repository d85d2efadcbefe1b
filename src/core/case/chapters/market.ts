import type { Catalogue, Economics, Platform } from '../../catalogue';
import type { Chapter } from '../chapter';

/** What a new machine of this kind costs, and whether that is the trade's default or somebody's own word. */
export type Market = { economics: Economics; isDefault: boolean };

export const marketChapter: Chapter<
  'market',
  Pick<Catalogue, 'economics'> & { platform: Platform; shipped: (row: object) => boolean },
  Market | null
> = {
  name: 'market',
  answer: ({ economics, platform, shipped }) => {
    const row = economics.find(({ design }) => design === platform.design);
    return row ? { economics: row, isDefault: shipped(row) } : null;
  },
};
