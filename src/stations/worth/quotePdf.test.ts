import { describe, expect, it } from 'vitest';
import { demoCatalogue, demoSettings, demoTickets } from '../../../tests/support/demo';
import { assess } from '@/core/case';
import { nothingLearned } from '@/core/learn';
import { applyEvents } from '@/core/ticket';
import { defined, asDay, asInstant } from '@/core/units';
import { formatMoney, lineWords, optionWords } from '@/words';
import { quoteDocument, type PrintProps } from './quotePdf';

const NOW = asInstant('2026-11-24T08:00:00.000Z');

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
  const at = { now: NOW, today: asDay('2026-11-24'), zone: settings.zone };
  const state = applyEvents(defined(demoTickets().get(205), 'ticket 205'));
  const today = assess(demoCatalogue(), state, settings, nothingLearned(), NOW);
  if (today.kind === 'unread') throw new Error('ticket 205 has no plate');
  const print = (more: Partial<PrintProps> = {}) => {
    const document = quoteDocument({ ...today, state, settings, at, ...more });
    const texts = textsOf(document.content).map((text) => text.replace(/\u00a0/g, ' '));
    return { title: document.info.title, texts };
  };
  const made = defined(state.round.offer, 'an offer');

  it('says who offers what to whom, for which machine', () => {
    const { title, texts } = print();
    expect(title).toBe('Offer, ticket 205');
    for (const part of [settings.shopName, `Offer for ticket 205`, state.plate?.modelNumber ?? '', state.serial ?? ''])
      expect(
        texts.some((text) => text.includes(part)),
        part,
      ).toBe(true);
  });

  it('has every line of every option as it was offered, and each sum to pay once', () => {
    const { texts } = print();
    for (const option of made.options) {
      expect(texts).toContain(optionWords(option));
      expect(texts).toContain(formatMoney(option.gross).replace(/\u00a0/g, ' '));
      for (const line of option.lines)
        expect(texts.some((text) => text.startsWith(lineWords(line).replace(/\u00a0/g, ' ')))).toBe(true);
    }
    expect(texts.filter((text) => text === 'To pay')).toHaveLength(made.options.length);
    expect(texts.some((text) => text.includes('If you decline, the inspection costs'))).toBe(true);
  });

  it('is the offer that was made, whatever today’s figures are', () => {
    const dearer = {
      ...settings,
      labourPerHour: { ...settings.labourPerHour, amountMinor: 2 * settings.labourPerHour.amountMinor },
    };
    const now = assess(demoCatalogue(), state, dearer, nothingLearned(), NOW);
    if (now.kind === 'unread') throw new Error('unread');
    expect(now.offer?.quote.options[0]?.gross).not.toEqual(made.options[0]?.gross);
    expect(print({ ...now, settings }).texts).toEqual(print().texts);
  });

  it('says what is still to be asked, and that the sum is without it', () => {
    const [option] = made.options;
    const open = defined(option, 'an option');
    const lines = open.lines.map((line, index) => (index === 0 ? { ...line, amounts: null } : line));
    const asked = {
      ...state,
      round: { ...state.round, offer: { ...made, options: [{ ...open, lines }] } },
    };
    const { texts } = print({ state: asked });
    expect(texts).toContain('price to be asked');
    expect(texts).toContain('To pay, without what is to be asked');
  });
});
