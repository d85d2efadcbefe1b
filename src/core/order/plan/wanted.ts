import type { Offer, Relation, ShippingMode, Supplier } from '../../catalogue';
import type { LocalDate, Money, PartId, RequirementId, TicketId } from '../../units';

/** What a ticket needs bought. Alternatives: any one of these numbers does, in the same quantity. */
export type PurchaseRequirement = {
  id: RequirementId;
  quantity: number;
  alternatives: readonly { partId: PartId; adaptation: Money }[];
  /** Wished: in this order, or in a later one, whatever it costs. */
  when?: 'now' | 'later';
};
export type PurchaseTicket = {
  ticketId: TicketId;
  needBy: LocalDate;
  latePerDay: Money;
  requirements: readonly PurchaseRequirement[];
};

export type Market = {
  suppliers: readonly Supplier[];
  modes: readonly ShippingMode[];
  offers: readonly Offer[];
  /** Kits: `contains` relations, kit → part. */
  relations: readonly Relation[];
};
