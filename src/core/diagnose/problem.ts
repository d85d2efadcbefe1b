/** Plain troubleshooting problem (shared problems.md §2, docs/methods.md). Costs in one unit of money; ids are positions. */
export type TroubleshootingProblem = {
  prior: number[];
  access: { cost: number }[];
  /**
   * outcomes[fault][outcome] = P(outcome | fault). `closes`: access that must not be open while it is done (a live run needs the plug in, the machine upright, the
   * motor in its place). Closing costs nothing, for opening has paid for it; opening it again is paid again.
   */
  checks: { cost: number; access: number[]; outcomes: number[][]; closes?: number[] }[];
  /** cure[fault] = P(the fix cures | fault). */
  fixes: { cost: number; access: number[]; cure: number[] }[];
  escalate: number;
};

/** Checks in the order in which they were done. `open`: access that is open now; where it is not said, what the checks and then the fixes left open. */
export type TroubleshootingEvidence = {
  checks: { check: number; outcome: number }[];
  fixes: number[];
  open?: readonly number[];
};

export type TroubleshootingAction = { kind: 'check' | 'fix'; id: number } | { kind: 'escalate' };

export type RankedAction = { action: TroubleshootingAction; expectedCost: number };
