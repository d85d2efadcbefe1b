import { stock } from '../../stock';
import type { Context } from '../../ticket';
import { fail, ok, sum, type LineId, type RequirementId, type TicketId } from '../../units';
import { fellAway, type OrderEventOf, type OrderState, type PlacedLine } from '../stream/orderStream';
import type { Append, Decision } from './place';
import { openReturn, type ReturnTerms } from './returns';
import { onOrder } from './send';

export type Receipt = {
  lineId: LineId;
  numberRead: string;
  verdict: OrderEventOf<'line-received'>['verdict'];
  packs: number;
  measured: OrderEventOf<'line-received'>['measured'];
  /** Packs beyond what was ordered, and what becomes of them. */
  extra?: { packs: number; to: 'return' | 'shelf' };
};

/**
 * Checks (part of) a line in, for the order and for every ticket that waits for it: units go to the tickets in the order of the line. A wrong part goes
 * back, and the tickets need it again. Pieces of the part itself that nobody waits for become a lot on the shelf.
 */
export function checkInLine(
  order: OrderState,
  { extra, ...receipt }: Receipt,
  context: Pick<Context, 'newId'>,
  terms: ReturnTerms,
): Decision {
  const line = order.lines.find((candidate) => candidate.lineId === receipt.lineId);
  // What was ordered by hand may come without a word before it.
  const comes = order.phase === 'open' || (order.byHand && order.phase === 'unknown');
  if (!line || !comes || fellAway(line) || line.outstanding < receipt.packs || receipt.packs < 1)
    return fail({ kind: 'nothing-to-come', number: order.number });
  const { verdict, numberRead } = receipt;
  const before = line.packs - line.outstanding;
  const isBad = verdict === 'wrong' || verdict === 'damaged';
  const over = isBad ? 0 : overOf(line, before, receipt.packs);
  const beyond = extra?.packs ?? 0;
  return ok([
    onOrder(order, { type: 'line-received', ...receipt }),
    ...(isBad
      ? [
          onOrder(
            order,
            openReturn(
              line,
              {
                lineId: line.lineId,
                packs: receipt.packs,
                why: verdict === 'damaged' ? 'damaged' : 'wrong-part',
                note: numberRead,
              },
              terms,
              context,
            ),
          ),
        ]
      : []),
    ...(extra && beyond > 0 && extra.to === 'return'
      ? [
          onOrder(
            order,
            openReturn(line, { lineId: line.lineId, packs: beyond, why: 'too-many', note: '' }, terms, context),
          ),
        ]
      : []),
    ...(over + (extra?.to === 'shelf' ? beyond : 0) > 0
      ? [
          ontoShelf(
            order,
            line,
            numberRead,
            over + (extra?.to === 'shelf' ? beyond * (line.for[0]?.perPack ?? line.packSize ?? 1) : 0),
            context,
          ),
        ]
      : []),
    ...sharesOf(line, before, receipt.packs).map(({ ticketId, requirementId, units }): Append => ({
      kind: 'ticket',
      ticketId,
      data: [
        {
          type: 'part-received',
          requirementId,
          from: { kind: 'order', orderId: order.orderId, lineId: line.lineId },
          units,
          partNumber: numberRead,
          verdict: isBad ? 'wrong' : verdict,
        },
      ],
    })),
  ]);
}

/** Pieces of the line's own part that these packs bring beyond what its tickets get: a kit's other contents are not counted. */
function overOf(line: PlacedLine, packsBefore: number, packs: number): number {
  const own = line.for.filter(({ partId }) => partId === line.partId);
  const perPack = own[0]?.perPack ?? line.packSize ?? 1;
  const wanted = sum(own.map(({ units }) => units));
  const come = (packs: number) => Math.max(0, packs * perPack - wanted);
  return own.length < line.for.length ? 0 : come(packsBefore + packs) - come(packsBefore);
}

const ontoShelf = (
  order: OrderState,
  line: PlacedLine,
  partNumber: string,
  units: number,
  context: Pick<Context, 'newId'>,
): Append =>
  stock(
    {
      partId: line.answeredPartId,
      partNumber,
      description: line.description,
      place: '',
      units,
      unitCost: {
        ...line.answeredPrice,
        amountMinor: Math.round(line.answeredPrice.amountMinor / (line.for[0]?.perPack ?? line.packSize ?? 1)),
      },
      used: false,
      origin: { kind: 'order', orderId: order.orderId, lineId: line.lineId, orderNumber: order.number },
    },
    context,
  );

type Share = { ticketId: TicketId; requirementId: RequirementId; units: number };

/**
 * Who gets the units of these packs: first come, first served in the order of the line, part by part. The last pack brings what is left, so that a
 * line that is here whole has given every ticket its units. O(entries).
 */
function sharesOf(line: PlacedLine, packsBefore: number, packs: number): Share[] {
  const shares: Share[] = [];
  const seen = new Map<string, number>();
  for (const { ticketId, requirementId, partId, units, perPack } of line.for) {
    const from = seen.get(partId) ?? 0;
    seen.set(partId, from + units);
    const low = packsBefore * perPack;
    const high = packsBefore + packs >= line.packs ? Infinity : (packsBefore + packs) * perPack;
    const given = Math.max(0, Math.min(from + units, high) - Math.max(from, low));
    if (given > 0) shares.push({ ticketId, requirementId, units: given });
  }
  return shares;
}
