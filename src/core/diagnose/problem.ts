/** Plain troubleshooting problem (shared problems.md §2, docs/methods.md). Costs in one unit of money; ids are positions. */
export type TroubleshootingProblem = {
  prior: number[];
  access: { cost: number }[];
  /** outcomes[fault][outcome] = P(outcome | fault). */
  checks: { cost: number; access: number[]; outcomes: number[][] }[];
  /** cure[fault] = P(the fix cures | fault). */
  fixes: { cost: number; access: number[]; cure: number[] }[];
  escalate: number;
};

export type TroubleshootingEvidence = { checks: { check: number; outcome: number }[]; fixes: number[] };

export type TroubleshootingAction = { kind: 'check' | 'fix'; id: number } | { kind: 'escalate' };

export type RankedAction = { action: TroubleshootingAction; expectedCost: number };
