export {
  buildQuote,
  chargedMinutes,
  labourLine,
  LABOUR_STEP_MINUTES,
  reserveOf,
  type Quote,
  type QuoteInput,
  type QuoteLine,
  type QuoteLineInput,
  type QuoteOption,
  type QuoteOptionInput,
} from './buildQuote';
