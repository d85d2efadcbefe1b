import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../../tests/support/demo';
import { codesIn, findingsIn } from '../../diagnose';
import { buildModelIndex, normaliseNumber, numberAndWords, readPlate } from '..';

const { models, phrases, findings, codes } = demoCatalogue();
const index = buildModelIndex(models);
const tells = (words: string) => findingsIn(words, phrases, findings).length + codesIn(words, codes).length > 0;
const parted = (text: string, photographed = false) =>
  numberAndWords(text, { taken: readPlate(index, text).taken, photographed, tells });

describe('what is said beside a number', () => {
  it.each([
    ['vb61569 will not drain', 'vb61569', 'will not drain'],
    ['vb61569 E21 will not drain', 'vb61569', 'E21 will not drain'],
    ['vb61569 E21', 'vb61569', 'E21'],
    ['VB 61-569/3 leaks from the door', 'VB 61-569/3', 'leaks from the door'],
    ["hi, it's leaking from the door, a VB 61-569", 'VB 61-569', "hi, it's leaking from the door, a"],
    ['will not spin: NR 1274 W, roars', 'NR 1274 W', 'will not spin, roars'],
    ['Vessby VB 61-569/3', 'Vessby VB 61-569/3', ''],
    ['Mod. VB 61-407/2', 'Mod. VB 61-407/2', ''],
    ['Marwick ZX 4471 Q hums', 'Marwick ZX 4471 Q', 'hums'],
    ['zx 4471 q hums since 3 days', 'zx 4471 q', 'hums since 3 days'],
    ['VB 61-569/3 my neighbour says he knows nothing', 'VB 61-569/3', 'my neighbour says he knows nothing'],
    ['will not spin', '', 'will not spin'],
    ['hums for 3 days', '', 'hums for 3 days'],
    ['upstairs', 'upstairs', ''],
    ['', '', ''],
  ])('“%s”', (text, number, words) => {
    expect(parted(text)).toEqual({ number, words });
  });

  it('is heard in a pasted message of several lines, not in the text of a plate', () => {
    expect(parted('Hello ; my NR 1274 W does not drain ; thanks').words).toContain('does not drain');
    const plate = 'VESSBY ; Model VB 61-569/3 ; 220-240 V 50 Hz ; spin 1400 /min, does not heat';
    expect(parted(plate)).toEqual({ number: 'VB 61-569/3', words: '' });
    expect(parted('VESSBY\nVB 61-569/3\nwill not drain', true).words).toBe('');
  });

  it('loses nothing but what stands between: all that is read in a line stands in one of the two', () => {
    const word = fc.constantFrom('VB', '61-569/3', 'zx4471', 'hums', 'will', 'not', 'drain', ',', 'my', '7', 'W', ';');
    fc.assert(
      fc.property(fc.array(word, { maxLength: 9 }), (said) => {
        const text = said.join(' ');
        const { number, words } = parted(text);
        expect(normaliseNumber(text)).toContain(normaliseNumber(number));
        if (!text.includes(';'))
          expect([...normaliseNumber(number + words)].sort()).toEqual([...normaliseNumber(text)].sort());
      }),
    );
  });
});
