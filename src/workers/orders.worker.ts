import { expose } from 'comlink';
import type { RoleProperty } from '@/core/catalogue';
import { windowsOf, type BuildWindow } from '@/core/fit';
import {
  checkIn,
  aspectsOf,
  createHighsSolver,
  explainAspect,
  orderHabits,
  parcelsOf,
  planDifference,
  supplierDelays,
  withWishes,
  planPurchases,
  type CheckInVerdict,
  type Delay,
  type MilpSolver,
  type OrderDraft,
  type OrderState,
  type PlacedLine,
  type PlanAspect,
  type PlanDifference,
  type PlanReason,
  type Wish,
  type PurchasePlan,
  type PurchaseTicket,
  type ShelfWant,
} from '@/core/order';
import { withStock } from '@/core/stock';
import { acceptedOption, machineName, mayBuy, toBuy, type TicketState } from '@/core/ticket';
import {
  addDays,
  localDateOf,
  unique,
  zeroMoney,
  type Instant,
  type LocalDate,
  type PartId,
  type SupplierId,
  type OrderId,
  type LineId,
  type TicketId,
  type RequirementId,
} from '@/core/units';
import { catalogueOf, database, eventStore, loadSettings, lotsOf, type CatalogueReader } from '@/store';
import { shelfWants } from './shelfDemand';

let solver: Promise<MilpSolver> | null = null;

const BUDGET_MS = 8000;
/** For each plan that a reason is taken from. */
const EXPLAIN_MS = 1500;

/** What is asked of a plan. */
export type PlanAsked = {
  wishes?: readonly Wish[];
  /** And what the shelf lacks, where that pays. */
  fillsShelf?: boolean;
  /** And leave for a later order what still comes in time, where that pays. */
  mayWait?: boolean;
};

export type PlannedPurchases = {
  plan: PurchasePlan;
  /** What of it can be asked why. */
  aspects: PlanAspect[];
  /** What the shelf lacked when it was made. */
  shelf: readonly ShelfWant[];
  /** Whether parts could be left for a later order. */
  mayWait: boolean;
  /** The plan against the best one without the wishes; null without any. */
  wished: PlanDifference | null;
  /** The orders with the names they are written down with. */
  orders: OrderDraft[];
  /** What a requirement is called, for what cannot be bought. */
  wanted: { ticketId: TicketId; requirementId: RequirementId; partNumber: string; description: string }[];
  tickets: { ticketId: TicketId; number: number; machine: string }[];
  /** What a wish may name, and how late its suppliers came so far. */
  market: {
    suppliers: { id: SupplierId; name: string; delay: Delay | null }[];
    modes: { id: string; supplierId: SupplierId; name: string }[];
    /** Of the numbers that are wanted: what they are called, and who sells them. */
    parts: { id: PartId; partNumber: string; suppliers: SupplierId[] }[];
    /** Numbers that a requirement takes. */
    takes: { requirementId: RequirementId; partIds: PartId[] }[];
  };
  /** Tickets that need parts but have a decision to look at again first. */
  shaken: { ticketId: TicketId; number: number }[];
};

/** What may be measured on a part, what its number is listed with, and what the caliper said about the old part. */
export type PartSizes = {
  properties: RoleProperty[];
  listed: Record<string, string>;
  old: Record<string, string>;
};

export type CheckedIn = CheckInVerdict & { carryOver: string[]; prepare: string[] };

/** When each machine that a line is for may have been built. */
async function machinesOf(reader: CatalogueReader, line: PlacedLine, today: LocalDate): Promise<BuildWindow[][]> {
  const serial_schemes = await reader.table('serial_schemes');
  const tickets = await Promise.all(
    [...new Set(line.for.map(({ ticketId }) => ticketId))].map((id) => eventStore().ticket(id)),
  );
  const windows = await Promise.all(
    tickets.map(async (ticket): Promise<BuildWindow[]> => {
      const plate = ticket?.state.plate;
      const [model] = plate ? await reader.models([plate.modelId]) : [];
      return model ? windowsOf({ serial_schemes }, model, { serial: ticket?.state.serial, today }) : [];
    }),
  );
  return windows.filter(({ length }) => length > 0);
}

/** All open tickets that still need something bought, and where it can be. null where nothing is. */
async function questionOf(now: Instant, shelf: readonly ShelfWant[], mayWait: boolean) {
  const db = database();
  const [reader, settings] = await Promise.all([catalogueOf(db), loadSettings()]);
  const store = eventStore();
  const open = await db.summaries.where('[kind+open]').equals(['ticket', 1]).toArray();
  const states = (
    await Promise.all(open.map((record) => (record.kind === 'ticket' ? store.ticket(record.summary.ticketId) : null)))
  ).flatMap((loaded) => (loaded ? [loaded.state] : []));
  const needing = states.filter((state) => acceptedOption(state.round) !== null && toBuy(state).length > 0);
  if (needing.length === 0 && shelf.length === 0) return null;
  const ready = needing.filter((state) => mayBuy(state).ok);
  const tickets = ready.map((state): PurchaseTicket => ({
    ticketId: state.ticketId,
    needBy: addDays(localDateOf(state.round.answer?.at ?? now, settings.zone), settings.promiseDays - 1),
    latePerDay: settings.latePerDay,
    requirements: toBuy(state).map(({ requirement, supply }) => ({
      id: requirement.requirementId,
      quantity: supply.missing,
      alternatives: [requirement.bought, ...requirement.alternatives].map(({ partId, adaptation }) => ({
        partId,
        adaptation: adaptation ?? zeroMoney(settings.currency),
      })),
    })),
  }));
  const partIds = [
    ...tickets.flatMap((ticket) =>
      ticket.requirements.flatMap((requirement) => requirement.alternatives.map((alternative) => alternative.partId)),
    ),
    ...shelf.map(({ partId }) => partId),
  ];
  const today = localDateOf(now, settings.zone);
  const [near, listed, carriers, lots, made] = await Promise.all([
    reader.partsWith(partIds),
    reader.table('suppliers'),
    reader.table('shipping_modes'),
    lotsOf(db),
    ordersMade(),
  ]);
  const {
    suppliers,
    shipping_modes: modes,
    offers,
  } = withStock({ suppliers: listed, shipping_modes: carriers, offers: near.offers }, lots, settings.currency);
  const seen = {
    habits: orderHabits(
      made.map(({ supplierId, madeAt }) => ({ supplierId, on: localDateOf(madeAt, settings.zone) })),
      suppliers.map(({ id }) => id),
      today,
    ),
    delays: supplierDelays(parcelsOf(made, settings.zone)),
  };
  solver ??= createHighsSolver();
  return {
    ready,
    shaken: needing.filter((state) => !mayBuy(state).ok),
    near,
    suppliers,
    modes,
    tickets,
    market: { suppliers, modes, offers, relations: near.relations },
    delays: seen.delays,
    solver: await solver,
    options: (budgetMs: number) => ({
      today,
      currency: settings.currency,
      oneMode: false,
      mayWait,
      seen,
      calendar: settings,
      shelf,
      budgetMs,
      clock: () => performance.now(),
    }),
  };
}

/** All orders that were ever made. */
const ordersMade = async (): Promise<OrderState[]> =>
  (
    await database()
      .summaries.where('[kind+open]')
      .anyOf([
        ['order', 0],
        ['order', 1],
      ])
      .toArray()
  ).flatMap((record) => (record.kind === 'order' ? [record.summary] : []));

const named = ({ ticketId, number }: TicketState) => ({ ticketId, number });

const api = {
  /** Why one line or mode of the plan is in it. null when nothing is needed any more. Blocks this worker while it solves: cancel by terminating. */
  async explain(
    aspect: PlanAspect,
    plan: PurchasePlan,
    wishes: readonly Wish[],
    shelf: readonly ShelfWant[],
    mayWait: boolean,
    now: Instant,
  ): Promise<PlanReason | null> {
    const question = await questionOf(now, shelf, mayWait);
    if (!question) return null;
    const world = withWishes(question, wishes);
    return explainAspect(aspect, plan, world, question.solver, question.options(EXPLAIN_MS));
  },

  /**
   * One plan over all open tickets that still need something, and what the shelf lacks where that is asked for, less what may wait, around what is wished of it. null when nothing is needed. Blocks this worker while it solves: cancel by terminating.
   */
  async plan(
    now: Instant,
    { wishes = [], fillsShelf = false, mayWait = false }: PlanAsked = {},
  ): Promise<PlannedPurchases | null> {
    const shelf = fillsShelf ? await shelfWants(now) : [];
    const question = await questionOf(now, shelf, mayWait);
    if (!question) return null;
    const { ready, shaken, near, market } = question;
    const { suppliers, modes, offers } = market;
    const solve = ({ tickets, market }: ReturnType<typeof withWishes>) =>
      planPurchases(tickets, market, question.solver, question.options(BUDGET_MS));
    const plan = await solve(withWishes(question, wishes));
    const wished = wishes.length ? planDifference(plan, await solve(question)) : null;
    const parts = new Map(near.parts.map(({ id, partNumber, description }) => [id, { partNumber, description }]));
    return {
      plan,
      shelf,
      mayWait,
      aspects: aspectsOf(plan),
      wished,
      orders: plan.orders.map((order): OrderDraft => ({
        ...order,
        supplierName: suppliers.find(({ id }) => id === order.supplierId)?.name ?? order.supplierId,
        byHand: suppliers.find(({ id }) => id === order.supplierId)?.orders !== 'online',
        modeName: modes.find(({ id }) => id === order.modeId)?.name ?? '',
        parts: new Map(
          order.lines
            .flatMap(({ partId, contents }) => [partId, ...contents.map((content) => content.partId)])
            .flatMap((partId) => {
              const part = parts.get(partId);
              return part ? [[partId, part] as const] : [];
            }),
        ),
      })),
      wanted: ready.flatMap((state) =>
        toBuy(state).map(({ requirement: { requirementId, bought } }) => ({
          ticketId: state.ticketId,
          requirementId,
          partNumber: bought.partNumber,
          description: bought.description,
        })),
      ),
      tickets: ready.map((state) => ({
        ...named(state),
        machine: machineName(state),
      })),
      shaken: shaken.map(named),
      market: {
        suppliers: suppliers.map(({ id, name }) => ({ id, name, delay: question.delays.get(id) ?? null })),
        modes: modes.map(({ id, supplierId, name }) => ({ id, supplierId, name })),
        parts: near.parts.map(({ id, partNumber }) => ({
          id,
          partNumber,
          suppliers: unique(offers.filter(({ partId }) => partId === id).map(({ supplierId }) => supplierId)),
        })),
        takes: question.tickets.flatMap(({ requirements }) =>
          requirements.map(({ id, alternatives }) => ({
            requirementId: id,
            partIds: alternatives.map(({ partId }) => partId),
          })),
        ),
      },
    };
  },

  /** Is what arrived what was ordered, for every machine that the line is for; and what its role asks to keep of the old part and to prepare on the new one. */
  async checkIn(orderId: OrderId, lineId: LineId, numberRead: string, now: Instant): Promise<CheckedIn | null> {
    const db = database();
    const store = eventStore();
    const [reader, order, { zone }] = await Promise.all([catalogueOf(db), store.order(orderId), loadSettings()]);
    const line = order?.state.lines.find((entry) => entry.lineId === lineId);
    if (!line) return null;
    const [near, roles, machines] = await Promise.all([
      reader.partsWith([...new Set([line.partId, line.answeredPartId])]),
      reader.table('roles'),
      machinesOf(reader, line, localDateOf(now, zone)),
    ]);
    const roleId = near.parts.find((part) => part.id === line.partId)?.roleId;
    const role = roles.find((entry) => entry.id === roleId);
    // The supplier said that another number comes: that one is as good as ordered.
    const announced =
      line.answeredPartId === line.partId
        ? null
        : checkIn(near, line.answeredPartId, line.answeredNumber, numberRead, machines);
    const verdict: CheckInVerdict =
      announced && announced.verdict !== 'wrong'
        ? { ...announced, verdict: 'same-by-reference' }
        : checkIn(near, line.partId, line.partNumber, numberRead, machines);
    return { ...verdict, carryOver: role?.carryOver ?? [], prepare: role?.prepare ?? [] };
  },

  /** Share of the price that a supplier keeps of a part that was right. */
  async restocking(supplierId: SupplierId): Promise<number> {
    const suppliers = await (await catalogueOf(database())).table('suppliers');
    return suppliers.find(({ id }) => id === supplierId)?.restocking ?? 0;
  },

  /** The sizes and ratings that matter for a part's role. `ticketIds`: the machines it is for. */
  async sizes(partId: PartId, ticketIds: readonly TicketId[]): Promise<PartSizes> {
    const reader = await catalogueOf(database());
    const [near, properties, tickets] = await Promise.all([
      reader.partsWith([partId]),
      reader.table('role_properties'),
      Promise.all(ticketIds.map((ticketId) => eventStore().ticket(ticketId))),
    ]);
    const roleId = near.parts.find((part) => part.id === partId)?.roleId ?? '';
    const own = near.part_properties.filter((property) => property.partId === partId);
    return {
      properties: properties.filter((property) => property.roleId === roleId),
      listed: Object.fromEntries(own.map(({ property, value }) => [property, value])),
      old: Object.assign({}, ...tickets.map((ticket) => ticket?.state.measured[roleId] ?? {})) as Record<
        string,
        string
      >,
    };
  },
};

export type OrdersApi = typeof api;
expose(api);
