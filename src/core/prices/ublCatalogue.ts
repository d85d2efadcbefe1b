import { XMLParser } from 'fast-xml-parser';
import { fail, ok, parseMoney, type Result } from '../units';
import * as z from '../units/zod';
import type { PriceProblem, PriceRow } from './priceList';

export type UblCatalogueProblem = { kind: 'not-xml' } | { kind: 'not-a-catalogue' };
export type UblCatalogue = { title: string; supplier: string; rows: PriceRow[]; problems: PriceProblem[] };

const parser = new XMLParser({
  ignoreAttributes: false,
  parseTagValue: false,
  parseAttributeValue: false,
  removeNSPrefix: true,
  // A price list is no place for entities that unfold.
  processEntities: false,
  isArray: (name) => name === 'CatalogueLine' || name === 'RequiredItemLocationQuantity',
});

const value = z
  .union([z.string(), z.object({ '#text': z.string() }).loose()])
  .transform((read) => (typeof read === 'string' ? read : read['#text']).trim());
const identified = z.object({ ID: value }).loose().optional();
const line = z
  .object({
    MinimumOrderQuantity: value.optional(),
    PackQuantity: value.optional(),
    OrderableUnitFactorRate: value.optional(),
    RequiredItemLocationQuantity: z
      .array(
        z
          .object({
            LeadTimeMeasure: value.optional(),
            Price: z
              .object({
                PriceAmount: z.object({ '#text': z.string(), '@_currencyID': z.string() }).loose(),
                BaseQuantity: value.optional(),
              })
              .loose(),
          })
          .loose(),
      )
      .optional(),
    Item: z
      .object({
        SellersItemIdentification: identified,
        ManufacturersItemIdentification: identified,
        ManufacturerParty: z
          .object({ PartyName: z.object({ Name: value }).loose() })
          .loose()
          .optional(),
      })
      .loose(),
  })
  .loose();
const document = z.object({
  Catalogue: z
    .object({
      ID: value.optional(),
      Name: value.optional(),
      SellerSupplierParty: z
        .object({ Party: z.object({ PartyName: z.object({ Name: value }).loose() }).loose() })
        .loose()
        .optional(),
      CatalogueLine: z.array(z.unknown()).optional(),
    })
    .loose(),
});

const wholeOf = (text: string | undefined, otherwise: number): number => {
  const read = Number.parseFloat(text ?? '');
  return Number.isFinite(read) && read >= 0 ? Math.round(read) : otherwise;
};

/**
 * A supplier's price list as OASIS UBL 2.x Catalogue: seller's and manufacturer's item identification, price with its currency, pack and lead time.
 * Lines without a manufacturer's number or a price are reported by their place, counted from 1.
 */
export function readUblCatalogue(xml: string): Result<UblCatalogue, UblCatalogueProblem> {
  let tree: unknown;
  try {
    tree = parser.parse(xml, true);
  } catch {
    return fail({ kind: 'not-xml' });
  }
  const read = document.safeParse(tree);
  if (!read.success) return fail({ kind: 'not-a-catalogue' });
  const { Catalogue: catalogue } = read.data;
  const rows: PriceRow[] = [];
  const problems: PriceProblem[] = [];
  for (const [index, raw] of (catalogue.CatalogueLine ?? []).entries()) {
    const parsed = line.safeParse(raw);
    const wrong = (field: PriceProblem['field'], text: string, why: string) =>
      void problems.push({ row: index + 1, field, value: text.slice(0, 80), why });
    if (!parsed.success) {
      wrong('price', '', 'this line has no item or its price has no currency');
      continue;
    }
    const { Item: item, RequiredItemLocationQuantity: locations, ...rest } = parsed.data;
    const place = locations?.[0];
    const partNumber = item.ManufacturersItemIdentification?.ID ?? '';
    const amount = place
      ? parseMoney(place.Price.PriceAmount['#text'].trim(), place.Price.PriceAmount['@_currencyID'])
      : null;
    if (partNumber === '') wrong('partNumber', '', 'this line has no manufacturer’s number');
    else if (!amount) wrong('price', '', 'this line has no price');
    else if (!amount.ok || amount.value.amountMinor < 0)
      wrong('price', place?.Price.PriceAmount['#text'] ?? '', 'is not an amount');
    else
      rows.push({
        partNumber,
        supplierNumber: item.SellersItemIdentification?.ID ?? partNumber,
        packPrice: amount.value,
        packQuantity: Math.max(1, wholeOf(place?.Price.BaseQuantity ?? rest.PackQuantity, 1)),
        stockPacks: 1,
        handlingDays: Math.min(365, wholeOf(place?.LeadTimeMeasure, 1)),
        maker: item.ManufacturerParty?.PartyName.Name ?? '',
      });
  }
  return ok({
    title: catalogue.Name ?? catalogue.ID ?? 'Catalogue',
    supplier: catalogue.SellerSupplierParty?.Party.PartyName.Name ?? '',
    rows,
    problems,
  });
}
