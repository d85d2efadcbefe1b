import { describe, expect, it } from 'vitest';
import { money, asInstant, asDay } from '@/core/units';
import { demoTickets } from '../../tests/support/demo';
import {
  cheaperStillWords,
  choiceBecause,
  choiceWords,
  customerWords,
  delayWords,
  eventWords,
  formatDate,
  formatMinutes,
  formatDrawn,
  formatMoney,
  formatRange,
  formatPercent,
  formatSince,
  listOf,
  notSavedWords,
  ordinal,
  otherChoiceWords,
  plural,
  problemWords,
  readingWords,
  serialProblemWords,
  verdictWords,
} from '.';

const plain = (text: string) => text.replace(/\u00a0/g, ' ');

describe('figures in words', () => {
  it('never calls something certain that is not', () => {
    expect([0, 0.004, 0.5, 0.996, 1].map((p) => plain(formatPercent(p)))).toEqual([
      '0 %',
      'under 1 %',
      '50 %',
      'over 99 %',
      '100 %',
    ]);
  });
  it('have their unit', () => {
    expect(plain(formatMoney(money(123456, 'EUR')))).toBe('1,234.56 €');
    expect(plain(formatMoney(money(500, 'JPY')))).toBe('500 JPY');
    expect([0, 0.004, 0.43, 1].map((share) => plain(formatDrawn(share)))).toEqual([
      'under 1 %',
      'under 1 %',
      '43 %',
      'over 99 %',
    ]);
    expect(plain(formatRange(17.2, 86.6, 'EUR'))).toBe('17 € to 87 €');
    expect(plain(formatRange(86.6, 87.4, 'EUR'))).toBe('about 87 €');
    expect([59.6, 60, 170].map((minutes) => plain(formatMinutes(minutes)))).toEqual(['1 h', '1 h', '2 h 50 min']);
  });
  it('say days as people do', () => {
    expect(formatDate(asDay('2026-11-24'), asDay('2026-11-24'))).toBe('today');
    expect(formatDate(asDay('2026-11-25'), asDay('2026-11-24'))).toBe('tomorrow');
    expect(formatDate(asDay('2026-12-03'), asDay('2026-11-24'))).toBe('Thu 3 Dec');
    expect(formatDate(asDay('2024-12-03'), asDay('2026-11-24'))).toBe('3 Dec 2024');
    expect(formatSince(asInstant('2026-11-21T09:00:00.000Z'), asInstant('2026-11-24T09:00:00.000Z'), 'UTC')).toBe(
      '3 days',
    );
  });
  it('count', () => {
    expect([1, 2, 3, 4, 11, 12, 21, 102].map(ordinal)).toEqual([
      '1st',
      '2nd',
      '3rd',
      '4th',
      '11th',
      '12th',
      '21st',
      '102nd',
    ]);
    expect(plural(1, 'part')).toBe('1 part');
    expect(plural(3, 'part')).toBe('3 parts');
    expect(listOf(['a', 'b', 'c'])).toBe('a, b and c');
    expect(listOf([])).toBe('');
  });
});

describe('ways out in words', () => {
  const here = { route: null, owns: 'this', cheapest: 0 };
  const used = { route: { name: 'A used machine' }, owns: 'used', cheapest: 0.62 };
  const anew = { route: { name: 'A new machine' }, owns: 'new', cheapest: 0.38 };

  it('say why repair beats a new machine and yet is not the cheapest', () => {
    expect(plain(cheaperStillWords([here, used, anew], 0.77) ?? '')).toBe(
      'Repair here beats a new one in 77 of 100, but is the cheapest of all in 0: another way costs less still, most often “A used machine” (62 of 100).',
    );
  });
  it('say nothing where the two figures lie close together, or only a new machine is set against it', () => {
    expect(cheaperStillWords([{ ...here, cheapest: 0.7 }, used, anew], 0.77)).toBeNull();
    expect(cheaperStillWords([here, anew], 0.77)).toBeNull();
  });
});

describe('what the customer is told', () => {
  const told = { repair: false, quote: 180, advantage: -40, replacePrice: 500, probabilityRepair: 0.3 };
  const about = /about the same/;

  it('is a side only where mean and most draws are on it by more than a trifle, or the mean by much', () => {
    expect(customerWords(told, true, 'EUR')).toMatch(/^A new one is the better buy/);
    expect(customerWords({ ...told, probabilityRepair: 0.52 }, true, 'EUR')).toMatch(about);
    expect(customerWords({ ...told, advantage: -10 }, true, 'EUR')).toMatch(about);
    expect(customerWords({ ...told, advantage: -90, probabilityRepair: 0.52 }, true, 'EUR')).toMatch(/better buy/);
    const other = { ...told, repair: true, advantage: 40 };
    expect(customerWords({ ...other, probabilityRepair: 0.7 }, true, 'EUR')).toMatch(/better off/);
    expect(customerWords({ ...other, probabilityRepair: 0.48 }, true, 'EUR')).toMatch(about);
  });

  it('names another way only where that speaks more for repair than the first', () => {
    const way = (id: string, advantage: number) => ({
      ...told,
      id,
      advantage,
      repair: advantage > 0,
      probabilityRepair: advantage > 0 ? 0.8 : 0.2,
      quote: 60,
      fails: 0.1,
      again: 3,
    });
    const say = (...advantages: number[]) =>
      otherChoiceWords(
        advantages.map((advantage, at) => way(`w${at}`, advantage)),
        (id) => `way ${id}`,
        'EUR',
      );
    expect(say(-40, -60)).toBeNull();
    expect(say(-60, -40)).toBeNull();
    expect(say(40, 90)).toBeNull();
    expect(say(-40, 5, -2)).toMatch(/^“way w1”, for 60\s€, or buying a new one comes to about the same/);
    expect(say(-40, -2, 70)).toMatch(/^“way w2”, for 60\s€, leaves you about 70\s€ better off/);
    expect(say(3, 70)).toMatch(/way w1/);
    expect(choiceWords(way('w', -40), 'EUR')).toMatch(/40\s€ dearer/);
    expect(choiceBecause(way('w', -40), 'EUR')).toMatch(/With 10\s% it does not mend.*3\s€ on average/);
    expect(choiceBecause({ fails: 0, again: 0 }, 'EUR')).not.toMatch(/first way/);
  });
});

describe('how far a supplier’s day is to be relied on', () => {
  it('is said with how many parcels it rests on, and not at all without one', () => {
    expect(plain(delayWords({ parcels: 14, late: 2, daysLate: 3 }) ?? '')).toBe(
      'So far 2 of 14 parcels came late, by 1.5 days on average.',
    );
    expect(delayWords({ parcels: 3, late: 0, daysLate: 0 })).toBe('All of its 3 parcels so far came in time.');
    expect(delayWords(null)).toBeNull();
  });
});

describe('facts in sentences', () => {
  it('say for every event of the demo something that a person can read', () => {
    let tested = 0;
    for (const events of demoTickets().values())
      for (const { data } of events) {
        const words = eventWords(data);
        expect(words.length).toBeGreaterThan(3);
        expect(words).not.toMatch(/undefined|null|\[object|NaN/);
        tested += 1;
      }
    expect(tested).toBeGreaterThan(2000);
  });
  it('name the limits of a verdict with their unit', () => {
    expect(verdictWords({ verdict: 'within', low: 110, high: 220 }, 'Ohm')).toBe('Within limits (110.0 to 220.0 Ohm)');
    expect(verdictWords({ verdict: 'above', low: null, high: 0.3 }, 'Ohm')).toBe('Too high (0.3 Ohm or less)');
    expect(verdictWords({ verdict: 'cannot-judge', low: null, high: null, reason: 'ambient-missing' }, 'Ohm')).toMatch(
      /temperature/,
    );
  });
  it('say where in a file something is wrong', () => {
    expect(problemWords({ file: 'models.csv', row: 3, column: 'popularity', value: '-1', why: '-1 is below 0' })).toBe(
      'models.csv · row 3 · popularity · -1 is below 0',
    );
    expect(problemWords({ file: 'fits.csv', row: 9, column: 'partId', value: 'p-7', why: 'stands in no row' })).toBe(
      'fits.csv · row 9 · partId · “p-7” · stands in no row',
    );
  });
  it('tell a serial’s fault and what to do', () => {
    for (const kind of ['no-scheme', 'check-digit-wrong', 'outside-production'] as const)
      expect(serialProblemWords({ kind })).toMatch(/\.$/);
  });
  it('say what was kept when something could not be saved', () => {
    const full = new DOMException('no room', 'QuotaExceededError');
    expect(notSavedWords(full)).toMatch(/disk is full.*kept.*Make room/);
    expect(notSavedWords(new Error('locked'))).toMatch(/locked.*kept.*Enter it again/);
  });
  it('name what the one input took a text for', () => {
    expect(readingWords({ kind: 'bearing', designation: '6204', bore: 20, outside: 47, width: 14, weight: 1 })).toEqual(
      { what: 'bearing 6204', detail: '20 × 47 × 14 mm, ISO 15' },
    );
  });
});
