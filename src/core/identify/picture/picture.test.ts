import fc from 'fast-check';
import { asDay, asId } from '../../units';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../../tests/support/demo';
import { buildModelIndex, evenOut, plateText, readPlate, serialIn, sureness, toGrey, type GreyImage } from '..';

const index = buildModelIndex(demoCatalogue().models);
const schemes = demoCatalogue().serial_schemes;
const around = (number: string, label = 'MODEL') =>
  `NORRUND\nAutomatic washing machine\n${label} ${number}\nSERIAL NO. H14P11830\nPROD. NO. 9152 116511\n220-240 V~ 50 Hz\n1950 W 10 A\n5 kg 1200 /min`;

describe('the whole text of a plate', () => {
  it('gives the number behind its label as it stands, also when the number begins like a label', () => {
    for (const label of ['MODEL', 'Mod.', 'TYPE', 'Type No.', '']) {
      const [first] = readPlate(index, around('NR 1165 B', label)).candidates;
      expect(first, label).toMatchObject({ modelNumber: 'NR 1165 B', differences: [] });
      expect(first?.probability, label).toBeGreaterThan(0.95);
    }
  });

  it('takes the line under a label that stands alone', () => {
    const [first] = readPlate(index, 'TYPE\nVB 61-407/2\nSER. NO.\nK23P04711').candidates;
    expect(first?.modelNumber).toBe('VB 61-407/2');
  });

  it('of a machine that is not listed is said to be that, whatever measures and numbers stand around', () => {
    const plates = [
      'HALVERT\nAutomatic washing machine\nMODEL HK 9250 TX\nSERIAL NO. 44-018273\nPROD. NO. 77 1209\n230 V~ 50 Hz\n2200W 10A\n8 kg 1400 /min',
      'HALVERT\nTYPE QK-77120\n1400 /min\n1200 r/min\n7 kg',
    ];
    for (const plate of plates) expect(readPlate(index, plate).unknown, plate).toBeGreaterThan(0.9);
  });

  it('puts codes before print, and leaves out what is empty', () => {
    expect(plateText([{ text: ' VESSBY ' }, { text: '' }], [{ text: 'VB 61-407/2' }])).toBe('VB 61-407/2\nVESSBY');
  });
});

describe('how sure the reader of a picture was', () => {
  it('of a text lies between its least and its surest line, and is that of the longer ones; codes are sure', () => {
    const line = fc.record({
      text: fc.string({ minLength: 1, maxLength: 12 }).filter((text) => text.trim() !== ''),
      confidence: fc.double({ min: 0, max: 1, noNaN: true }),
    });
    fc.assert(
      fc.property(fc.array(line, { minLength: 1, maxLength: 6 }), (lines) => {
        const each = lines.map(({ confidence }) => confidence);
        expect(sureness(lines)).toBeGreaterThanOrEqual(Math.min(...each) - 1e-9);
        expect(sureness(lines)).toBeLessThanOrEqual(Math.max(...each) + 1e-9);
        expect(sureness(lines, [{ text: 'VB61407' }])).toBeGreaterThanOrEqual(sureness(lines) - 1e-9);
      }),
    );
    const long = { text: 'Automatic washing machine', confidence: 0.9 };
    expect(sureness([long, { text: '~', confidence: 0 }])).toBeGreaterThan(0.8);
    expect(sureness([])).toBe(0);
  });

  // One line, behind its label, and anywhere on a plate: of numbers that no list has.
  const unlisted = ['QK-77120 TX', 'TYPE QK-77120', 'HALVERT\nQK-77120\n230 V~ 50 Hz'];

  it('the less it was, the likelier that no number was read at all, and the less surely it is not listed', () => {
    for (const text of unlisted) {
      const readings = [0.95, 0.7, 0.5, 0.3, 0.1].map((sure) => readPlate(index, text, { sure }));
      for (const [at, reading] of readings.entries()) {
        const before = readings[at - 1];
        if (!before) continue;
        expect(reading.unlisted, text).toBeGreaterThan(before.unlisted);
        expect(reading.unknown, text).toBeLessThan(before.unknown);
      }
    }
  });

  it('a machine that is not listed is said to be that where its plate was read well', () => {
    for (const text of unlisted) expect(readPlate(index, text, { sure: 0.9 }).unknown, text).toBeGreaterThan(0.9);
  });

  it('a number that stands in the list just so is taken however unsure the reader was', () => {
    for (const sure of [0.9, 0.5, 0.15]) {
      const [first] = readPlate(index, around('NR 1165 B'), { sure }).candidates;
      expect(first?.modelNumber).toBe('NR 1165 B');
      expect(first?.probability).toBeGreaterThan(0.9);
    }
  });

  it('junk in which nothing may be a number leaves what was likely before', () => {
    for (const text of ['| EE —', 'TYPE vegolGFG of some make\n~~ aa', 'BEET TT.']) {
      const reading = readPlate(index, text, { sure: 0.12, absentPrior: 0.2 });
      expect(reading.unknown, text).toBeCloseTo(0.2, 1);
      expect(reading.unlisted + reading.candidates.reduce((sum, { probability }) => sum + probability, 0)).toBeCloseTo(
        1 - reading.unknown,
        9,
      );
    }
  });
});

describe('the serial number in the text of a plate', () => {
  const context = { producedFrom: asDay('2011-01-01'), producedTo: asDay('2015-12-31'), today: asDay('2026-11-24') };
  it('is the word that the maker’s scheme accepts', () => {
    expect(serialIn(schemes, asId('fjordal'), around('NR 1165 B'), context)).toEqual({
      serial: 'H14P11830',
      fits: true,
    });
  });
  it('is else what stands behind the word for it, and said to be no more than that', () => {
    expect(serialIn(schemes, asId('fjordal'), 'MODEL X 1\nSER. NO: 44-018273\n230 V', context)).toEqual({
      serial: '44-018273',
      fits: false,
    });
    expect(serialIn(schemes, asId('fjordal'), 'MODEL X 1\n230 V~ 50 Hz', context)).toBeNull();
  });
});

/** Print (dark squares) on a plate under some light. */
function plate(light: (x: number, y: number) => number, contrast: number): GreyImage {
  const [width, height] = [240, 120];
  const grey = new Uint8Array(width * height);
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1) {
      const printed = x % 12 < 4 && y % 16 < 8;
      grey[y * width + x] = Math.round(light(x, y) * (printed ? 1 - contrast : 1));
    }
  return { width, height, grey };
}

/** Share of pixels on the right side of a middle grey: print below, plate above. */
function legible({ width, height, grey }: GreyImage): number {
  let right = 0;
  for (let y = 0; y < height; y += 1)
    for (let x = 0; x < width; x += 1)
      if (x % 12 < 4 && y % 16 < 8 === (grey[y * width + x] ?? 0) < 170) right += 1;
      else if (!(x % 12 < 4 && y % 16 < 8) && (grey[y * width + x] ?? 0) >= 170) right += 1;
  return right / grey.length;
}

describe('a picture of a plate', () => {
  it('is weighed as the eye does: green counts most, blue least', () => {
    const { grey } = toGrey([255, 0, 0, 255, 0, 255, 0, 255, 0, 0, 255, 255, 255, 255, 255, 255], 4, 1);
    expect([...grey]).toEqual([76, 150, 29, 255]);
  });

  it('becomes legible in bright light, dim light and half shadow, and with pale print', () => {
    const lights: [string, (x: number, y: number) => number, number][] = [
      ['bright', () => 230, 0.8],
      ['dim', () => 40, 0.6],
      ['shadow', (x) => 60 + (x * 180) / 240, 0.5],
      ['pale', () => 190, 0.15],
    ];
    for (const [name, light, contrast] of lights)
      expect(legible(evenOut(plate(light, contrast))), name).toBeGreaterThan(0.9);
  });

  it('without any print stays without any: noise is not drawn out', () => {
    const { grey } = evenOut({
      width: 60,
      height: 60,
      grey: new Uint8Array(3600).map((_, index) => 120 + (index % 3)),
    });
    expect(Math.max(...grey) - Math.min(...grey)).toBeLessThan(40);
  });
});
