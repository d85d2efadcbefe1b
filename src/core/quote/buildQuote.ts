import {
  addMoney,
  money,
  shareOfMoney,
  subtractMoney,
  sumMoney,
  timesMoney,
  type Money,
  type LocalDate,
  type PartId,
} from '../units';

export type QuoteLineInput = {
  /** sundry: taken from the shelf by the piece. */
  kind: 'part' | 'companion' | 'sundry' | 'labour' | 'fee' | 'reserve' | 'collection' | 'delivery';
  /** The catalogue's words for a part; empty for what the interface names itself. */
  description: string;
  partId: PartId | null;
  partNumber: string | null;
  quantity: number;
  /** Minutes charged, for labour. */
  minutes: number | null;
  /** For the whole quantity, as this shop names prices: without tax, or with it where its prices hold it; null when nobody lists a price: it is to be asked, and is in no sum. */
  net: Money | null;
  /** The price is what such a part usually costs: nobody has named one. */
  estimated?: boolean | undefined;
  /** It is used: out of the machine with this number. */
  usedFrom?: number | undefined;
};

/** What an option is, as facts: `words/quote.ts` names it. */
export type OptionName = {
  kind: 'best-fit' | 'cheaper-part' | 'while-open' | 'other-way' | 'used-part';
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

/** added: prices are without tax, and it comes on top. included: prices hold the tax. none: no tax is charged. */
export type TaxStyle = 'added' | 'included' | 'none';

export type QuoteInput = {
  currency: string;
  taxBasisPoints: number;
  /** Default: added. */
  taxStyle?: TaxStyle;
  /** On labour, fees and what is put aside, where it differs from that on goods. */
  labourTaxBasisPoints?: number | null;
  /** Of the parts, asked for before they are ordered. Default 0. */
  depositBasisPoints?: number;
  /** Lines of every option: fetching, bringing back. */
  extras?: readonly QuoteLineInput[];
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
  /** What is asked for before the parts are ordered; null where nothing is. */
  deposit: Money | null;
  /** false: some line's price is still to be asked, or is only the usual one. */
  complete: boolean;
};
export type Quote = {
  currency: string;
  options: QuoteOption[];
  feeGross: Money;
  feeWaivedIfRepaired: boolean;
};

type Taxes = Pick<QuoteInput, 'taxBasisPoints' | 'taxStyle' | 'labourTaxBasisPoints'>;

const GOODS = ['part', 'companion', 'sundry'] as const;
const isGoods = ({ kind }: Pick<QuoteLineInput, 'kind'>): boolean => GOODS.some((goods) => goods === kind);

/** Hundredths of a percent in one. */
const WHOLE = 10_000;

/** The tax on a line, rounded half away from zero to whole minor units, on top of its price or out of it. */
function amountsOf(price: Money, rate: number, style: TaxStyle): { net: Money; tax: Money; gross: Money } {
  switch (style) {
    case 'none':
      return { net: price, tax: shareOfMoney(price, 0), gross: price };
    case 'added': {
      const tax = shareOfMoney(price, rate);
      return { net: price, tax, gross: addMoney(price, tax) };
    }
    case 'included': {
      // In whole numbers: gross · rate ÷ (1 + rate), half away from zero.
      const tax = money(
        Math.floor((2 * price.amountMinor * rate + WHOLE + rate) / (2 * (WHOLE + rate))),
        price.currency,
      );
      return { net: subtractMoney(price, tax), tax, gross: price };
    }
  }
}

/** A price of work with its tax, as a line of an offer has it. */
export const labourAmounts = (price: Money, { taxBasisPoints, labourTaxBasisPoints, taxStyle = 'added' }: Taxes) =>
  amountsOf(price, labourTaxBasisPoints ?? taxBasisPoints, taxStyle);

/** Tax per line; the total is the sum of the lines. */
function priceLine({ net: price, ...line }: QuoteLineInput, taxes: Taxes): QuoteLine {
  if (price === null) return { ...line, amounts: null };
  const { taxBasisPoints, labourTaxBasisPoints, taxStyle = 'added' } = taxes;
  const rate = isGoods(line) ? taxBasisPoints : (labourTaxBasisPoints ?? taxBasisPoints);
  return { ...line, amounts: amountsOf(price, rate, taxStyle) };
}

/** Lines, tax and totals of up to three options. All in one currency; mixing is a bug and throws. */
export function buildQuote(input: QuoteInput): Quote {
  const { currency, fee, feeWaivedIfRepaired, extras = [], depositBasisPoints = 0 } = input;
  const options = input.options.map((option): QuoteOption => {
    const charged = feeWaivedIfRepaired || fee.amountMinor === 0 ? [] : [feeLine(fee)];
    const lines = [...option.lines, ...extras, ...charged].map((line) => priceLine(line, input));
    const total = (of: 'net' | 'tax' | 'gross') =>
      sumMoney(
        lines.flatMap(({ amounts }) => (amounts ? [amounts[of]] : [])),
        currency,
      );
    const goods = sumMoney(
      lines.flatMap((line) => (line.amounts && isGoods(line) && line.kind !== 'sundry' ? [line.amounts.gross] : [])),
      currency,
    );
    const deposit = shareOfMoney(goods, depositBasisPoints);
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
      deposit: deposit.amountMinor > 0 ? deposit : null,
      complete: lines.every(({ amounts, estimated }) => amounts !== null && !estimated),
    };
  });
  const feeGross = priceLine(feeLine(fee), input).amounts?.gross ?? fee;
  return { currency, options, feeGross, feeWaivedIfRepaired };
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

/** Fetching the machine, or bringing it back. */
export const carriageLine = (kind: 'collection' | 'delivery', net: Money): QuoteLineInput => ({
  kind,
  ...nameless,
  minutes: null,
  net,
});

/** What the shop puts aside for work that comes back: a share of the labour, in hundredths of a percent; whole minor units. */
export const reserveLine = (labour: Money, basisPoints: number): QuoteLineInput => ({
  kind: 'reserve',
  ...nameless,
  minutes: null,
  net: shareOfMoney(labour, basisPoints),
});
