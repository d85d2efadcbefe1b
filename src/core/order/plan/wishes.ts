import {
  addMoney,
  daysBetween,
  money,
  type Money,
  type PartId,
  type RequirementId,
  type SupplierId,
  type TicketId,
} from '../../units';
import { planPurchases, type PurchaseOptions, type PurchasePlan } from './planPurchases';
import type { MilpSolver } from './solver';
import type { Market, PurchaseTicket } from './wanted';

/** What a person wants of the plan, whatever it costs. */
export type Wish =
  | { kind: 'not-from'; supplierId: SupplierId }
  | { kind: 'not-by'; modeId: string }
  | { kind: 'only-by'; supplierId: SupplierId; modeId: string }
  | { kind: 'not-number'; partId: PartId }
  | { kind: 'only-from'; partId: PartId; supplierId: SupplierId }
  | { kind: 'only-number'; requirementId: RequirementId; partId: PartId }
  | { kind: 'now' | 'later'; requirementId: RequirementId; partId: PartId }
  | { kind: 'not-offer'; offerId: string };

type World = { tickets: readonly PurchaseTicket[]; market: Market };

/** The same tickets and market with what the wishes forbid left out. A wish for a number that a requirement does not take changes nothing. O(wishes × offers). */
export const withWishes = (world: World, wishes: readonly Wish[]): World => wishes.reduce(withWish, world);

function withWish({ tickets, market }: World, wish: Wish): World {
  const offers = (keep: (offer: Market['offers'][number]) => boolean): World => ({
    tickets,
    market: { ...market, offers: market.offers.filter(keep) },
  });
  const modes = (keep: (mode: Market['modes'][number]) => boolean): World => ({
    tickets,
    market: { ...market, modes: market.modes.filter(keep) },
  });
  switch (wish.kind) {
    case 'not-from':
      return offers(({ supplierId }) => supplierId !== wish.supplierId);
    case 'not-by':
      return modes(({ id }) => id !== wish.modeId);
    case 'only-by':
      return modes(({ id, supplierId }) => supplierId !== wish.supplierId || id === wish.modeId);
    case 'not-offer':
      return offers(({ id }) => id !== wish.offerId);
    case 'not-number':
      return offers(({ partId }) => partId !== wish.partId);
    case 'only-from':
      return offers(({ partId, supplierId }) => partId !== wish.partId || supplierId === wish.supplierId);
    case 'now':
    case 'later':
      return {
        market,
        tickets: tickets.map((ticket) => ({
          ...ticket,
          requirements: ticket.requirements.map((requirement) =>
            requirement.id === wish.requirementId ? { ...requirement, when: wish.kind } : requirement,
          ),
        })),
      };
    case 'only-number':
      return {
        market,
        tickets: tickets.map((ticket) => ({
          ...ticket,
          requirements: ticket.requirements.map((requirement) => {
            const only = requirement.alternatives.filter(({ partId }) => partId === wish.partId);
            return requirement.id === wish.requirementId && only.length
              ? { ...requirement, alternatives: only }
              : requirement;
          }),
        })),
      };
  }
}

/** Another plan less this one: money, and the days by which each ticket's parts come later (earlier below 0). */
export type PlanDifference = Record<'goods' | 'shipping' | 'adaptation' | 'lateness' | 'forLater' | 'total', Money> & {
  days: { ticketId: TicketId; days: number }[];
  /** Requirements that the other plan cannot buy and this one can. */
  cannotBuy: RequirementId[];
};

/** O(tickets). */
export function planDifference(other: PurchasePlan, plan: PurchasePlan): PlanDifference {
  const by = (of: 'goods' | 'shipping' | 'adaptation' | 'lateness' | 'forLater' | 'total') =>
    money(other[of].amountMinor - plan[of].amountMinor, plan[of].currency);
  const have = new Set(plan.cannotBuy.map(({ requirementId }) => requirementId));
  return {
    goods: by('goods'),
    shipping: by('shipping'),
    adaptation: by('adaptation'),
    lateness: by('lateness'),
    forLater: by('forLater'),
    // What is left for later is paid then.
    total: addMoney(by('total'), by('forLater')),
    days: plan.tickets.flatMap(({ ticketId, arrivesOn }) => {
      const then = other.tickets.find((one) => one.ticketId === ticketId)?.arrivesOn;
      const days = arrivesOn && then ? daysBetween(arrivesOn, then) : 0;
      return days ? [{ ticketId, days }] : [];
    }),
    cannotBuy: other.cannotBuy.map(({ requirementId }) => requirementId).filter((id) => !have.has(id)),
  };
}

/** What of a plan can be asked why: a line's offer, or how an order is sent. */
export type PlanAspect = { of: 'offer' | 'mode'; id: string };
/** Why it is in the plan: what the best plan without it costs more. */
export type PlanReason = PlanAspect & { without: PlanDifference };

/** Every line, and every mode. */
export const aspectsOf = ({ orders }: PurchasePlan): PlanAspect[] =>
  orders.flatMap(({ lines, modeId }): PlanAspect[] => [
    ...lines.map(({ offerId }) => ({ of: 'offer' as const, id: offerId })),
    { of: 'mode', id: modeId },
  ]);

/**
 * Why one thing is in a plan: by the best plan that must do without it, so that what is named as saved is the difference of two solved plans. As good as those plans are: within
 * their budget each. One plan.
 */
export async function explainAspect(
  { of, id }: PlanAspect,
  plan: PurchasePlan,
  world: World,
  solver: MilpSolver,
  options: PurchaseOptions,
): Promise<PlanReason> {
  const { tickets, market } = withWish(
    world,
    of === 'offer' ? { kind: 'not-offer', offerId: id } : { kind: 'not-by', modeId: id },
  );
  return { of, id, without: planDifference(await planPurchases(tickets, market, solver, options), plan) };
}
