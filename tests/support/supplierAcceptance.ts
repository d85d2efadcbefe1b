import { describe, expect, it } from 'vitest';
import { writeUblOrder, type UblOrder } from '@/core/order/documents';
import { asId, defined, money, type LocalDate } from '@/core/units';
import type { Heard, SupplierService } from '@/store/outbox/supplierService';

/** What the suite orders of a supplier. */
export type Sample = {
  today: LocalDate;
  currency: string;
  supplier: string;
  mode: string;
  /** Parts that it sells and has; one pack of each is ordered a few times. */
  stocked: readonly Pick<UblOrder['lines'][number], 'partNumber' | 'supplierNumber' | 'packPrice'>[];
};

const answerOf = (heard: Heard) => {
  if (heard.kind !== 'answer') throw new Error(`no answer: ${JSON.stringify(heard)}`);
  return heard.answer;
};

/**
 * What every supplier must do, whoever stands behind it: run against the simulated ones in src/suppliers/acceptance.test.ts, and against a real one by its address
 * (`SUPPLIER=… npx vitest run src/suppliers/acceptance.test.ts`). `freshKey`: a key that was never used.
 */
export function acceptSupplier(
  name: string,
  make: () => { service: SupplierService; sample: Sample; freshKey: () => string },
): void {
  const orderOf = (sample: Sample, key: string, lines: UblOrder['lines']): UblOrder => ({
    number: `A-${key.slice(0, 8)}`,
    issuedOn: sample.today,
    currency: sample.currency,
    buyer: 'A shop',
    supplier: sample.supplier,
    mode: sample.mode,
    lines,
  });
  const linesOf = ({ stocked }: Sample): UblOrder['lines'] =>
    stocked.map((part, index) => ({
      ...part,
      id: asId(`line-${index + 1}`),
      packs: 1,
      partId: asId(`of ours ${index + 1}`),
      name: 'a part',
    }));
  const unknown = (sample: Sample): UblOrder['lines'][number] => ({
    id: asId('unknown'),
    packs: 1,
    partId: asId('of ours'),
    name: 'a part that nobody makes',
    partNumber: 'ZZZ-0-NOBODY-MAKES-THIS',
    supplierNumber: 'ZZZ-0-NOBODY-SELLS-THIS',
    packPrice: money(100, sample.currency),
  });

  describe(`${name} as a supplier`, () => {
    const { service, sample, freshKey } = make();
    const place = (key: string, lines = linesOf(sample)) =>
      service.order(key, writeUblOrder(orderOf(sample, key, lines)));

    it('answers every line once by the shop’s own name for it, with a price in the order’s currency and a day that lies ahead', async () => {
      const key = freshKey();
      const answer = answerOf(await place(key));
      expect(answer.orderNumber).toBe(orderOf(sample, key, []).number);
      expect(answer.reference.trim()).not.toBe('');
      expect(answer.lines.map(({ lineId }) => lineId).sort()).toEqual(
        linesOf(sample)
          .map(({ id }) => id)
          .sort(),
      );
      for (const line of answer.lines) {
        expect(['accepted', 'substituted', 'back-ordered']).toContain(line.status);
        expect(line.price).toMatch(/^\d+(\.\d+)?$/);
        expect(line.currency ?? sample.currency).toBe(sample.currency);
        expect(defined(line.dueOn ?? undefined, 'a day') >= sample.today).toBe(true);
      }
    });

    it('takes an order once under its key, however often and however fast it comes, and answers alike for ever', async () => {
      const key = freshKey();
      const answers = await Promise.all(Array.from({ length: 5 }, () => place(key)));
      const later = await place(key);
      for (const heard of [...answers, later]) expect(answerOf(heard)).toEqual(answerOf(later));
      expect(answerOf(await place(freshKey())).reference).not.toBe(answerOf(later).reference);
    });

    it('rejects a line that it does not know, with a word, and takes the others', async () => {
      const answer = answerOf(await place(freshKey(), [...linesOf(sample), unknown(sample)]));
      const rejected = answer.lines.filter(({ status }) => status === 'rejected');
      expect(rejected.map(({ lineId }) => lineId)).toEqual(['unknown']);
      expect(rejected[0]?.note ?? '').not.toBe('');
    });

    it('never takes what was taken back before it came', async () => {
      const key = freshKey();
      expect(await service.takeBack(key)).toEqual({ kind: 'void' });
      expect(await service.takeBack(key)).toEqual({ kind: 'void' });
      expect(await place(key)).toEqual({ kind: 'void' });
    });

    it('stands by what it took: taken back it is answered as before', async () => {
      const key = freshKey();
      const taken = answerOf(await place(key));
      expect(answerOf(await service.takeBack(key))).toMatchObject({ reference: taken.reference, lines: taken.lines });
      expect(answerOf(await place(key))).toEqual(taken);
    });

    it('refuses what is no order in words, and takes nothing of it', async () => {
      const key = freshKey();
      for (const document of ['', 'hello', '<Order/>', writeUblOrder(orderOf(sample, key, []))]) {
        const heard = await service.order(key, document);
        expect(heard.kind).toBe('refused');
        if (heard.kind === 'refused') expect(heard.detail.trim().length).toBeGreaterThan(5);
      }
      expect(await service.takeBack(key)).toEqual({ kind: 'void' });
    });

    it('reads an order whatever prefixes its elements wear', async () => {
      const document = writeUblOrder(orderOf(sample, 'prefixes', linesOf(sample)));
      const worn = document
        .replaceAll('cbc:', 'b:')
        .replaceAll('cac:', 'a:')
        .replace('xmlns:cbc', 'xmlns:b')
        .replace('xmlns:cac', 'xmlns:a');
      expect(worn).not.toBe(document);
      expect(answerOf(await service.order(freshKey(), worn)).lines).toHaveLength(sample.stocked.length);
    });
  });
}
