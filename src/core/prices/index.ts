export {
  guessMapping,
  parseAmount,
  PRICE_FIELDS,
  readPriceRow,
  usesDecimalComma,
  type PriceField,
  type PriceMapping,
  type PriceProblem,
  type PriceRow,
  type PriceStyle,
} from './priceList';
export { readUblCatalogue, type UblCatalogue, type UblCatalogueProblem } from './ublCatalogue';
