import { expose } from 'comlink';
import type { Settings } from '@/core/case';
import type { Catalogue, RoleProperty } from '@/core/catalogue';
import {
  checkIn,
  createHighsSolver,
  planPurchases,
  type CheckInVerdict,
  type MilpSolver,
  type PurchasePlan,
  type PurchaseTicket,
} from '@/core/order';
import { unordered } from '@/core/ticket';
import { addDays, localDateOf, zeroMoney } from '@/core/units';
import { activeEdition, database, EditionReader, loadTicket } from '@/store';

let solver: Promise<MilpSolver> | null = null;

const BUDGET_MS = 8000;

export type PlannedPurchases = {
  plan: PurchasePlan;
  parts: Catalogue['parts'];
  suppliers: Catalogue['suppliers'];
  modes: Catalogue['shipping_modes'];
  tickets: { ticketId: string; number: number; machine: string }[];
};

/** What may be measured on a part, what its number is listed with, and what the caliper said about the old part. */
export type PartSizes = {
  properties: RoleProperty[];
  listed: Record<string, string>;
  old: Record<string, string>;
};

export type CheckedIn = CheckInVerdict & { carryOver: string[]; prepare: string[] };

const api = {
  /** One plan over all open tickets that still need something. null when nothing is needed. Blocks this worker while it solves: cancel by terminating. */
  async plan(settings: Settings, now: string): Promise<PlannedPurchases | null> {
    const db = database();
    const edition = await activeEdition(db);
    if (!edition) return null;
    const reader = new EditionReader(db, edition);
    const today = localDateOf(now, settings.zone);
    const open = await db.summaries.where('[kind+open]').equals(['ticket', 1]).toArray();
    const states = (
      await Promise.all(open.map((record) => (record.kind === 'ticket' ? loadTicket(record.summary.ticketId) : null)))
    ).flatMap((loaded) => (loaded ? [loaded.state] : []));
    const needing = states.filter((state) => state.answer?.answer === 'yes' && unordered(state).length > 0);
    if (needing.length === 0) return null;
    const tickets = needing.map((state): PurchaseTicket => ({
      ticketId: state.ticketId,
      needBy: addDays(localDateOf(state.answer?.at ?? now, settings.zone), settings.promiseDays - 1),
      latePerDay: settings.latePerDay,
      requirements: unordered(state).flatMap((part) =>
        part.buy.map((bought) => ({
          id: part.requirementId,
          quantity: bought.quantity,
          alternatives: [bought, ...part.alternatives].map(({ partId, adaptation }) => ({
            partId,
            adaptation: adaptation ?? zeroMoney(settings.currency),
          })),
        })),
      ),
    }));
    const partIds = tickets.flatMap((ticket) =>
      ticket.requirements.flatMap((requirement) => requirement.alternatives.map((alternative) => alternative.partId)),
    );
    const [near, suppliers, modes] = await Promise.all([
      reader.partsWith(partIds),
      reader.table('suppliers'),
      reader.table('shipping_modes'),
    ]);
    solver ??= createHighsSolver();
    const plan = await planPurchases(
      tickets,
      { suppliers, modes, offers: near.offers, relations: near.relations },
      await solver,
      { today, currency: settings.currency, oneMode: false, budgetMs: BUDGET_MS, clock: () => performance.now() },
    );
    return {
      plan,
      parts: near.parts,
      suppliers,
      modes,
      tickets: needing.map((state) => ({
        ticketId: state.ticketId,
        number: state.number,
        machine: state.plate ? `${state.plate.badge} ${state.plate.modelNumber}` : '',
      })),
    };
  },

  /** Is what arrived what was ordered; and what its role asks to keep of the old part and to prepare on the new one. */
  async checkIn(orderedPartId: string, orderedNumber: string, numberRead: string): Promise<CheckedIn | null> {
    const edition = await activeEdition(database());
    if (!edition) return null;
    const reader = new EditionReader(database(), edition);
    const [near, roles] = await Promise.all([reader.partsWith([orderedPartId]), reader.table('roles')]);
    const roleId = near.parts.find((part) => part.id === orderedPartId)?.roleId;
    const role = roles.find((entry) => entry.id === roleId);
    return {
      ...checkIn(near, orderedPartId, orderedNumber, numberRead),
      carryOver: role?.carryOver ?? [],
      prepare: role?.prepare ?? [],
    };
  },

  /** The sizes and ratings that matter for a part's role. `ticketIds`: the machines it is for. */
  async sizes(partId: string, ticketIds: readonly string[]): Promise<PartSizes> {
    const edition = await activeEdition(database());
    if (!edition) return { properties: [], listed: {}, old: {} };
    const reader = new EditionReader(database(), edition);
    const [near, properties, tickets] = await Promise.all([
      reader.partsWith([partId]),
      reader.table('role_properties'),
      Promise.all(ticketIds.map((ticketId) => loadTicket(ticketId))),
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
