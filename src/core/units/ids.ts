import type { Branded } from './brands';
import * as z from './zod';

/** What stands behind an id. Rows of the catalogue carry the package's own ids, everything else is named by the shop. */
export type MakerId = Branded<'MakerId'>;
export type PlatformId = Branded<'PlatformId'>;
export type ModelId = Branded<'ModelId'>;
export type RoleId = Branded<'RoleId'>;
export type PartId = Branded<'PartId'>;
export type SupplierId = Branded<'SupplierId'>;
export type CauseId = Branded<'CauseId'>;
export type TicketId = Branded<'TicketId'>;
export type OrderId = Branded<'OrderId'>;
/** A line of an order. */
export type LineId = Branded<'LineId'>;
export type RequirementId = Branded<'RequirementId'>;
/** A lot on the shelf. */
export type StockId = Branded<'StockId'>;
export type EventId = Branded<'EventId'>;

const LONGEST = 200;
const isId = <Id extends Branded<string>>(value: unknown): value is Id =>
  typeof value === 'string' && value.length > 0 && value.length <= LONGEST;

/** The parser that mints ids of one kind: `idSchema<PartId>()`. 1 to 200 characters. */
export const idSchema = <Id extends Branded<string>>() =>
  z.custom<Id>((value) => isId<Id>(value), `is not an id of 1 to ${LONGEST} characters`);

/** An id out of a text whose kind is known from where it stood: a route, a key, a fresh number. Throws on an empty or overlong one. */
export function asId<Id extends Branded<string>>(text: string): Id {
  if (isId<Id>(text)) return text;
  throw new Error(`Bug: "${text.slice(0, 40)}" is not an id`);
}
