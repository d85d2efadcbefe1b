export {
  buildWorkSheet,
  proofsFor,
  type BenchState,
  type SheetSection,
  type SheetStep,
  type WorkSheet,
} from './buildWorkSheet';
