import { describe, expect, it } from 'vitest';
import {
  NOW,
  catalogue,
  settings,
  tickets,
  eventsOf,
  weighed,
  assessed,
  add,
  finding,
} from '../../../tests/support/demoCases';
import { learnFrom, nothingLearned } from '../learn';
import { applyEvents } from '../ticket';
import { addHours, money } from '../units';
import { compose, createDesk, fromScratch } from '.';

describe('the desk', () => {
  const world = { catalogue, settings, learned: nothingLearned() };

  it('answers as from scratch on every prefix of every open demo ticket, and some of the closed ones', () => {
    let asked = 0;
    let all = 0;
    for (const [number, events] of tickets) {
      if (number <= 200 && number % 50 !== 0) continue;
      const desk = createDesk();
      for (let length = 1; length <= events.length; length += 1) {
        const state = applyEvents(events.slice(0, length));
        desk.clear();
        const kept = compose(desk.run, world, state, NOW);
        const counting: typeof fromScratch = (chapter, input) => {
          all += 1;
          return fromScratch(chapter, input);
        };
        expect(kept, `ticket ${number}, ${length} events`).toEqual(compose(counting, world, state, NOW));
        asked += desk.asked.length;
      }
    }
    // It really kept something.
    expect(asked).toBeLessThan(0.6 * all);
    // Beside other work on a shared machine it took longer than a minute.
  }, 240_000);

  it('answers as from scratch whatever was asked of it before', () => {
    const desk = createDesk();
    for (const number of [201, 203, 201, 207, 203, 210]) {
      const state = applyEvents(eventsOf(number));
      expect(compose(desk.run, world, state, NOW)).toEqual(compose(fromScratch, world, state, NOW));
    }
  });

  it('asks exactly what rests on the evidence for a finding, once the cause is settled', () => {
    const desk = createDesk();
    const events = eventsOf(203);
    compose(desk.run, world, applyEvents(events), NOW);
    desk.clear();
    compose(desk.run, world, applyEvents(add(events, finding('walks', 'no'))), NOW);
    expect([...desk.asked].sort()).toEqual(['along', 'barred', 'causes', 'look', 'next', 'range', 'steps', 'telling']);
    desk.clear();
    compose(desk.run, world, applyEvents(add(events, finding('walks', 'no'), { type: 'note-added', text: 'x' })), NOW);
    expect(desk.asked).toEqual(['next']);
  });

  it('asks what the expected price moves, too, while the cause is open', () => {
    const desk = createDesk();
    const events = eventsOf(201);
    compose(desk.run, world, applyEvents(events), NOW);
    desk.clear();
    compose(desk.run, world, applyEvents(add(events, finding('will-not-spin', 'no'))), NOW);
    expect(desk.asked).not.toContain('numbers');
    expect(desk.asked).not.toContain('jobs');
    expect(desk.asked).not.toContain('owning');
    expect(desk.asked).toEqual(expect.arrayContaining(['causes', 'range', 'steps', 'worth', 'next']));
  });

  it('comes to the best answer in stages, and gives only what is new', () => {
    const desk = createDesk();
    const state = applyEvents(eventsOf(203));
    const first = weighed(compose(desk.run, world, state, NOW));
    let stages = 0;
    while (desk.refine()) stages += 1;
    expect(stages).toBeGreaterThan(0);
    const best = weighed(compose(desk.run, world, state, NOW));
    expect(best).toEqual(assessed(state));
    expect(best.worth?.draws).toBeGreaterThan(first.worth?.draws ?? Infinity);
    // Looking further ahead never makes the course dearer.
    expect(best.steps[0]?.expectedCost).toBeLessThanOrEqual((first.steps[0]?.expectedCost ?? 0) + 1e-9);
    for (const chapter of ['machine', 'lore', 'part', 'offer'] as const) expect(best[chapter]).toBe(first[chapter]);
  });

  it('notices what does not belong to the ticket: figures, learning, the day', () => {
    const desk = createDesk();
    const state = applyEvents(eventsOf(203));
    compose(desk.run, world, state, NOW);
    const dearer = { ...settings, labourPerHour: money(settings.labourPerHour.amountMinor * 2, settings.currency) };
    for (const [other, now] of [
      [{ ...world, settings: dearer }, NOW],
      [{ ...world, learned: learnFrom([]) }, NOW],
      [world, addHours(NOW, 24 * 400)],
    ] as const)
      expect(compose(desk.run, other, state, now)).toEqual(compose(fromScratch, other, state, now));
  });
});
