import { stock } from '../../stock';
import type { Context } from '../../ticket';
import { fail, groupBy, ok, sum, type LineId, type PartId, type RequirementId, type TicketId } from '../../units';
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
 * back, and the tickets need it again. What nobody waits for, of a pack or of an opened kit, becomes a lot on the shelf.
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
  const spare = isBad ? [] : spareOf({ ...line, answeredNumber: numberRead }, before, receipt.packs);
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
    // Packs too many are kept as they are, opened or not.
    ...merged([
      ...spare,
      ...(extra?.to === 'shelf' && beyond > 0
        ? [{ ...ownPart({ ...line, answeredNumber: numberRead }), units: beyond * ownPieces(line) }]
        : []),
    ]).map((piece) => ontoShelf(order, line, piece, context)),
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

type Piece = { partId: PartId; partNumber: string; description: string };
export type SparePieces = Piece & { units: number };

const ownPieces = (line: PlacedLine): number => line.packSize ?? line.for[0]?.perPack ?? 1;
const ownPart = ({ answeredPartId, answeredNumber, description }: PlacedLine): Piece => ({
  partId: answeredPartId,
  partNumber: answeredNumber,
  description,
});

/** What one pack gives, and which part of it the tickets asked for. */
function contentsOf(line: PlacedLine): (Piece & { askedFor: PartId; perPack: number })[] {
  if (line.contents) return line.contents.map((content) => ({ ...content, askedFor: content.partId }));
  // A kit of an order from before its contents were noted: what is in it is not known.
  if (line.for.some(({ partId }) => partId !== line.partId)) return [];
  return [{ ...ownPart(line), askedFor: line.partId, perPack: line.for[0]?.perPack ?? ownPieces(line) }];
}

/** Pieces in so many more packs that no ticket of the line gets: of a pack what stays over, of an opened kit the rest. O(contents × entries). */
export function spareOf(line: PlacedLine, packsBefore: number, packs: number): SparePieces[] {
  return contentsOf(line).flatMap(({ askedFor, perPack, ...piece }) => {
    const wanted = sum(line.for.filter(({ partId }) => partId === askedFor).map(({ units }) => units));
    const come = (packs: number) => Math.max(0, packs * perPack - wanted);
    const units = come(packsBefore + packs) - come(packsBefore);
    return units > 0 ? [{ ...piece, units }] : [];
  });
}

/** Pieces of one number together. */
const merged = (pieces: readonly SparePieces[]): SparePieces[] =>
  [...groupBy(pieces, ({ partId }) => partId).values()].flatMap((own) =>
    own[0] ? [{ ...own[0], units: sum(own.map(({ units }) => units)) }] : [],
  );

/** Of an opened kit each piece costs the same share of it. */
function pieceCost(line: PlacedLine, { partId }: SparePieces): PlacedLine['answeredPrice'] {
  const inside = line.contents?.some((content) => content.partId === partId) ? line.contents : [];
  const pieces = inside.length > 0 ? sum(inside.map(({ perPack }) => perPack)) : ownPieces(line);
  return { ...line.answeredPrice, amountMinor: Math.round(line.answeredPrice.amountMinor / pieces) };
}

const ontoShelf = (order: OrderState, line: PlacedLine, piece: SparePieces, context: Pick<Context, 'newId'>): Append =>
  stock(
    {
      ...piece,
      place: '',
      unitCost: pieceCost(line, piece),
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
