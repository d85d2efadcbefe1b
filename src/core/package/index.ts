export { packageDescriptor } from './descriptor';
export { contentHash, KeyTable, type Ledger } from './keyTable';
export {
  ChangeLog,
  columnsOf,
  differingColumns,
  rowContent,
  rowKey,
  rowText,
  SAMPLE_ROWS,
  type TableChanges,
} from './ledger';
export {
  createPackageReader,
  MAX_PROBLEMS,
  readPackage,
  type Notice,
  type PackageFile,
  type PackageReader,
  type ReadAs,
  type Problem,
} from './packageReader';
export { storedRowFault } from './storedRow';
