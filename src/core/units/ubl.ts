import { XMLBuilder, XMLParser } from 'fast-xml-parser';
import { moneyToDecimal, type Money } from './money';

/** The two vocabularies that every UBL 2.x document is made of (OASIS). */
export const UBL_NAMESPACES = {
  '@_xmlns:cac': 'urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2',
  '@_xmlns:cbc': 'urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2',
};

const builder = new XMLBuilder({ ignoreAttributes: false, format: true, indentBy: ' ' });

/** A document of this name with its version and namespaces: keys are element names in the order of its schema. */
export const ublDocument = (
  name: 'Order' | 'OrderResponse' | 'Quotation' | 'DespatchAdvice' | 'Invoice',
  content: object,
): string =>
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

const CAC = UBL_NAMESPACES['@_xmlns:cac'];
const CBC = UBL_NAMESPACES['@_xmlns:cbc'];
const DOCUMENT = /^urn:oasis:names:specification:ubl:schema:xsd:\w+-2$/;
const localName = (name: string): string => name.slice(name.indexOf(':') + 1);

type Scope = Readonly<Record<string, string>>;
const isNode = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** The namespaces that hold inside an element: by prefix, '' for the one without. */
const scopeIn = (node: unknown, outside: Scope): Scope =>
  isNode(node)
    ? Object.entries(node).reduce<Scope>((scope, [key, value]) => {
        if (key === '@_xmlns') return { ...scope, '': String(value) };
        return key.startsWith('@_xmlns:') ? { ...scope, [key.slice('@_xmlns:'.length)]: String(value) } : scope;
      }, outside)
    : outside;

/** The name under which an element is known here, whatever prefix its writer chose: a namespace is its address. */
function knownAs(name: string, scope: Scope): string {
  const colon = name.indexOf(':');
  const address = scope[colon < 0 ? '' : name.slice(0, colon)];
  if (address === CAC) return `cac:${localName(name)}`;
  if (address === CBC) return `cbc:${localName(name)}`;
  if (address !== undefined && DOCUMENT.test(address)) return localName(name);
  // A namespace that is not of the standard is nobody's we know; a prefix that nobody declared is taken for what it looks like.
  return address === undefined ? name : `{${address}}${localName(name)}`;
}

function renamed(node: unknown, scope: Scope): unknown {
  if (!isNode(node)) return node;
  const out: Record<string, unknown> = {};
  for (const [key, value] of Object.entries(node)) {
    if (key.startsWith('@_xmlns')) continue;
    if (key.startsWith('@_') || key === '#text') out[key] = value;
    else
      for (const child of Array.isArray(value) ? value : [value]) {
        const inside = scopeIn(child, scope);
        const name = knownAs(key, inside);
        const read = renamed(child, inside);
        const before = out[name];
        out[name] = Array.isArray(value)
          ? [...(Array.isArray(before) ? before : []), read]
          : before === undefined
            ? read
            : [...(Array.isArray(before) ? before : [before]), read];
      }
  }
  const keys = Object.keys(out);
  return keys.length === 1 && keys[0] === '#text' ? out['#text'] : out;
}

/**
 * A UBL document as a tree: elements under the names of the standard's usual prefixes (cac:, cbc:, none for the document's own), whatever prefixes its writer chose; texts as
 * texts, attributes under @_. `lists`: local names of what is a list even when there is one. null for what is no XML. O(document).
 */
export function readUblTree(xml: string, lists: readonly string[]): unknown {
  const parser = new XMLParser({
    ignoreAttributes: false,
    parseTagValue: false,
    parseAttributeValue: false,
    processEntities: true,
    isArray: (name) => lists.includes(localName(name)),
  });
  try {
    return renamed(parser.parse(xml, true), {});
  } catch {
    return null;
  }
}
