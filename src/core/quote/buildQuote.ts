import { addMoney, shareOfMoney, sumMoney, timesMoney, type Money, type LocalDate, type PartId } from '../units';

export type QuoteLineInput = {
  kind: 'part' | 'companion' | 'labour' | 'fee' | 'reserve';
  /** The catalogue's words for a part; empty for what the interface names itself. */
  description: string;
  partId: PartId | null;
  partNumber: string | null;
  quantity: number;
  /** Minutes charged, for labour. */
  minutes: number | null;
  /** Net, for the whole quantity; null when nobody lists a price: it is to be asked, and is in no sum. */
  net: Money | null;
  /** The price is what such a part usually costs: nobody has named one. */
  estimated?: boolean | undefined;
};

/** What an option is, as facts: `words/quote.ts` names it. */
export type OptionName = {
  kind: 'best-fit' | 'cheaper-part' | 'while-open' | 'other-way';
  causeNames: readonly string[];
  /** How the first of them is mended, where that is not its own way. */
  fixId: string | null;
  fixName: string | null;
};

export type QuoteOptionInput = OptionName & {
  id: string;
  lines: readonly QuoteLineInput[];
  handsOnMinutes: number;
  readyOn: LocalDate | null;
};

export type QuoteInput = {
  currency: string;
  taxBasisPoints: number;
  /** Inspection fee; credited when the customer says yes. */
  fee: Money;
  feeWaivedIfRepaired: boolean;
  options: readonly QuoteOptionInput[];
};

export type QuoteLine = Omit<QuoteLineInput, 'net'> & { amounts: { net: Money; tax: Money; gross: Money } | null };
export type QuoteOption = Omit<QuoteOptionInput, 'lines'> & {
  lines: QuoteLine[];
  /** Sums of the lines that have a price. */
  net: Money;
  tax: Money;
  gross: Money;
  /** false: some line's price is still to be asked, or is only the usual one. */
  complete: boolean;
};
export type Quote = {
  currency: string;
  taxBasisPoints: number;
  options: QuoteOption[];
  feeGross: Money;
  feeWaivedIfRepaired: boolean;
};

/** Tax per line, rounded half away from zero to whole minor units; the total is the sum of the lines. */
function priceLine({ net, ...line }: QuoteLineInput, taxBasisPoints: number): QuoteLine {
  if (net === null) return { ...line, amounts: null };
  const tax = shareOfMoney(net, taxBasisPoints);
  return { ...line, amounts: { net, tax, gross: addMoney(net, tax) } };
}

/** Lines, tax and totals of up to three options. All in one currency; mixing is a bug and throws. */
export function buildQuote(input: QuoteInput): Quote {
  const { currency, taxBasisPoints, fee, feeWaivedIfRepaired } = input;
  const options = input.options.map((option): QuoteOption => {
    const charged = feeWaivedIfRepaired || fee.amountMinor === 0 ? [] : [feeLine(fee)];
    const lines = [...option.lines, ...charged].map((line) => priceLine(line, taxBasisPoints));
    const total = (of: 'net' | 'tax' | 'gross') =>
      sumMoney(
        lines.flatMap(({ amounts }) => (amounts ? [amounts[of]] : [])),
        currency,
      );
    const { id, kind, causeNames, fixId, fixName, handsOnMinutes, readyOn } = option;
    // What else the caller's options carry stays with the caller: a quote is sent to the page and kept.
    return {
      id,
      kind,
      causeNames,
      fixId,
      fixName,
      handsOnMinutes,
      readyOn,
      lines,
      net: total('net'),
      tax: total('tax'),
      gross: total('gross'),
      complete: lines.every(({ amounts, estimated }) => amounts !== null && !estimated),
    };
  });
  const feeGross = addMoney(fee, shareOfMoney(fee, taxBasisPoints));
  return { currency, taxBasisPoints, options, feeGross, feeWaivedIfRepaired };
}

const nameless = { description: '', partId: null, partNumber: null, quantity: 1 };

const feeLine = (net: Money): QuoteLineInput => ({ kind: 'fee', ...nameless, minutes: null, net });

/** Labour is charged by the started quarter of an hour. */
export const LABOUR_STEP_MINUTES = 15;

export const chargedMinutes = (minutes: number): number =>
  Math.max(0, Math.ceil(minutes / LABOUR_STEP_MINUTES - 1e-9)) * LABOUR_STEP_MINUTES;

export function labourLine(minutes: number, perHour: Money): QuoteLineInput {
  const charged = chargedMinutes(minutes);
  const quarters = charged / LABOUR_STEP_MINUTES;
  return {
    kind: 'labour',
    ...nameless,
    minutes: charged,
    net: shareOfMoney(timesMoney(perHour, quarters), 2500),
  };
}

/** What the shop puts aside for work that comes back: a share of the labour, in hundredths of a percent; whole minor units. */
export const reserveLine = (labour: Money, basisPoints: number): QuoteLineInput => ({
  kind: 'reserve',
  ...nameless,
  minutes: null,
  net: shareOfMoney(labour, basisPoints),
});
