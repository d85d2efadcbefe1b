import type { Delay, PlanDifference, Wish } from '@/core/order';
import type { Money, TicketId } from '@/core/units';
import { formatMoney, formatNumber, listOf, plural } from './format';

type Names = {
  suppliers: readonly { id: string; name: string }[];
  modes: readonly { id: string; supplierId: string; name: string }[];
  parts: readonly { id: string; partNumber: string }[];
};

const nameIn = <Key extends string>(rows: readonly ({ id: string } & Record<Key, string>)[], id: string, key: Key) =>
  rows.find((row) => row.id === id)?.[key] ?? id;

/** What is wished of the plan. */
export function wishWords(wish: Wish, { suppliers, modes, parts }: Names): string {
  const supplier = (id: string) => nameIn(suppliers, id, 'name');
  const part = (id: string) => nameIn(parts, id, 'partNumber');
  const mode = (id: string) => {
    const its = modes.find((one) => one.id === id);
    return its ? `${its.name} from ${supplier(its.supplierId)}` : id;
  };
  switch (wish.kind) {
    case 'not-from':
      return `Nothing from ${supplier(wish.supplierId)}`;
    case 'not-by':
      return `Not by ${mode(wish.modeId)}`;
    case 'only-by':
      return `Only by ${mode(wish.modeId)}`;
    case 'not-number':
      return `Not ${part(wish.partId)}`;
    case 'only-from':
      return `${part(wish.partId)} only from ${supplier(wish.supplierId)}`;
    case 'only-number':
      return `Only ${part(wish.partId)}`;
    case 'now':
      return `${part(wish.partId)} in this order`;
    case 'later':
      return `${part(wish.partId)} in a later order`;
    case 'not-offer':
      return 'Not this offer';
  }
}

/** How far a supplier's days were to be relied on; null where none of its parcels came yet. */
export function delayWords(delay: Delay | null): string | null {
  if (!delay || delay.parcels === 0) return null;
  const { parcels, late, daysLate } = delay;
  if (late === 0) return `${parcels === 1 ? 'Its one parcel' : `All of its ${parcels} parcels`} so far came in time.`;
  return `So far ${late} of ${plural(parcels, 'parcel')} came late, by ${formatNumber(daysLate / late, 1)} days on average.`;
}

const more = ({ amountMinor, currency }: Money, of: string): string[] =>
  amountMinor === 0
    ? []
    : [`${of} ${formatMoney({ amountMinor: Math.abs(amountMinor), currency })} ${amountMinor > 0 ? 'more' : 'less'}`];

/** Why a line stands where it stands: what the best plan without it costs. `otherwise`: what it then does, as "Elsewhere". */
export function reasonWords(
  { goods, shipping, adaptation, lateness, forLater, total, days, cannotBuy }: PlanDifference,
  otherwise: string,
  numberOf: (id: TicketId) => number | string,
): string {
  if (cannotBuy.length) return `${otherwise} ${plural(cannotBuy.length, 'part')} could not be had at all.`;
  const later = days.map(
    ({ ticketId, days: by }) =>
      `ticket ${numberOf(ticketId)}: ${plural(Math.abs(by), 'day')} ${by > 0 ? 'later' : 'earlier'}`,
  );
  const parts = [
    ...more(goods, 'goods'),
    ...more(shipping, 'shipping'),
    ...more(adaptation, 'making it fit'),
    ...more(lateness, 'waiting'),
    ...more(forLater, 'parts left for later'),
    ...later,
  ];
  const how = parts.length ? `: ${listOf(parts)}` : '';
  if (total.amountMinor === 0) return `${otherwise} the plan would be as good${how}.`;
  const by = formatMoney({ ...total, amountMinor: Math.abs(total.amountMinor) });
  return total.amountMinor > 0
    ? `${otherwise} the plan would cost ${by} more${how}.`
    : `${otherwise} a plan was found that costs ${by} less${how}: work it out again with that wish.`;
}
