import { describe, expect, it } from 'vitest';
import { demoCatalogue, demoSettings, demoTickets } from '../../../tests/support/demo';
import { assess } from '@/core/case';
import { nothingLearned } from '@/core/learn';
import { applyEvents } from '@/core/ticket';
import { defined } from '@/core/units';
import { quoteDocument } from './quotePdf';

const NOW = '2026-11-24T08:00:00.000Z';

/** Every text of a document, in order. */
function textsOf(node: unknown): string[] {
  if (typeof node === 'string') return [node];
  if (Array.isArray(node)) return node.flatMap(textsOf);
  if (typeof node !== 'object' || node === null) return [];
  return Object.entries(node).flatMap(([key, value]) =>
    ['text', 'stack', 'table', 'body', 'content'].includes(key) ? textsOf(value) : [],
  );
}

describe('the printed offer', () => {
  const settings = demoSettings();
  const state = applyEvents(defined(demoTickets().get(205), 'ticket 205'));
  const assessment = assess(demoCatalogue(), state, settings, nothingLearned(), NOW);
  const quote = defined(assessment.quote, 'a quote');
  const document = quoteDocument(
    { state, assessment, settings, at: { now: NOW, today: '2026-11-24', zone: settings.zone } },
    quote,
  );
  const texts = textsOf(document.content).map((text) => text.replace(/\u00a0/g, ' '));

  it('says who offers what to whom, for which machine', () => {
    expect(document.info.title).toBe('Offer, ticket 205');
    for (const part of [settings.shopName, `Offer for ticket 205`, state.plate?.modelNumber ?? '', state.serial ?? ''])
      expect(
        texts.some((text) => text.includes(part)),
        part,
      ).toBe(true);
  });

  it('has every line of every option, and each sum to pay once', () => {
    for (const option of quote.options) {
      expect(texts).toContain(option.title);
      for (const line of option.lines)
        expect(texts.some((text) => text.startsWith(line.text) || text.includes(line.text))).toBe(true);
    }
    expect(texts.filter((text) => text === 'To pay')).toHaveLength(quote.options.length);
    expect(texts.some((text) => text.includes('If you decline, the inspection costs'))).toBe(true);
  });
});
