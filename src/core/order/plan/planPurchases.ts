import type { Offer, ShippingMode, Supplier } from '../../catalogue';
import {
  addDays,
  arrivalDate,
  daysBetween,
  groupBy,
  money,
  type LocalDate,
  type ShippingCalendar,
  type Money,
  type PartId,
  type SupplierId,
  type RequirementId,
  type TicketId,
  defined,
} from '../../units';
import { SHELF } from '../../stock';
import { planOrder } from './planOrder';
import { arrivalDay, InfeasibleOrder, planCost, type OrderPlan, type OrderProblem } from './problem';
import type { MilpSolver } from './solver';
import { waitingFor, type Seen, type Waiting } from './wait';
import type { Market, PurchaseRequirement, PurchaseTicket } from './wanted';

const NOTHING_SEEN: Seen = { habits: new Map(), delays: new Map() };

export type PurchaseLine = {
  offerId: string;
  partId: PartId;
  supplierNumber: string;
  packs: number;
  packPrice: Money;
  linePrice: Money;
  /** Pieces of its own part in a pack. */
  packSize: number;
  /** What a pack gives: pieces of its own part, or of the parts of a kit that is opened. */
  contents: { partId: PartId; perPack: number }[];
  for: { ticketId: TicketId; requirementId: RequirementId; partId: PartId; units: number; perPack: number }[];
  spare: number;
};
/** A kit that is bought for what is in it. */
export const isOpened = ({ partId, contents }: Pick<PurchaseLine, 'partId' | 'contents'>): boolean =>
  contents.some((content) => content.partId !== partId);

export type SupplierOrder = {
  supplierId: SupplierId;
  modeId: string;
  lines: PurchaseLine[];
  goods: Money;
  shipping: Money;
  arrivesOn: LocalDate;
};

/** Pieces that the shelf lacks: bought now where that pays, else later. */
export type ShelfWant = {
  partId: PartId;
  pieces: number;
  /** What leaving them for later costs: their price then, and what it is worth to have them before. */
  later: Money;
};

/** A part that is not in this order. */
export type LeftForLater = Waiting & { ticketId: TicketId; requirementId: RequirementId };

export type PurchasePlan = {
  orders: SupplierOrder[];
  tickets: { ticketId: TicketId; arrivesOn: LocalDate | null; lateDays: number }[];
  cannotBuy: {
    ticketId: TicketId;
    requirementId: RequirementId;
    why: 'no-offer' | 'out-of-stock' | 'not-enough-together';
  }[];
  /** What a later order brings in time, and cheaper; or what was wished later. */
  waits: LeftForLater[];
  goods: Money;
  shipping: Money;
  adaptation: Money;
  lateness: Money;
  /** What it costs to leave for later what the shelf lacks and what waits; not in the total, for nobody pays it now. */
  forLater: Money;
  total: Money;
  provenGap: number;
};

export type PurchaseOptions = {
  today: LocalDate;
  currency: string;
  oneMode: boolean;
  /** What the shelf lacks. */
  shelf?: readonly ShelfWant[];
  /** Leave for a later order what still comes in time, where that pays. */
  mayWait?: boolean;
  /** How often the shop orders where, and how late it comes from there. */
  seen?: Seen;
  /** When suppliers pack and carriers bring. */
  calendar: ShippingCalendar;
  budgetMs: number;
  clock: () => number;
};

/** `waiting`: what leaving it for later comes to, where it may be left. */
type Entry = { ticketId: TicketId; requirement: PurchaseRequirement; waiting: Waiting | null };
/** What the shelf lacks stands behind the entries of the tickets. */
const shelfOf = ({ shelf = [], currency }: PurchaseOptions): readonly ShelfWant[] =>
  shelf.filter(({ pieces, later }) => pieces > 0 && later.currency === currency);

/** One plan over all tickets. What cannot be bought is said, and the rest is planned. Offers in another currency are left out. */
export async function planPurchases(
  tickets: readonly PurchaseTicket[],
  market: Market,
  solver: MilpSolver,
  options: PurchaseOptions,
): Promise<PurchasePlan> {
  const cannotBuy: PurchasePlan['cannotBuy'] = [];
  const putOff: LeftForLater[] = [];
  let entries: Entry[] = tickets.flatMap((ticket) =>
    ticket.requirements.flatMap((requirement): Entry[] => {
      const { ticketId } = ticket;
      const waiting = (inTime: boolean) =>
        waitingFor(ticket, requirement, market, options.seen ?? NOTHING_SEEN, options, inTime);
      if (requirement.when === 'later') {
        const later = waiting(false);
        if (later) putOff.push({ ...later, ticketId, requirementId: requirement.id });
        else cannotBuy.push({ ticketId, requirementId: requirement.id, why: 'no-offer' });
        return [];
      }
      const mayWait = options.mayWait === true && requirement.when !== 'now';
      return [{ ticketId, requirement, waiting: mayWait ? waiting(true) : null }];
    }),
  );
  const listed = new Set(market.offers.map(({ partId }) => partId));
  for (;;) {
    const built = buildProblem(tickets, entries, market, options);
    try {
      const plan = await planOrder(built.problem, solver, options);
      return describe(plan, built, tickets, entries, { cannotBuy, putOff }, options);
    } catch (error) {
      if (!(error instanceof InfeasibleOrder)) throw error;
      const out = new Set(error.requirements);
      entries.forEach((entry, index) => {
        if (out.has(index))
          cannotBuy.push({
            ticketId: entry.ticketId,
            requirementId: entry.requirement.id,
            why: error.together
              ? 'not-enough-together'
              : entry.requirement.alternatives.some(({ partId }) => isListed(partId, listed, market))
                ? 'out-of-stock'
                : 'no-offer',
          });
      });
      entries = entries.filter((_, index) => !out.has(index));
    }
  }
}

/** Whether anybody lists a number, by itself or within a kit, in stock or not. */
const isListed = (partId: PartId, listed: ReadonlySet<string>, { relations }: Market): boolean =>
  listed.has(partId) ||
  relations.some(
    ({ kind, toPartId, fromPartId }) => kind === 'contains' && toPartId === partId && listed.has(fromPartId),
  );

/** A pack as it is, or a kit opened for what is in it: never both. */
type Usable = { offer: Offer; contents: { partId: PartId; perPack: number }[]; stock: number };

type Built = {
  problem: OrderProblem;
  offers: Usable[];
  suppliers: Supplier[];
  modes: ShippingMode[][];
  partIds: PartId[];
};

function buildProblem(
  tickets: readonly PurchaseTicket[],
  entries: readonly Entry[],
  market: Market,
  options: PurchaseOptions,
): Built {
  const partIds = [
    ...new Set([
      ...entries.flatMap(({ requirement }) => requirement.alternatives.map(({ partId }) => partId)),
      ...shelfOf(options).map(({ partId }) => partId),
    ]),
  ];
  const partAt = new Map(partIds.map((id, index) => [id, index]));
  const contains = groupBy(
    market.relations.filter((relation) => relation.kind === 'contains'),
    (relation) => relation.fromPartId,
  );
  const wanted = new Map<PartId, number>();
  for (const { requirement } of entries)
    for (const { partId } of requirement.alternatives)
      wanted.set(partId, (wanted.get(partId) ?? 0) + requirement.quantity);
  const waysToUse = (offer: Offer): Usable[] => {
    const { partId, packQuantity, stockPacks } = offer;
    const whole = { offer, contents: [{ partId, perPack: packQuantity }], stock: stockPacks };
    const inside = (contains.get(partId) ?? []).map(({ toPartId, quantity }) => ({
      partId: toPartId,
      perPack: quantity * packQuantity,
    }));
    // Kits that may be wanted as they are do not count among those that are opened.
    const left = Math.max(0, stockPacks - Math.ceil((wanted.get(partId) ?? 0) / packQuantity));
    // On the shelf a kit is one piece: it is not opened by a plan.
    const opened = offer.supplierId === SHELF.id ? [] : [{ offer, contents: inside, stock: left }];
    return [whole, ...opened].filter(({ contents }) => contents.some((content) => partAt.has(content.partId)));
  };
  const modesOf = groupBy(
    market.modes.filter((mode) => mode.fee.currency === options.currency),
    (mode) => mode.supplierId,
  );
  const suppliers = market.suppliers.filter(
    (supplier) => supplier.minimumOrder.currency === options.currency && modesOf.has(supplier.id),
  );
  const supplierAt = new Map(suppliers.map((supplier, index) => [supplier.id, index]));
  const offers = market.offers
    .filter((offer) => offer.packPrice.currency === options.currency && supplierAt.has(offer.supplierId))
    .flatMap(waysToUse);
  const modes = suppliers.map((supplier) => modesOf.get(supplier.id) ?? []);
  return {
    offers,
    suppliers,
    modes,
    partIds,
    problem: {
      oneMode: options.oneMode,
      jobs: [
        ...tickets.map((ticket) => ({
          needBy: daysBetween(options.today, ticket.needBy),
          latePerDay: ticket.latePerDay.amountMinor,
        })),
        // The shelf waits for nothing.
        { needBy: 0, latePerDay: 0 },
      ],
      requirements: [
        ...entries.map(({ ticketId, requirement, waiting }) => ({
          job: tickets.findIndex((ticket) => ticket.ticketId === ticketId),
          quantity: requirement.quantity,
          alternatives: requirement.alternatives.map(({ partId, adaptation }) => ({
            part: partAt.get(partId) ?? -1,
            adaptation: adaptation.amountMinor,
          })),
          ...(waiting ? { skip: waiting.cost.amountMinor } : {}),
        })),
        ...shelfOf(options).map(({ partId, pieces, later }) => ({
          job: tickets.length,
          quantity: pieces,
          alternatives: [{ part: partAt.get(partId) ?? -1, adaptation: 0 }],
          skip: later.amountMinor,
          // It cannot be filled up out of itself.
          notFrom: suppliers.findIndex(({ id }) => id === SHELF.id),
        })),
      ],
      suppliers: suppliers.map((supplier, index) => ({
        minimumOrder: supplier.minimumOrder.amountMinor,
        modes: (modes[index] ?? []).map((mode) => ({
          fee: mode.fee.amountMinor,
          freeOver: mode.freeOver?.amountMinor ?? null,
          transit: mode.transitDays,
        })),
      })),
      offers: offers.map(({ offer, contents, stock }) => ({
        supplier: supplierAt.get(offer.supplierId) ?? -1,
        price: offer.packPrice.amountMinor,
        contents: contents.flatMap(({ partId, perPack }) => {
          const part = partAt.get(partId);
          return part === undefined ? [] : [{ part, quantity: perPack }];
        }),
        stock,
        handling: offer.handlingDays,
      })),
      arrives: offers.map(({ offer: { supplierId, handlingDays } }) =>
        (modes[supplierAt.get(supplierId) ?? -1] ?? []).map(({ transitDays }) =>
          daysBetween(options.today, arrivalDate(options.today, { handlingDays, transitDays }, options.calendar)),
        ),
      ),
    },
  };
}

function describe(
  plan: OrderPlan,
  built: Built,
  tickets: readonly PurchaseTicket[],
  entries: readonly Entry[],
  { cannotBuy, putOff }: { cannotBuy: PurchasePlan['cannotBuy']; putOff: readonly LeftForLater[] },
  options: PurchaseOptions,
): PurchasePlan {
  const { problem, offers, suppliers, modes, partIds } = built;
  const cash = (minor: number) => money(minor, options.currency);
  const arrives = (offer: number, mode: number) => addDays(options.today, arrivalDay(problem, offer, mode));
  const groups = groupBy(plan.buys, (buy) => `${problem.offers[buy.offer]?.supplier} ${buy.mode}`);
  const orders = [...groups.values()].map((buys): SupplierOrder => {
    const first = buys[0];
    const s = problem.offers[first?.offer ?? -1]?.supplier ?? -1;
    const mode = modes[s]?.[first?.mode ?? -1];
    const lines = buys.map((buy): PurchaseLine => {
      const { offer, contents } = defined(offers[buy.offer], 'the offer that is bought');
      // What is for the shelf is for nobody: it is left over.
      const gives = plan.gives.filter(
        (give) => give.offer === buy.offer && give.mode === buy.mode && give.requirement < entries.length,
      );
      const given = gives.reduce((sum, give) => sum + give.units, 0);
      return {
        offerId: offer.id,
        partId: offer.partId,
        supplierNumber: offer.supplierNumber,
        packs: buy.packs,
        packPrice: offer.packPrice,
        packSize: offer.packQuantity,
        contents,
        linePrice: cash(offer.packPrice.amountMinor * buy.packs),
        for: gives.map((give) => {
          const { ticketId, requirement } = defined(entries[give.requirement], 'whom it is bought for');
          const partId = defined(partIds[give.part], 'the part that is given');
          return {
            ticketId,
            requirementId: requirement.id,
            partId,
            units: give.units,
            perPack: contents.find((content) => content.partId === partId)?.perPack ?? 1,
          };
        }),
        spare: contents.reduce((sum, { perPack }) => sum + perPack * buy.packs, -given),
      };
    });
    const goods = lines.reduce((sum, line) => sum + line.linePrice.amountMinor, 0);
    const free = mode?.freeOver !== undefined && goods >= mode.freeOver.amountMinor;
    return {
      supplierId: defined(suppliers[s], 'the supplier bought from').id,
      modeId: mode?.id ?? '',
      lines,
      goods: cash(goods),
      shipping: cash(free ? 0 : (mode?.fee.amountMinor ?? 0)),
      arrivesOn:
        buys
          .map((buy) => arrives(buy.offer, buy.mode))
          .sort()
          .at(-1) ?? options.today,
    };
  });
  const given = new Set(plan.gives.map(({ requirement }) => requirement));
  const waits = [
    ...entries.flatMap(({ ticketId, requirement, waiting }, index): LeftForLater[] =>
      waiting && !given.has(index) ? [{ ...waiting, ticketId, requirementId: requirement.id }] : [],
    ),
    ...putOff,
  ];
  const dates = groupBy(plan.gives, (give) => entries[give.requirement]?.ticketId);
  return {
    orders,
    tickets: tickets.map((ticket) => {
      const arrivesOn =
        [
          ...(dates.get(ticket.ticketId) ?? []).map((give) => arrives(give.offer, give.mode)),
          ...waits.filter(({ ticketId }) => ticketId === ticket.ticketId).map((wait) => wait.arrivesOn),
        ]
          .sort()
          .at(-1) ?? null;
      return {
        ticketId: ticket.ticketId,
        arrivesOn,
        lateDays: arrivesOn ? Math.max(0, daysBetween(ticket.needBy, arrivesOn)) : 0,
      };
    }),
    cannotBuy,
    goods: cash(plan.goods),
    shipping: cash(plan.shipping),
    adaptation: cash(plan.adaptation),
    lateness: cash(plan.lateness),
    waits,
    forLater: cash(plan.skipped + putOff.reduce((sum, { cost }) => sum + cost.amountMinor, 0)),
    total: cash(planCost(plan) - plan.skipped),
    provenGap: plan.provenGap,
  };
}
