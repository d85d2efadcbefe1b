import { asInstant } from '@/core/units';
import { describe, expect, it } from 'vitest';
import { demoCatalogue, demoSettings, demoTickets } from '../../tests/support/demo';
import { assess } from '@/core/case';
import { nothingLearned } from '@/core/learn';
import { applyEvents } from '@/core/ticket';
import { enquiryOf, enquiryText, seatWords, suffixWords } from '.';

describe('a letter to a supplier', () => {
  it('names model, serial, build date and the part by what it does, so that nobody has to ask back', () => {
    const state = { ...applyEvents(demoTickets().get(203) ?? []), serial: 'K23P04711' };
    const assessment = assess(
      demoCatalogue(),
      state,
      demoSettings(),
      nothingLearned(),
      asInstant('2026-11-24T08:00:00.000Z'),
    );
    if (assessment.kind === 'unread') throw new Error('unread');
    const text = enquiryText(enquiryOf(state, assessment, 'Our shop'));
    for (const fact of [
      state.plate?.modelNumber ?? 'x',
      'K23P04711',
      'shaft seal',
      'Our shop',
      'price and delivery time',
    ])
      expect(text).toContain(fact);
    expect(text.split('\n')[0]).toBe(`Subject: shaft seal for ${state.plate?.modelNumber ?? ''}`);
    expect(text).not.toMatch(/undefined|null|NaN/);
  });

  it('asks about the sister models’ number only where there is one, and says what cannot be read', () => {
    const base = {
      shop: 's',
      machine: 'm',
      modelNumber: 'X 1',
      serial: null,
      built: null,
      part: 'pump',
      position: 'front',
    };
    expect(enquiryText({ ...base, sisterNumber: 'FJ-1' })).toContain('take FJ-1: is that the right one');
    const without = enquiryText({ ...base, sisterNumber: null });
    expect(without).toContain('Neither our catalogue nor its sister models name one');
    expect(without).toContain('Serial number: not readable');
    expect(without).toContain('pump (front)');
    expect(without).not.toContain('Built:');
  });
});

describe('seats and suffixes in words', () => {
  it('say what to do, with the limit', () => {
    expect(seatWords({ seat: 'journal', verdict: 'worn', limitMm: 24.996, instead: 'spider' })).toContain(
      'Price the spider',
    );
    expect(seatWords({ seat: 'housing', verdict: 'measure-finer', limitMm: 52.018, instead: 'tub' })).toContain(
      'at most 52.018 mm): take a micrometer',
    );
    expect(suffixWords('6204-2Z C2')).toBe('Shields let water in: not for a drum; C2 is too tight for a drum');
  });
});
