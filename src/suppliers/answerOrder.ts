import type { Catalogue, Offer } from '@/core/catalogue';
import { crossReference } from '@/core/fit';
import { normaliseNumber } from '@/core/identify';
import type { OrderAnswer } from '@/core/order';
import type { UblOrder } from '@/core/order/documents';
import { addDays, arrivalDate, USUAL_SHIPPING, type LocalDate, type SupplierId } from '@/core/units';
import type { Fault } from './faults';
import type { SupplierState } from './state';

type AnswerLine = OrderAnswer['lines'][number];

const BACK_ORDER_DAYS = 9;

/** What a line asks for, by the supplier's own number, else by the maker's: the names that a shop gives its lines mean nothing here. */
function offerOf(
  { offers, parts }: Catalogue,
  supplierId: SupplierId,
  { supplierNumber, partNumber }: UblOrder['lines'][number],
): Offer | undefined {
  const own = offers.filter((entry) => entry.supplierId === supplierId);
  const number = normaliseNumber(partNumber);
  const made = new Set(parts.flatMap((part) => (normaliseNumber(part.partNumber) === number ? [part.id] : [])));
  return (
    own.find((entry) => supplierNumber !== '' && entry.supplierNumber === supplierNumber) ??
    own.find(({ partId }) => made.has(partId))
  );
}

/** One line: accepted, sold under its newer number, on back-order when the stock does not reach, or rejected when unknown. */
function answerLine(
  catalogue: Catalogue,
  state: SupplierState,
  supplierId: SupplierId,
  mode: string,
  today: LocalDate,
  line: UblOrder['lines'][number],
  fault: Fault,
): AnswerLine {
  const base = { lineId: line.id, partId: line.partId, partNumber: line.partNumber, packPrice: line.packPrice };
  const offer = offerOf(catalogue, supplierId, line);
  if (!offer || fault === 'reject')
    return { ...base, status: 'rejected', dueOn: null, note: 'We do not carry this number.' };
  const transit = catalogue.shipping_modes.find((entry) => entry.id === mode)?.transitDays ?? 3;
  const dueOn = arrivalDate(today, { handlingDays: offer.handlingDays, transitDays: transit }, USUAL_SHIPPING);
  const left = offer.stockPacks - state.sold(offer.id);
  if (left < line.packs || fault === 'back-order')
    return {
      ...base,
      packPrice: offer.packPrice,
      status: 'back-ordered',
      dueOn: addDays(dueOn, BACK_ORDER_DAYS),
      note: 'Not in stock: follows by itself.',
    };
  state.sell(offer.id, line.packs);
  const today2 = crossReference(catalogue, offer.partId).soldToday?.parts;
  const newer =
    today2?.length === 1 && today2[0] && today2[0].partId !== offer.partId
      ? catalogue.parts.find((part) => part.id === today2[0]?.partId)
      : undefined;
  if (newer)
    return {
      ...base,
      packPrice: offer.packPrice,
      status: 'substituted',
      partId: newer.id,
      partNumber: newer.partNumber,
      dueOn,
      note: `${line.partNumber} is now sold as ${newer.partNumber}.`,
    };
  if (fault === 'substitute') {
    const sister = catalogue.relations.find(
      (relation) => (relation.kind === 'sister' || relation.kind === 'generic') && relation.fromPartId === offer.partId,
    );
    const part = catalogue.parts.find((entry) => entry.id === sister?.toPartId);
    if (part)
      return {
        ...base,
        packPrice: offer.packPrice,
        status: 'substituted',
        partId: part.id,
        partNumber: part.partNumber,
        dueOn,
        note: `${line.partNumber} comes as ${part.partNumber}.`,
      };
  }
  return { ...base, packPrice: offer.packPrice, status: 'accepted', dueOn, note: null };
}

/** What a key stands for: an order that was taken, or nothing, now and later. */
export type KeyState = { kind: 'taken'; answer: OrderAnswer } | { kind: 'void' };

/** A shop takes an order back. One that was taken stays; of any other the supplier will take nothing under this key. */
export function voidOrder(state: SupplierState, supplierId: SupplierId, key: string): KeyState {
  const known = state.answerTo(supplierId, key);
  if (known) return { kind: 'taken', answer: known };
  state.void(supplierId, key);
  return { kind: 'void' };
}

/** Answers an order once; the same key again gives the same answer and takes nothing more from the stock. A key that was taken back takes nothing. */
export function answerOrder(
  catalogue: Catalogue,
  state: SupplierState,
  supplierId: SupplierId,
  key: string,
  order: UblOrder,
  today: LocalDate,
  fault: Fault,
): KeyState {
  const known = state.answerTo(supplierId, key);
  if (known) return { kind: 'taken', answer: known };
  if (state.isVoid(supplierId, key)) return { kind: 'void' };
  state.counter += 1;
  const answer: OrderAnswer = {
    reference: `${supplierId.slice(0, 2).toUpperCase()}-${state.counter}`,
    lines: order.lines.map((line) => answerLine(catalogue, state, supplierId, order.mode, today, line, fault)),
  };
  state.take(supplierId, key, answer);
  return { kind: 'taken', answer };
}
