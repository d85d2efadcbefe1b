import { sumMoney, type LocalDate, type Money } from '../units';
import { ublAmount, ublDocument, ublParty, ublQuantity } from '../units/ubl';

/** An offer as a customer's or a landlord's system takes it: all amounts of its day, nothing of the shop's own sums. */
export type Quotation = {
  number: string;
  issuedOn: LocalDate;
  validUntil: LocalDate | null;
  shop: string;
  customer: string;
  machine: string;
  warrantyMonths: number;
  options: {
    name: string;
    readyOn: LocalDate | null;
    net: Money;
    tax: Money;
    gross: Money;
    lines: {
      name: string;
      partNumber: string | null;
      quantity: number;
      /** null: to be asked, and in no sum. */
      amounts: { net: Money; tax: Money; gross: Money } | null;
    }[];
  }[];
};

/** As JSON, amounts as decimals. */
export const quotationAsJson = (quotation: Quotation): string => `${JSON.stringify(quotation, null, 1)}\n`;

/**
 * One option as an OASIS UBL 2.1 Quotation. Lines without a price are notes: a line of a quotation has an amount. The totals are the sums of its lines.
 * @throws Error for an option that is not there (a bug).
 */
export function quotationAsUbl(quotation: Quotation, index: number): string {
  const option = quotation.options[index];
  if (!option) throw new Error('Bug: no such option');
  const { currency } = option.gross;
  const priced = option.lines.flatMap(({ amounts, ...line }) => (amounts ? [{ ...line, amounts }] : []));
  const asked = option.lines.filter(({ amounts }) => amounts === null);
  const total = (of: 'net' | 'tax' | 'gross') =>
    ublAmount(
      sumMoney(
        priced.map(({ amounts }) => amounts[of]),
        currency,
      ),
    );
  return ublDocument('Quotation', {
    'cbc:ID': quotation.number,
    'cbc:IssueDate': quotation.issuedOn,
    'cbc:Note': [
      option.name,
      quotation.machine,
      ...asked.map(({ name, quantity }) => `Price to be asked: ${quantity} × ${name}`),
      ...(quotation.warrantyMonths > 0 ? [`Warranty on the repair: ${quotation.warrantyMonths} months`] : []),
    ],
    'cbc:PricingCurrencyCode': currency,
    ...(quotation.validUntil ? { 'cac:ValidityPeriod': { 'cbc:EndDate': quotation.validUntil } } : {}),
    'cac:SellerSupplierParty': ublParty(quotation.shop),
    ...(quotation.customer ? { 'cac:BuyerCustomerParty': ublParty(quotation.customer) } : {}),
    'cac:TaxTotal': { 'cbc:TaxAmount': total('tax') },
    'cac:QuotedMonetaryTotal': {
      'cbc:LineExtensionAmount': total('net'),
      'cbc:TaxExclusiveAmount': total('net'),
      'cbc:TaxInclusiveAmount': total('gross'),
      'cbc:PayableAmount': total('gross'),
    },
    'cac:QuotationLine': priced.map((line, at) => ({
      'cac:LineItem': {
        'cbc:ID': String(at + 1),
        'cbc:Quantity': ublQuantity(line.quantity),
        'cbc:LineExtensionAmount': ublAmount(line.amounts.net),
        'cbc:TotalTaxAmount': ublAmount(line.amounts.tax),
        'cac:Item': {
          'cbc:Name': line.name,
          ...(line.partNumber ? { 'cac:SellersItemIdentification': { 'cbc:ID': line.partNumber } } : {}),
        },
      },
    })),
  });
}
