export { quotationAsJson, quotationAsUbl, type Quotation } from './quotation';
export {
  buildQuote,
  carriageLine,
  chargedMinutes,
  labourAmounts,
  labourLine,
  LABOUR_STEP_MINUTES,
  reserveLine,
  type OptionName,
  type Quote,
  type QuoteInput,
  type QuoteLine,
  type QuoteLineInput,
  type QuoteOption,
  type QuoteOptionInput,
  type TaxStyle,
} from './buildQuote';
