/** A mixed-integer linear programme by rows: minimise cost·x, rowLower ≤ A x ≤ rowUpper, lower ≤ x ≤ upper, all x integer. */
export type MilpModel = {
  cost: number[];
  lower: number[];
  upper: number[];
  rows: { columns: number[]; values: number[]; lower: number; upper: number }[];
};

export type MilpResult = {
  status: 'optimal' | 'feasible' | 'infeasible' | 'nothing-found';
  values: number[];
  bound: number;
};

/** The programme with broken amounts: what its best point costs, its columns there, and what one more of each would cost at least. */
export type Relaxed = { cost: number; values: readonly number[]; reducedCosts: readonly number[] };

/** The linear relaxation of a programme, kept open: after columns are held to something it is solved again from where it ended. */
export type OpenRelaxation = {
  hold(column: number, lower: number, upper: number): void;
  /** null where it has no point, or none is found in time. */
  solve(budgetMs: number): Relaxed | null;
  close(): void;
};

export type MilpSolver = {
  open(model: MilpModel): OpenRelaxation;
  /** `start`: a feasible point to begin from. Synchronous inside: run it in a worker. */
  solve(model: MilpModel, options: { budgetMs: number; start?: readonly number[] | undefined }): MilpResult;
};
