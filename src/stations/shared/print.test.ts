import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { clipForPrint, isPrintable } from '@/words';
import { printableContent } from './print';

const style = { fontSize: 10, bold: false, color: '#000000' };
const draw = (text: string, { fontSize, bold }: typeof style) => ({
  image: `${bold ? 'bold ' : ''}${fontSize} ${text}`,
  width: 1,
  height: 1,
});

describe('a printed text', () => {
  it('is drawn by the device where the type has no letters for it, in its own size', () => {
    const content = {
      stack: [
        { text: 'Jürgen Đặng, Θεσσαλονίκη, Москва, 12,50 €', bold: true },
        { text: '李小龙', bold: true, fontSize: 14, margin: [0, 1, 0, 0] },
        {
          table: {
            widths: ['*'],
            body: [
              ['pump', 'مضخة'],
              ['🙂', { text: 'x' }],
            ],
          },
        },
      ],
    };
    expect(printableContent(content, style, draw)).toEqual({
      stack: [
        { text: 'Jürgen Đặng, Θεσσαλονίκη, Москва, 12,50 €', bold: true },
        { image: 'bold 14 李小龙', width: 1, height: 1, bold: true, fontSize: 14, margin: [0, 1, 0, 0] },
        {
          table: {
            widths: ['*'],
            body: [
              ['pump', { image: '10 مضخة', width: 1, height: 1 }],
              [{ image: '10 🙂', width: 1, height: 1 }, { text: 'x' }],
            ],
          },
        },
      ],
    });
  });

  it('is never longer than paper bears, nor has a word that no line holds', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 5000 }), (text) => {
        const clipped = clipForPrint(text);
        expect(clipped.length).toBeLessThanOrEqual(2100);
        expect(Math.max(0, ...clipped.split(/\s/).map((word) => word.length))).toBeLessThanOrEqual(91);
        if (text.length < 90) expect(clipped).toBe(text);
      }),
    );
    expect(clipForPrint('9'.repeat(100_000)).length).toBeLessThan(2100);
    expect(isPrintable('e\u0301 = é')).toBe(true);
  });
});
