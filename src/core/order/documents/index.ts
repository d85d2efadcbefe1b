/** An order and its answer as open formats. An entry of its own: a page loads it, with its parser, only when an order is sent or taken out. */
export { orderAsCsv, orderAsUbl } from './orderFiles';
export {
  readUblOrder,
  readUblOrderResponse,
  writeUblOrder,
  writeUblOrderResponse,
  type UblOrder,
  type UblProblem,
} from './ubl';
