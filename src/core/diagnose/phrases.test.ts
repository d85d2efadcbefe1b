import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoCatalogue } from '../../../tests/support/demo';
import { answersIn, codesIn, findingsIn } from '.';

const { phrases, answer_phrases: answers, findings, codes } = demoCatalogue();
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
    ['does not drain, humming noise', ['stands-full', 'hums']],
    ['does not drain humming', ['stands-full', 'hums']],
    ['no banging, hums only', ['not bangs', 'hums']],
    ['no banging or rattling', ['not bangs', 'not rattles']],
    ['it neither bangs nor hums', ['not bangs', 'not hums']],
    ['bangs or rattles', ['bangs', 'rattles']],
    ['not spinning, not draining', ['will-not-spin', 'stands-full']],
    ['tumbles but will not spin up', ['will-not-spin']],
    ['does not turn on', ['dead']],
    ['somebody repaired the thing', ['mended-before']],
    ['water stands there', ['stands-full']],
    ['it fills but does not turn', []],
    ['takes forever to fill', ['no-fill']],
    ['it never heats, otherwise fine', ['cold-wash']],
    ['trips the RCD after ten minutes', ['trips']],
    ['makes a terrible noise when spinning', ['roars']],
    ['it stoped half way', ['stops-midway']],
    ['it rattels', ['rattles']],
    ['washes fine, only very slow', []],
    ['the door wont open, full of water', ['stays-shut', 'stands-full']],
    ["can't get the door open, laundry still inside", ['stays-shut']],
    ['it doesnt drain', ['stands-full']],
    ['door does not close', []],
    ['door opens fine', []],
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

describe('answers in a customer’s words', () => {
  it.each([
    ['twitches and hums, was washing blankets', ['ask-pockets blankets']],
    ['it got louder and louder, getting worse for months, we have hard water', ['ask-onset slowly', 'ask-place scale']],
    ['all of a sudden dead, was fine yesterday', ['ask-onset suddenly']],
    ['stops after half an hour, not suddenly', ['ask-warm warm']],
    ['does not spin', []],
    ['hums and stands full of water', []],
    ['I switched it off', []],
    ['it hums on and off', ['ask-onset comes-goes']],
  ])('“%s”', (text, wanted) => {
    const found = answersIn(text, answers).map(({ checkId, outcomeId }) => `${checkId} ${outcomeId}`);
    expect(found.sort()).toEqual([...wanted].sort());
  });

  it('are found in every phrase that is listed, one to a question, and quote what was said', () => {
    for (const { checkId, outcomeId, words } of answers) {
      const text = `Hello. It is like this: ${words}. Can you come?`;
      const found = answersIn(text, answers).filter((one) => one.checkId === checkId);
      expect(
        found.map((one) => one.outcomeId),
        words,
      ).toEqual([outcomeId]);
      expect(text).toContain(found[0]?.words);
    }
  });
});

describe('codes in a customer’s words', () => {
  const own = codes.filter(({ makerId }) => makerId === codes[0]?.makerId);
  const found = (text: string, list: typeof codes = own) => codesIn(text, list).map(({ code }) => code);

  it('are found however they are written, as words of their own', () => {
    expect(found('error E21 flashing, will not drain')).toEqual(['E21']);
    expect(found('e 21 and then E-11')).toEqual(expect.arrayContaining(['E21', 'E11']));
    expect(found('E210, model VE21')).toEqual([]);
    expect(found('first E11/E21, then nothing')).toEqual(expect.arrayContaining(['E21', 'E11']));
    expect(found('it was a "E21", I think; or E.21')).toEqual(['E21']);
    const odd = codes.slice(0, 2).map((code, at) => ({ ...code, code: ['Ü1', 'E!'][at] ?? '' }));
    expect(found('flashes Ü1 now', odd)).toEqual(['Ü1']);
    expect(found('error E!', odd)).toEqual(['E!']);
    expect(found('')).toEqual([]);
  });

  it('of letters alone only where they are said to be shown', () => {
    const letters = codes.filter(({ code }) => /^[a-z]+$/i.test(code));
    expect(letters.length).toBeGreaterThan(0);
    for (const { code } of letters) {
      expect(found(`it shows ${code} and stops`, letters)).toContain(code);
      expect(found(`${code} it stops`, letters)).toEqual([]);
    }
  });

  it('are all found in a list of any maker', () => {
    for (const { code } of codes) expect(found(`display shows: ${code}.`, codes), code).toContain(code);
  });
});
