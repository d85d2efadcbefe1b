import type { Catalogue } from '../catalogue';
import {
  demandOf,
  keepLevel,
  noDemand,
  packsToFill,
  type Demand,
  type KeepLevel,
  type StockState,
  type Use,
} from '../stock';
import { acceptedOption, needsOf, type TicketState } from '../ticket';
import { keyBy, money, sum, type LocalDate, type Money, type PartId, type SupplierId, type TicketId } from '../units';
import type { Weighed } from './assessment';
import { bestPurchase, marketOf, partsOfCause } from './pricing';
import type { Settings } from './settings';

/** A part that an open machine may take. */
export type PossibleNeed = { partId: PartId; ticketId: TicketId; number: number; chance: number };

/** Causes below this are not worth a look at their parts. */
const WORTH_A_LOOK = 0.02;

/**
 * What an open machine may still take and nobody ordered yet, with the chance of each: the chance of the cause, of the number, and of the customer's yes. Where a yes
 * was given, what it needs is on the order plan and not here. O(causes × fits).
 */
export function possibleNeeds(
  catalogue: Catalogue,
  state: TicketState,
  { machine, causes, lore }: Pick<Weighed, 'machine' | 'causes' | 'lore'>,
  yes: number,
  settings: Settings,
  today: LocalDate,
): PossibleNeed[] {
  const { round, ticketId, number } = state;
  if (state.closed || round.finished || round.answer?.answer === 'no' || acceptedOption(round)) return [];
  const chances = new Map<PartId, number>();
  const add = (partId: PartId, chance: number) =>
    chances.set(partId, 1 - (1 - (chances.get(partId) ?? 0)) * (1 - chance));
  if (round.partsOn)
    for (const { requirement, supply } of needsOf(state)) {
      if (supply.missing > 0 && requirement.route !== 'donor') add(requirement.bought.partId, yes);
    }
  else {
    const question = { models: machine.candidates, serial: state.serial, today, measured: state.measured };
    const known = keyBy(lore.causes, ({ id }) => id);
    for (const { causeId, probability } of causes.causes) {
      const cause = known.get(causeId);
      if (!cause || probability < WORTH_A_LOOK) continue;
      const { main, companions } = partsOfCause(catalogue, question, cause, settings);
      for (const answer of [...(main ? [main] : []), ...companions]) {
        const [lead] = answer.candidates;
        if (!lead || lead.route === 'typed') continue;
        for (const { partId } of lead.buy) add(partId, probability * lead.probability * yes);
      }
    }
  }
  return [...chances].map(([partId, chance]) => ({ partId, ticketId, number, chance }));
}

export type KeepRow = {
  partId: PartId;
  partNumber: string;
  description: string;
  /** Pieces on the shelf that nobody has a claim to, and pieces ordered for the shelf. */
  free: number;
  coming: number;
  uses: number;
  needs: PossibleNeed[];
  level: KeepLevel;
  leadDays: number;
  unitCost: Money;
  supplierId: SupplierId;
  packSize: number;
  /** Packs that are missing; 0: enough is there. */
  packs: number;
  /** What another piece is worth over what it costs: by how much one too few costs more, with its chance, than one too many. Minor units, ≥ 0. */
  gain: number;
};

export type KeepQuestion = {
  catalogue: Pick<Catalogue, 'parts' | 'offers' | 'shipping_modes'>;
  lots: readonly StockState[];
  uses: readonly Use[];
  needs: readonly PossibleNeed[];
  /** Pieces under way that no ticket waits for. */
  coming: ReadonlyMap<PartId, number>;
  /** The records reach back to this day. */
  from: LocalDate;
  today: LocalDate;
  settings: Settings;
};

/**
 * What to keep on the shelf, number by number: of everything that was used, may be asked for or lies there. What pays most to order first; then what is kept. Numbers that
 * nobody sells in this currency are left out. O(numbers × pieces).
 */
export function whatToKeep(question: KeepQuestion): KeepRow[] {
  const { catalogue, lots, uses, needs, coming, from, today, settings } = question;
  const market = marketOf(settings, today);
  const parts = keyBy(catalogue.parts, ({ id }) => id);
  const demands = demandOf(uses, needs, from, today);
  const there = new Set(lots.flatMap(({ partId, used }) => (partId && !used ? [partId] : [])));
  return [...new Set([...demands.keys(), ...there])]
    .flatMap((partId): KeepRow[] => {
      const part = parts.get(partId);
      const purchase = bestPurchase(catalogue, partId, 1, market);
      if (!part || !purchase) return [];
      const { offer } = purchase;
      const demand: Demand = demands.get(partId) ?? noDemand(from, today);
      const unitCost = money(Math.round(offer.packPrice.amountMinor / offer.packQuantity), offer.packPrice.currency);
      const leadDays = Math.max(0, purchase.days);
      const level = keepLevel(demand, {
        leadDays,
        unitCost,
        waitingPerDay: settings.latePerDay,
        holdingShare: settings.holdingBasisPoints / 10_000,
      });
      const free = sum(lots.filter((lot) => lot.partId === partId && !lot.used).map((lot) => lot.free));
      const under = coming.get(partId) ?? 0;
      const packs = packsToFill(level.level, free, under, offer.packQuantity);
      return [
        {
          partId,
          partNumber: part.partNumber,
          description: part.description,
          free,
          coming: under,
          uses: demand.uses,
          needs: needs.filter((need) => need.partId === partId),
          level,
          leadDays,
          unitCost,
          supplierId: offer.supplierId,
          packSize: offer.packQuantity,
          packs,
          gain: packs > 0 ? gainOf(level, free + under) : 0,
        },
      ];
    })
    .sort((a, b) => b.gain - a.gain || b.level.level - a.level.level || b.level.expected - a.level.expected);
}

/** What the first missing piece is worth: with what chance it would be one too few, and else one too many. */
function gainOf({ under, over, short }: KeepLevel, there: number): number {
  const asked = short[there] ?? 0;
  return Math.max(0, Math.round(asked * under - (1 - asked) * over));
}
