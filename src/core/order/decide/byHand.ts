import { typedPart } from '../../identify';
import type { LineId, LocalDate, Money } from '../../units';
import type { OrderAnswer, OrderState } from '../stream/orderStream';

/** What a supplier said of one line, as a person noted it. `partNumber` null: it will not come. */
export type SaidOfLine = { lineId: LineId; partNumber: string | null; packPrice: Money; dueOn: LocalDate | null };

/** What a supplier said on the telephone or in an e-mail, as the answer that another supplier would have sent. Lines of which nothing was said come as ordered. */
export function answerByHand(
  { lines }: Pick<OrderState, 'lines'>,
  reference: string,
  said: readonly SaidOfLine[],
): OrderAnswer {
  const byLine = new Map(said.map((one) => [one.lineId, one]));
  return {
    reference: reference.trim().slice(0, 80),
    lines: lines.map((line): OrderAnswer['lines'][number] => {
      const { lineId, partId, partNumber, packPrice, dueOn } = line;
      const one = byLine.get(lineId);
      if (!one) return { lineId, status: 'accepted', partId, partNumber, packPrice, dueOn, note: null };
      const same = one.partNumber === null || one.partNumber.trim() === '' || one.partNumber.trim() === partNumber;
      return {
        lineId,
        status: one.partNumber === null ? 'rejected' : same ? 'accepted' : 'substituted',
        partId: same ? partId : typedPart(one.partNumber ?? ''),
        partNumber: same ? partNumber : (one.partNumber ?? '').trim(),
        packPrice: one.packPrice,
        dueOn: one.dueOn,
        note: null,
      };
    }),
  };
}
