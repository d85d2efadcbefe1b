export {
  buildQuote,
  chargedMinutes,
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
} from './buildQuote';
