import { describe, expect, it } from 'vitest';
import { catalogue, eventsOf } from '../../../tests/support/demoCases';
import { applyEvents } from '../ticket';
import { asDay, defined, sum } from '../units';
import { ageChapter } from './chapters/machine';
import { agesOf } from './chapters/worth';

const { plate, serial } = applyEvents(eventsOf(206));
const model = defined(
  catalogue.models.find(({ id }) => id === plate?.modelId),
  'its model',
);
const asked = {
  serial_schemes: catalogue.serial_schemes,
  model,
  listed: true,
  serial,
  boughtOn: null,
  guessedYears: null,
  today: asDay('2026-11-24'),
};
const ageOf = (change: Partial<Parameters<typeof ageChapter.answer>[0]>) => ageChapter.answer({ ...asked, ...change });

describe('how old a machine is', () => {
  it('is read from its serial before what the owner says, and from the receipt before both', () => {
    const known = ageOf({});
    expect(known.source).toBe('serial');
    expect(ageOf({ guessedYears: 25 })).toEqual(known);
    const receipt = ageOf({ boughtOn: asDay('2020-11-24'), guessedYears: 25 });
    expect(receipt).toMatchObject({ source: 'receipt', years: expect.closeTo(6, 1) });
  });

  it('is three ages for what owning comes to where nobody knows it well, also of a model that was made for long', () => {
    const production = ageOf({
      serial: null,
      model: { ...model, producedFrom: asDay('2005-01-01'), producedTo: undefined },
    });
    expect(production.source).toBe('production');
    const ages = agesOf(production, true);
    expect(ages.map(({ years }) => years)).toEqual([production.from, production.years, production.to]);
    expect(sum(ages.map(({ probability }) => probability))).toBe(1);
    expect(agesOf(ageOf({}), true)).toEqual([]);
    // The same two years of doubt count where nobody lists the machine.
    const near = { ...production, from: 8, years: 9, to: 10 };
    expect([agesOf(near, true).length, agesOf(near, false).length]).toEqual([0, 3]);
  });

  it('is what the owner says, with doubt, where the serial tells nothing', () => {
    expect(ageOf({ serial: null, guessedYears: 8 })).toMatchObject({ source: 'owner', years: 8, from: 6, to: 10 });
  });

  it('is told by the owner where the letter of the year has come round again', () => {
    const long = { ...model, producedFrom: asDay('2005-01-01'), producedTo: undefined };
    const both = ageOf({ model: long });
    expect(both.serial?.candidates.length).toBeGreaterThan(1);
    expect(both.to - both.from).toBeGreaterThan(9);
    for (const years of [both.from, both.to]) {
      const told = ageOf({ model: long, guessedYears: years });
      expect(told.source).toBe('serial');
      expect(told.to - told.from).toBeLessThan(1);
      expect(Math.abs(told.years - years)).toBeLessThan(1);
    }
    // Nowhere near either: the serial leaves it open as before.
    expect(ageOf({ model: long, guessedYears: 0 })).toMatchObject({
      from: both.from,
      to: both.to,
    });
  });
});
