export {
  buildWorkSheet,
  proofsFor,
  proofsInOrder,
  type BenchState,
  type SheetSection,
  type SheetStep,
  type WorkSheet,
} from './buildWorkSheet';
