export {
  buildWorkSheet,
  refitNeedsOf,
  type Beforehand,
  type CountedBeside,
  type HomeCount,
  type BenchState,
  type Manual,
  type Rescue,
  type SheetSection,
  type SheetStep,
  type StepBar,
  type SwapTask,
  type WorkSheet,
} from './buildWorkSheet';
export { machineNow, type MachineNow } from './machineNow';
export {
  dueProofs,
  proofsFor,
  proofsInOrder,
  stepsBehind,
  type DueProof,
  type ProofBar,
  type ProofFigure,
} from './proofs';
export { screwsOf, type Screws } from './screws';
