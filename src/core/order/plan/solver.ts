/** A mixed-integer linear programme by rows: minimise cost·x, rowLower ≤ A x ≤ rowUpper, 0 ≤ x ≤ upper, all x integer. */
export type MilpModel = {
  cost: number[];
  upper: number[];
  rows: { columns: number[]; values: number[]; lower: number; upper: number }[];
};

export type MilpResult = {
  status: 'optimal' | 'feasible' | 'infeasible' | 'nothing-found';
  values: number[];
  bound: number;
};

/** The programme with broken amounts: what each column is worth at its best point. */
export type Relaxed = { values: readonly number[]; reducedCosts: readonly number[] };

export type MilpSolver = {
  /** The linear relaxation; null where it is not solved in time. */
  relax(model: MilpModel, options: { budgetMs: number }): Relaxed | null;
  /** `start`: a feasible point to begin from. Synchronous inside: run it in a worker. */
  solve(model: MilpModel, options: { budgetMs: number; start?: readonly number[] | undefined }): MilpResult;
};
