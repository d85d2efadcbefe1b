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

export type MilpSolver = {
  /** `start`: a feasible point to begin from. Synchronous inside: run it in a worker. */
  solve(model: MilpModel, options: { budgetMs: number; start?: readonly number[] | undefined }): MilpResult;
};
