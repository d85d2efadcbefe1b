import type { MilpModel, MilpResult, MilpSolver } from './solver';

/** Half a minor unit: with integer costs a plan this close to the bound is optimal. */
const ABSOLUTE_GAP = 0.5;

/** What takes longer on these programmes than it saves: a quarter of the time, over twelve looks of two markets. */
const QUICK = { mip_heuristic_run_root_reduced_cost: false, mip_allow_restart: false, mip_detect_symmetry: false };

/**
 * The HiGHS solver (WebAssembly), the same in Node and in a worker. Start-up takes 0.1 to 0.4 s: keep it. Rejects when the module cannot be loaded.
 */
export async function createHighsSolver(): Promise<MilpSolver> {
  const { default: load } = await import('highs');
  const highs = await load();
  const built = ({ cost, lower, upper, rows }: MilpModel, whole: boolean) => {
    const [numCols, numRows] = [cost.length, rows.length];
    const starts = new Int32Array(numRows + 1);
    rows.forEach((row, i) => (starts[i + 1] = (starts[i] ?? 0) + row.columns.length));
    return highs.createModel({
      numCols,
      numRows,
      colCost: Float64Array.from(cost),
      colLower: Float64Array.from(lower),
      colUpper: Float64Array.from(upper),
      rowLower: Float64Array.from(rows, (row) => (row.lower === -Infinity ? -highs.infinity : row.lower)),
      rowUpper: Float64Array.from(rows, (row) => (row.upper === Infinity ? highs.infinity : row.upper)),
      matrix: {
        format: 'csr',
        numRows,
        numCols,
        starts,
        indices: Int32Array.from(rows.flatMap((row) => row.columns)),
        values: Float64Array.from(rows.flatMap((row) => row.values)),
      },
      ...(whole ? { integrality: new Int32Array(numCols).fill(highs.constants.variableType.integer) } : {}),
    });
  };
  const seconds = (budgetMs: number) => Math.max(0.05, budgetMs / 1000);
  const found = highs.constants.modelStatus;
  return {
    open(model) {
      const native = built(model, false);
      // What presolving saves it loses here, where each run begins at the point of the last.
      native.options.set({ output_flag: false, presolve: 'off' });
      return {
        hold: (column, lower, upper) => void native.changeColBounds(column, lower, upper),
        solve(budgetMs) {
          // Its clock runs on from one run to the next.
          native.options.set({ time_limit: native.getRunTime() + seconds(budgetMs) });
          native.run();
          if (native.getModelStatus() !== found.optimal) return null;
          const { colValue, colDual } = native.getSolution();
          const values = [...colValue];
          const cost = values.reduce((all, value, column) => all + value * (model.cost[column] ?? 0), 0);
          return { cost, values, reducedCosts: [...colDual] };
        },
        close: () => native.dispose(),
      };
    },
    solve(model: MilpModel, { budgetMs, start }): MilpResult {
      const native = built(model, true);
      try {
        native.options.set({
          output_flag: false,
          time_limit: seconds(budgetMs),
          mip_rel_gap: 0,
          mip_abs_gap: ABSOLUTE_GAP,
          ...QUICK,
        });
        if (start) native.setSolution({ colValue: Float64Array.from(start) });
        native.run();
        const status = native.getModelStatus();
        if (status === found.infeasible || status === found.unboundedOrInfeasible)
          return { status: 'infeasible', values: [], bound: Infinity };
        const hasPoint = Number(native.info.get('primal_solution_status')) === 2;
        const bound = Number(native.info.get('mip_dual_bound'));
        if (!hasPoint) return { status: 'nothing-found', values: [], bound };
        return {
          status: status === found.optimal ? 'optimal' : 'feasible',
          values: Array.from(native.getSolution().colValue, Math.round),
          bound,
        };
      } finally {
        native.dispose();
      }
    },
  };
}
