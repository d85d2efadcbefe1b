import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../tests/support/demo';
import { crossReference } from '../fit';
import { defined, type LocalDate, asDay } from '../units';
import { checkIn } from '.';

describe('goods-in', () => {
  const catalogue = demoCatalogue();
  const superseded = defined(
    catalogue.relations.find((relation) => relation.kind === 'superseded-by'),
    'a supersession',
  );
  const number = (id: string) => catalogue.parts.find((part) => part.id === id)?.partNumber ?? '';
  it('lets the ordered number and its newer number in, stops others', () => {
    const check = (read: string) => checkIn(catalogue, superseded.fromPartId, number(superseded.fromPartId), read);
    expect(check(number(superseded.fromPartId).toLowerCase().replace('-', ' '))).toMatchObject({
      verdict: 'as-ordered',
    });
    expect(check(number(superseded.toPartId))).toMatchObject({ verdict: 'newer-number', reason: 'supersession' });
    expect(check('ZZ-0')).toMatchObject({ verdict: 'wrong', reason: 'unknown-number' });
    expect(check('TR-34934')).toMatchObject({ verdict: 'wrong', reason: 'other-part' });
  });

  it('takes a newer number only for machines built when it holds', () => {
    const from = { ...superseded, builtFrom: asDay('2015-01-01') };
    const dated = {
      ...catalogue,
      relations: catalogue.relations.map((row) => (row.id === superseded.id ? from : row)),
    };
    const built = (builtFrom: LocalDate, builtTo: LocalDate) => [{ builtFrom, builtTo, probability: 1 }];
    const check = (...machines: { builtFrom: LocalDate; builtTo: LocalDate; probability: number }[][]) =>
      checkIn(dated, superseded.fromPartId, number(superseded.fromPartId), number(superseded.toPartId), machines);
    const [old, young, open] = [
      built(asDay('2012-03-01'), asDay('2012-03-07')),
      built(asDay('2018-03-01'), asDay('2018-03-07')),
      built(asDay('2014-12-29'), asDay('2015-01-04')),
    ];
    expect(check(old)).toMatchObject({ verdict: 'wrong', reason: 'other-build-date' });
    expect(check(young)).toMatchObject({ verdict: 'newer-number', reason: 'supersession' });
    expect(check(open)).toMatchObject({ verdict: 'newer-number', reason: 'supersession-open' });
    expect(check(young, old)).toMatchObject({ verdict: 'wrong', reason: 'other-build-date' });
  });

  it('says where to look again when the number is only a slip away from a fine one', () => {
    const ordered = number(superseded.fromPartId);
    const newer = number(crossReference(catalogue, superseded.fromPartId).soldToday?.parts[0]?.partId ?? '');
    const check = (read: string) => checkIn(catalogue, superseded.fromPartId, ordered, read);
    const last = ordered.length - 1;
    const misread = `${ordered.slice(0, last)}${ordered.endsWith('B') ? '8' : 'B'}`;
    expect(check(misread)).toMatchObject({
      verdict: 'wrong',
      misread: { partNumber: ordered, differences: [{ index: last, listed: ordered.charAt(last) }] },
    });
    expect(check(newer.slice(0, -1)).misread?.partNumber).toBe(newer);
    expect(check(ordered).misread).toBeNull();
    // On a label, too; not where it names two of them: which one lies in the parcel is not told.
    expect(check(`P/N ${ordered} QTY 1`).verdict).toBe('as-ordered');
    expect(check(`${newer} REPLACES ${ordered}`).verdict).toBe('wrong');
    expect(check('QQQQ-0-ZZZZ').misread).toBeNull();
  });
});
