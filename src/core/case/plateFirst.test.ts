import { describe, expect, it } from 'vitest';
import { assessed, catalogue, eventsOf } from '../../../tests/support/demoCases';
import { applyEvents, type TicketState } from '../ticket';
import { asDay, asId, defined, type ModelId } from '../units';

const events = eventsOf(203);
const known = applyEvents(events);
const plate = defined(known.plate, 'a plate');

/** Before anything was found, with a plate that may be either. */
const doubtful = (other: string): TicketState => ({
  ...applyEvents(events.slice(0, 1)),
  plate: {
    ...plate,
    confirmed: false,
    probability: 0.6,
    others: [{ modelId: asId<ModelId>('other'), modelNumber: other, probability: 0.3 }],
  },
});

describe('a plate that is not settled', () => {
  it('comes first: what to do next is to compare it, and where to look is said', () => {
    const number = plate.modelNumber;
    const other = number.replace(/\d(?=\D*$)/, (digit) => String((Number(digit) + 1) % 10));
    const { next } = assessed(doubtful(other));
    expect(next).toMatchObject({ station: 'plate', doNext: { kind: 'compare-plate', compare: { kind: 'character' } } });
    const { compare } = next.doNext.kind === 'compare-plate' ? next.doNext : { compare: null };
    expect(compare?.kind === 'character' && compare.choices.length).toBe(2);
  });

  it('does not stand in the way of a confirmed one, nor of one that is certain', () => {
    for (const settled of [{ confirmed: true }, { confirmed: false, probability: 0.97 }]) {
      const state = doubtful('XX 1');
      const sure = { ...state, plate: { ...defined(state.plate, 'a plate'), ...settled } };
      expect(assessed(sure).next.doNext.kind).not.toBe('compare-plate');
    }
  });
});

describe('a part that depends on the build date', () => {
  /** What is fitted today was fitted from the middle of the machine's years on. */
  const lead = defined(assessed(known).part.parts?.main?.candidates[0], 'a part');
  const broken = {
    ...catalogue,
    fits: catalogue.fits.map((fit) =>
      fit.partId === lead.listedPartId ? { ...fit, builtTo: asDay('2015-01-01') } : fit,
    ),
  };
  const atThePart: TicketState = {
    ...known,
    serial: null,
    boughtOn: null,
    round: { ...known.round, parts: [], offer: null, answer: null },
  };

  it('asks for the serial before the part is chosen, and not once it is there', () => {
    const open = assessed(atThePart, { catalogue: broken });
    expect(open.part.serialMatters).toBe(true);
    expect(open.next).toMatchObject({ rung: 'choose-part', station: 'plate', doNext: { kind: 'note-serial' } });
    expect(assessed({ ...atThePart, serial: known.serial }, { catalogue: broken }).next.doNext.kind).not.toBe(
      'note-serial',
    );
    // Who looked and could not read it is not asked again.
    expect(assessed({ ...atThePart, serialUnreadable: true }, { catalogue: broken }).next.doNext.kind).toBe(
      'choose-part',
    );
  });

  it('asks for nothing where the lists name one number whatever the date', () => {
    const always = {
      ...catalogue,
      fits: catalogue.fits.map((fit) => ({ ...fit, builtFrom: undefined, builtTo: undefined })),
    };
    expect(assessed(atThePart, { catalogue: always }).next.doNext.kind).toBe('choose-part');
  });
});
