import { XMLBuilder } from 'fast-xml-parser';
import { moneyToDecimal, type Money } from './money';

/** The two vocabularies that every UBL 2.x document is made of (OASIS). */
export const UBL_NAMESPACES = {
  '@_xmlns:cac': 'urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2',
  '@_xmlns:cbc': 'urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2',
};

const builder = new XMLBuilder({ ignoreAttributes: false, format: true, indentBy: ' ' });

/** A document of this name with its version and namespaces: keys are element names in the order of its schema. */
export const ublDocument = (name: 'Order' | 'OrderResponse' | 'Quotation', content: object): string =>
  `<?xml version="1.0" encoding="UTF-8"?>\n${builder.build({
    [name]: {
      '@_xmlns': `urn:oasis:names:specification:ubl:schema:xsd:${name}-2`,
      ...UBL_NAMESPACES,
      'cbc:UBLVersionID': '2.1',
      ...content,
    },
  })}`;

export const ublAmount = (money: Money) => ({ '#text': moneyToDecimal(money), '@_currencyID': money.currency });
export const ublParty = (name: string) => ({ 'cac:Party': { 'cac:PartyName': { 'cbc:Name': name } } });
/** C62: pieces (UN/ECE Recommendation 20). */
export const ublQuantity = (pieces: number) => ({ '#text': String(pieces), '@_unitCode': 'C62' });
