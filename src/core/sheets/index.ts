export {
  fieldsOf,
  guessColumns,
  guessKind,
  isComplete,
  KIND_FIELDS,
  SHEET_KINDS,
  type SheetField,
  type SheetKind,
  type SheetMapping,
} from './kinds';
export {
  ambiguityOf,
  isDayFirst,
  readSheetRow,
  type Ambiguity,
  type SheetProblem,
  type SheetRow,
  type SheetStyle,
} from './readRow';
export { kindOfText, roleOfName, sheetCatalogue, UNSORTED_ROLE, type SheetWords, type SheetWorld } from './toCatalogue';
