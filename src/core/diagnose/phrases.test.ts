import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../tests/support/demo';
import { findingsIn } from '.';

const { phrases, findings } = demoCatalogue();
const heard = (text: string) =>
  findingsIn(text, phrases, findings).map(({ findingId, present }) => (present ? findingId : `not ${findingId}`));

describe('findings in a customer’s words', () => {
  it.each([
    ['twitches and hums, was washing blankets', ['stutters', 'hums']],
    ["It doesn't spin and the clothes come out soaking wet", ['will-not-spin']],
    ['full of water, just humming', ['stands-full', 'hums']],
    ['sounds like a jet engine when spinning, drum wobbles', ['roars', 'drum-play']],
    ['my husband says there is a burning smell and then the fuse goes', ['burning-smell', 'trips']],
    ['it won’t drain', ['stands-full']],
    ['leaks from the door', ['leaks-front']],
    ['not humming, but banging', ['not hums', 'bangs']],
    ['no banging', ['not bangs']],
    ['it stoped half way', ['stops-midway']],
    ['it rattels', ['rattles']],
    ['washes fine, only very slow', []],
  ])('“%s”', (text, wanted) => {
    expect(heard(text).sort()).toEqual([...wanted].sort());
  });

  it('are found in every phrase that is listed, whatever stands around it', () => {
    for (const { findingId, words } of phrases) {
      expect(heard(words), words).toContain(findingId);
      expect(heard(`Well, yesterday it was ok. Now: ${words}. What can it be?`), words).toContain(findingId);
    }
  });

  it('never contradict themselves, and quote what was said', () => {
    const word = fc.constantFrom(...phrases.flatMap(({ words }) => words.split(' ')), 'not', 'and', 'the', 'blanket');
    fc.assert(
      fc.property(fc.array(word, { maxLength: 14 }), (said) => {
        const text = said.join(' ');
        const found = findingsIn(text, phrases, findings);
        expect(new Set(found.map(({ findingId }) => findingId)).size).toBe(found.length);
        for (const { words } of found) expect(text).toContain(words);
      }),
    );
    expect(findingsIn('', phrases, findings)).toEqual([]);
  });
});
