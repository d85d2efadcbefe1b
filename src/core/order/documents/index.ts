/** An order and its answer as open formats. An entry of its own: a page loads it, with its parser, only when an order is sent or taken out. */
export { orderAsCsv, orderAsUbl } from './orderFiles';
export {
  readUblDespatchAdvice,
  readUblInvoice,
  readUblOrder,
  readUblOrderResponse,
  writeUblDespatchAdvice,
  writeUblInvoice,
  writeUblOrder,
  writeUblOrderResponse,
  type HeardDespatch,
  type UblOrder,
  type UblProblem,
} from './ubl';
