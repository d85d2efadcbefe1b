import { addMoney, fromMajor, shareOfMoney, sumMoney, timesMoney, toMajor, type Money } from '../units';

export type QuoteLineInput = {
  kind: 'part' | 'companion' | 'labour' | 'fee' | 'reserve';
  text: string;
  partId: string | null;
  partNumber: string | null;
  quantity: number;
  unit: Money;
};

export type QuoteOptionInput = {
  id: string;
  title: string;
  lines: readonly QuoteLineInput[];
  handsOnMinutes: number;
  readyOn: string | null;
  notes: readonly string[];
};

export type QuoteInput = {
  currency: string;
  taxBasisPoints: number;
  /** Inspection fee; credited when the customer says yes. */
  fee: Money;
  feeWaivedIfRepaired: boolean;
  options: readonly QuoteOptionInput[];
};

export type QuoteLine = QuoteLineInput & { net: Money; tax: Money; gross: Money };
export type QuoteOption = Omit<QuoteOptionInput, 'lines'> & {
  lines: QuoteLine[];
  net: Money;
  tax: Money;
  gross: Money;
};
export type Quote = {
  currency: string;
  taxBasisPoints: number;
  options: QuoteOption[];
  feeGross: Money;
  feeWaivedIfRepaired: boolean;
};

/** Tax per line, rounded half away from zero to whole minor units; the total is the sum of the lines. */
function priceLine(line: QuoteLineInput, taxBasisPoints: number): QuoteLine {
  const net = timesMoney(line.unit, line.quantity);
  const tax = shareOfMoney(net, taxBasisPoints);
  return { ...line, net, tax, gross: addMoney(net, tax) };
}

/** Lines, tax and totals of up to three options. All in one currency; mixing is a bug and throws. */
export function buildQuote(input: QuoteInput): Quote {
  const feeTax = shareOfMoney(input.fee, input.taxBasisPoints);
  const options = input.options.slice(0, 3).map((option): QuoteOption => {
    const fee: QuoteLineInput[] =
      input.feeWaivedIfRepaired || input.fee.amountMinor === 0
        ? []
        : [{ kind: 'fee', text: 'Inspection', partId: null, partNumber: null, quantity: 1, unit: input.fee }];
    const lines = [...option.lines, ...fee].map((line) => priceLine(line, input.taxBasisPoints));
    return {
      ...option,
      lines,
      net: sumMoney(
        lines.map((line) => line.net),
        input.currency,
      ),
      tax: sumMoney(
        lines.map((line) => line.tax),
        input.currency,
      ),
      gross: sumMoney(
        lines.map((line) => line.gross),
        input.currency,
      ),
    };
  });
  return {
    currency: input.currency,
    taxBasisPoints: input.taxBasisPoints,
    options,
    feeGross: addMoney(input.fee, feeTax),
    feeWaivedIfRepaired: input.feeWaivedIfRepaired,
  };
}

/** Labour is charged by the started quarter of an hour. */
export const LABOUR_STEP_MINUTES = 15;

export const chargedMinutes = (minutes: number): number =>
  Math.max(0, Math.ceil(minutes / LABOUR_STEP_MINUTES - 1e-9)) * LABOUR_STEP_MINUTES;

const quarterHours = (perHour: Money, quarters: number): Money => shareOfMoney(timesMoney(perHour, quarters), 2500);

export function labourLine(minutes: number, perHour: Money): QuoteLineInput {
  const charged = chargedMinutes(minutes);
  return {
    kind: 'labour',
    text: `${charged} min labour`,
    partId: null,
    partNumber: null,
    quantity: 1,
    unit: quarterHours(perHour, charged / LABOUR_STEP_MINUTES),
  };
}

/** What the shop puts aside for work that comes back: a share of labour and parts, whole minor units. */
export const reserveOf = (net: Money, share: number): Money => fromMajor(toMajor(net) * share, net.currency);
