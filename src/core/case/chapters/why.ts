import type { WreckSign } from '../../catalogue';
import { toldRoot, whyItFailed } from '../../diagnose';
import type { TicketState } from '../../ticket';
import type { CauseId } from '../../units';
import type { Chapter } from '../chapter';
import type { Lore } from './causes';

export type WhyShown = {
  causeId: CauseId;
  /** What the dead part may look like. */
  signs: readonly Pick<WreckSign, 'id' | 'text'>[];
  /** undefined: nobody looked; null: it tells nothing. */
  signId: string | null | undefined;
  /** Likeliest first; name null: not known. Sums to one. */
  roots: readonly { rootId: string | null; name: string | null; probability: number }[];
  /** Likely enough to act on. */
  told: {
    rootId: string;
    name: string;
    checkId: string | null;
    raisesId: CauseId | null;
    proofId: string | null;
  } | null;
  /** How to avoid it, for the customer: by the root where it is told, and by the cause. */
  advice: string;
};

/** Why the cause came about, and what follows from it. null: no cause, or none of which anybody knows why. */
export const whyChapter: Chapter<
  'why',
  { lore: Lore; causeId: CauseId | null; wrecks: TicketState['wrecks'] },
  WhyShown | null
> = {
  name: 'why',
  byContent: ['wrecks'],
  answer: ({ lore, causeId, wrecks }) => {
    const cause = lore.knowledge.causes.find(({ id }) => id === causeId);
    if (!cause) return null;
    const signId = wrecks.find((wreck) => wreck.causeId === cause.id)?.signId;
    const roots = whyItFailed(lore.knowledge, cause.id, signId ?? null);
    if (roots.length === 0) return null;
    const told = toldRoot(roots);
    return {
      causeId: cause.id,
      signs: lore.knowledge.wreckSigns
        .filter((sign) => sign.causeId === cause.id)
        .map(({ id, text }) => ({ id, text })),
      signId,
      roots: roots.map(({ root, probability }) => ({
        rootId: root?.id ?? null,
        name: root?.name ?? null,
        probability,
      })),
      told: told
        ? {
            rootId: told.id,
            name: told.name,
            checkId: told.checkId ?? null,
            raisesId: told.raisesId ?? null,
            proofId: told.proofId ?? null,
          }
        : null,
      advice: [...new Set([told?.advice, cause.advice].filter((sentence) => sentence !== undefined))].join(' '),
    };
  },
};
