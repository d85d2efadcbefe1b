import { compose, fromScratch, possibleNeeds, whatToKeep, type PossibleNeed } from '@/core/case';
import { fellAway, spareOf, type ShelfWant } from '@/core/order';
import { SHELF, type Use } from '@/core/stock';
import { localDateOf, money, unique, type Instant, type LocalDate, type PartId } from '@/core/units';
import { database, eventStore, loadSettings, type SummaryRecord } from '@/store';
import { lotsOnShelf, readerOfToday, worldOf } from './world';

/*
 * What is asked of the shelf today: for the shelf's own page, and for the order plan.
 */

type TicketRecord = Extract<SummaryRecord, { kind: 'ticket' }>;

const recordsOf = async (open: 0 | 1): Promise<TicketRecord[]> =>
  (await database().summaries.where('[kind+open]').equals(['ticket', open]).toArray()).flatMap((record) =>
    record.kind === 'ticket' ? [record] : [],
  );

/** Parts that were fitted, by the day. */
const usesOf = (records: readonly TicketRecord[], zone: string): Use[] =>
  records.flatMap(({ lesson: { fitted, at } }) =>
    fitted.map(({ partId, quantity }) => ({ partId, units: quantity, at: localDateOf(at, zone) })),
  );

/** Share of answered offers with a yes: the mean of a Beta distribution that begins at one of each. */
function yesShare(records: readonly TicketRecord[]): number {
  const answers = records.flatMap(({ lesson }) => lesson.closed?.record?.answer ?? []);
  const yes = answers.filter((answer) => answer === 'yes').length;
  return (1 + yes) / (2 + answers.filter((answer) => answer !== 'thinking').length);
}

/** What is asked of the shelf: by use, by open machines, and over what time. */
export async function demandToday(now: Instant) {
  const [closed, open, settings] = await Promise.all([recordsOf(0), recordsOf(1), loadSettings()]);
  const today = localDateOf(now, settings.zone);
  const from = closed.reduce<LocalDate>((first, { lesson }) => {
    const day = localDateOf(lesson.closed?.record?.openedAt ?? lesson.at, settings.zone);
    return day < first ? day : first;
  }, today);
  return {
    closed,
    open,
    settings,
    today,
    from,
    uses: usesOf([...closed, ...open], settings.zone),
    yes: yesShare(closed),
  };
}

export async function needsOfOpen(open: readonly TicketRecord[], yes: number, now: Instant, today: LocalDate) {
  const from = await readerOfToday();
  const needs: PossibleNeed[] = [];
  let guessed = 0;
  for (const { summary } of open) {
    const ticket = await eventStore().ticket(summary.ticketId);
    if (!ticket) continue;
    const world = await worldOf(ticket.state, from);
    const weighed = compose(fromScratch, world, ticket.state, now);
    if (weighed.kind === 'unread') continue;
    const own = possibleNeeds(world.catalogue, ticket.state, weighed, yes, world.settings, today);
    if (own.length) guessed += 1;
    needs.push(...own);
  }
  return { needs, guessed };
}

/** Pieces that are ordered and no ticket waits for. */
async function comingForShelf(): Promise<Map<PartId, number>> {
  const orders = await database().summaries.where('[kind+open]').equals(['order', 1]).toArray();
  const coming = new Map<PartId, number>();
  for (const record of orders)
    for (const line of record.kind === 'order' ? record.summary.lines : []) {
      if (line.outstanding === 0 || fellAway(line)) continue;
      for (const { partId, units } of spareOf(line, line.packs - line.outstanding, line.outstanding))
        coming.set(partId, (coming.get(partId) ?? 0) + units);
    }
  return coming;
}

/** What to keep, number by number. Weighs every open machine. */
export async function keepToday(now: Instant) {
  const demand = await demandToday(now);
  const { open, settings, today, from, uses, yes } = demand;
  const [reader, lots, coming, { needs, guessed }] = await Promise.all([
    readerOfToday(),
    lotsOnShelf(),
    comingForShelf(),
    needsOfOpen(open, yes, now, today),
  ]);
  const here = lots.filter(({ units }) => units > 0);
  const wanted = unique([
    ...uses.map(({ partId }) => partId),
    ...needs.map(({ partId }) => partId),
    ...here.flatMap(({ partId }) => partId ?? []),
  ]);
  const [{ parts, offers }, suppliers, shipping_modes] = await Promise.all([
    reader.partsWith(wanted),
    reader.table('suppliers'),
    reader.table('shipping_modes'),
  ]);
  const keep = whatToKeep({
    // What a list says of the shelf is no place to fill it up from.
    catalogue: { parts, offers: offers.filter(({ supplierId }) => supplierId !== SHELF.id), shipping_modes },
    lots: here,
    uses,
    needs,
    coming,
    from,
    today,
    settings,
  });
  return { keep, suppliers, here, needs, guessed, demand };
}

/** What the shelf lacks, with what it costs to leave it for later. */
export async function shelfWants(now: Instant): Promise<ShelfWant[]> {
  const { keep } = await keepToday(now);
  return keep.flatMap(({ partId, packs, packSize, unitCost, gain }) =>
    packs > 0 && gain > 0
      ? [
          {
            partId,
            pieces: packs * packSize,
            later: money(packs * packSize * unitCost.amountMinor + gain, unitCost.currency),
          },
        ]
      : [],
  );
}
