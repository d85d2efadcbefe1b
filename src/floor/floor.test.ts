import { type Instant, asInstant } from '@/core/units';
import { describe, expect, it } from 'vitest';
import { demoTickets } from '../../tests/support/demo';
import { applyEvents, rungNow, summarise, type TicketSummary } from '@/core/ticket';
import { grouped } from './Floor';

const summaries = [...demoTickets().values()]
  .map((events) => summarise(applyEvents(events)))
  .filter((summary) => !summary.closed);

describe('the floor', () => {
  it('shows every machine once, in the order of what waits, longest first', () => {
    const groups = grouped(summaries, asInstant('2026-11-24T08:00:00.000Z'));
    const shown = groups.flatMap(({ entries }) => entries.map(({ ticket }) => ticket.ticketId));
    expect(new Set(shown).size).toBe(12);
    expect(shown).toHaveLength(12);
    const order = ['you', 'customer', 'parts', 'cure', 'collection'];
    expect(groups.map(({ group }) => order.indexOf(group))).toEqual(
      [...groups.keys()].map((_, index) => order.indexOf(groups[index]?.group ?? 'you')).sort((a, b) => a - b),
    );
    for (const { entries } of groups) {
      const since = entries.map(({ waiting }) => waiting.since);
      expect(since).toEqual([...since].sort());
    }
  });

  it('moves a machine to you when its cure is over', () => {
    const curing = summaries.find((summary) => summary.waiting.for === 'cure') as TicketSummary;
    const until = curing.waiting.for === 'cure' ? curing.waiting.until : asInstant('2026-11-24T08:00:00.000Z');
    const groupAt = (now: Instant) => grouped([curing], now)[0]?.group;
    expect(groupAt(asInstant('2026-11-24T08:00:00.000Z'))).toBe('cure');
    expect(groupAt(until)).toBe('you');
    // And it no longer says that it is to cure.
    expect(rungNow(curing.rung, curing.waiting, asInstant('2026-11-24T08:00:00.000Z'))).toBe('wait-cure');
    expect(rungNow(curing.rung, curing.waiting, until)).toBe('work');
  });

  it('is empty for an empty shop', () => {
    expect(grouped([], asInstant('2026-11-24T08:00:00.000Z'))).toEqual([]);
  });
});
