import { knowledgeFor, type Catalogue, type Knowledge, type Platform } from '../../catalogue';
import { priorsOf, rankCauses, type CauseRanking, type PriorFactors, type RankedCause } from '../../diagnose';
import { causeFactor, timeFactor, type Learned } from '../../learn';
import type { TicketEvidence } from '../../ticket';
import type { Chapter } from '../chapter';
import type { Machine } from './machine';

/** What is known about this platform, and what this shop has learned of it. */
export type Lore = { knowledge: Knowledge; timeFactor: number; priors: PriorFactors };

export const loreChapter: Chapter<
  'lore',
  {
    catalogue: Catalogue;
    platform: Platform;
    designs: Machine['designs'];
    learned: Learned;
    lackingTools: readonly string[];
  },
  Lore
> = {
  name: 'lore',
  byContent: ['lackingTools'],
  answer: ({ catalogue, platform, designs, learned, lackingTools }) => {
    const known = knowledgeFor(catalogue, platform, designs);
    const knowledge = { ...known, operations: withLacking(known.operations, lackingTools) };
    const priors = priorsOf(knowledge);
    const factors = new Map(
      knowledge.causes.map((cause, index) => [
        cause.id,
        causeFactor(learned, platform.design, cause.id, priors[index] ?? 0),
      ]),
    );
    return {
      knowledge,
      timeFactor: timeFactor(learned, platform.design),
      priors: { causeFactor: (id) => factors.get(id) ?? 1 },
    };
  },
};

/** Operations with what the shop has not got for them. */
function withLacking(operations: Knowledge['operations'], lackingTools: readonly string[]): Knowledge['operations'] {
  if (lackingTools.length === 0) return operations;
  return operations.map((operation) => {
    const lacks = operation.tools.filter((tool) => lackingTools.includes(tool));
    return lacks.length ? { ...operation, lacks } : operation;
  });
}

export const causesChapter: Chapter<'causes', { lore: Lore; evidence: TicketEvidence }, CauseRanking> = {
  name: 'causes',
  byContent: ['evidence'],
  answer: ({ lore, evidence }) => rankCauses(lore.knowledge, evidence, lore.priors),
};

/** What moves a cause by less, in bits, is not worth a word; nor what it brings more rarely. */
const SPEAKS = 0.3;
const MOST_MOVES = 6;
const LEAST_BROUGHT = 0.01;

/** A ranking as it crosses to the page: the causes by their ids. */
export type ShownRanking = Omit<CauseRanking, 'causes'> & { causes: Omit<RankedCause, 'cause'>[] };
export const shownRanking = ({ causes, ...said }: CauseRanking): ShownRanking => ({
  ...said,
  causes: causes.map(({ cause: _row, moves, with: brought, ...shown }) => ({
    ...shown,
    moves: moves
      .filter(({ bits }) => Math.abs(bits) >= SPEAKS)
      .sort((a, b) => Math.abs(b.bits) - Math.abs(a.bits))
      .slice(0, MOST_MOVES),
    with: brought.filter(({ probability }) => probability >= LEAST_BROUGHT),
  })),
});
