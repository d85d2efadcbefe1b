import { describe, expect, it } from 'vitest';
import { NOW, settings, eventsOf, assessed, add, finding } from '../../../tests/support/demoCases';
import { knowledgeFiles } from '../../../tests/support/demo';
import { layeredCatalogue } from '../catalogue';
import { readPackage } from '../package';
import { nothingLearned } from '../learn';
import {
  answerOffer,
  applyEvents,
  atBench,
  chooseParts,
  note,
  offer,
  type TicketEventData,
  type TicketState,
} from '../ticket';
import { asId, defined, money, sum, toMajor } from '../units';
import { pricedAround } from './chapters/paths';
import { compose, createDesk, fromScratch, offerOf } from '.';

describe('a machine that no catalogue lists', () => {
  const shown = (...more: TicketEventData[]): TicketState =>
    applyEvents(
      add(
        eventsOf(201).slice(0, 1),
        note({ type: 'plate-not-listed', text: 'KX 9100 W' }),
        note({ type: 'kind-judged', questionId: 'loading', answerId: 'front' }),
        note({ type: 'kind-judged', questionId: 'drive', answerId: 'belt' }),
        ...more,
      ),
    );
  // No maker, no platform, no part: only what ships with the application.
  const empty = layeredCatalogue(readPackage(knowledgeFiles()).catalogue, {});
  const pump: TicketEventData = {
    type: 'part-typed',
    roleId: asId('pump'),
    partNumber: 'ZP-4471',
    piecePrice: money(3150, 'EUR'),
    days: 2,
    supplierName: 'Old Quay Parts',
  };
  const settled: TicketEventData = {
    type: 'cause-decided',
    causeId: asId('drain-pump'),
    name: 'Drain pump',
    needsPart: true,
  };

  it('is weighed, priced and taken apart by how it is built, in a shop without a catalogue', () => {
    const result = assessed(shown(settled), { catalogue: empty });
    expect(sum(result.machine.designs.map(({ probability }) => probability))).toBeCloseTo(1, 9);
    expect(result.machine.designs[0]?.design.id).toBe('F-BB');
    expect(sum(result.causes.causes.map(({ probability }) => probability))).toBeCloseTo(1, 9);
    expect(result.bench?.plan.unreachable).toEqual([]);
    expect(result.bench?.sheet.sections.length).toBeGreaterThan(0);
    expect(result.worth?.annualRepair).toBeGreaterThan(0);
    expect(result.range?.high).toBeGreaterThan(result.range?.low ?? Infinity);
  });
  it('is offered with usual prices that are said to be such, and the offer is not complete', () => {
    const [option] = assessed(shown(settled), { catalogue: empty }).offer?.quote.options ?? [];
    const guessed = option?.lines.filter(({ estimated }) => estimated) ?? [];
    expect(guessed.map(({ description }) => description)).toContain('drain pump');
    expect(guessed.every(({ amounts }) => (amounts?.net.amountMinor ?? 0) > 0)).toBe(true);
    expect(option?.complete).toBe(false);
    expect(sum(option?.lines.map(({ amounts }) => amounts?.gross.amountMinor ?? 0) ?? [])).toBe(
      option?.gross.amountMinor,
    );
  });
  it('takes a typed number at its word: its price, its days, and what is bought', () => {
    const result = assessed(shown(settled, pump), { catalogue: empty });
    expect(result.part.parts?.main?.candidates.map(({ part, route }) => [part.partNumber, route])).toEqual([
      ['ZP-4471', 'typed'],
    ]);
    const own = result.offer?.quote.options[0]?.lines.find(({ partNumber }) => partNumber === 'ZP-4471');
    expect(own).toMatchObject({ amounts: { net: money(4095, 'EUR') } });
    expect(own?.estimated).toBeUndefined();
    expect(result.offer?.options[0]?.parts).toMatchObject([
      { roleId: 'pump', route: 'typed', bought: { cost: money(3150, 'EUR') } },
    ]);
    // Taken back: the usual price stands in again.
    const back = assessed(shown(settled, pump, { ...pump, partNumber: '' }), { catalogue: empty });
    expect(back.part.parts?.main?.candidates).toEqual([]);
  });
  it('is as old as the owner says, with doubt; else as old as such machines are, and said so', () => {
    expect(assessed(shown(), { catalogue: empty }).age).toMatchObject({
      source: 'unknown',
      from: expect.closeTo(3, 0),
      to: expect.closeTo(15, 0),
    });
    const told = assessed(shown({ type: 'age-guessed', years: 8 }), { catalogue: empty }).age;
    expect(told).toEqual({ years: 8, from: 6, to: 10, source: 'owner', serial: null });
  });
  it('has its parts here when a person says so, where they have no number', () => {
    const bearings: TicketEventData = { ...settled, causeId: asId('bearings'), name: 'Bearings' } as TicketEventData;
    const world = { catalogue: empty };
    let events = add(eventsOf(201).slice(0, 1), note({ type: 'plate-not-listed', text: 'KX 9100 W' }));
    for (const [questionId, answerId] of [
      ['loading', 'front'],
      ['drive', 'belt'],
    ] as const)
      events = add(events, note({ type: 'kind-judged', questionId, answerId }));
    events = add(events, bearings);
    events = add(events, chooseParts(asId('bearings'), []), note({ type: 'age-not-known' }));
    events = add(events, offer(defined(offerOf(assessed(applyEvents(events), world)), 'an offer')));
    events = add(events, answerOffer('yes', 'best-fit'));
    const waits = assessed(applyEvents(events), world);
    expect(waits.next).toMatchObject({ rung: 'get-parts', station: 'bench', doNext: { kind: 'get-parts' } });
    expect(waits.bench?.ready).toMatchObject({ partsHere: false, unnamed: expect.arrayContaining(['shaft seal']) });
    const here = assessed(applyEvents(add(events, atBench({ type: 'readied', item: 'parts', ok: true }))), world);
    expect(here.next.doNext.kind).toBe('work');
    expect(here.bench?.ready.partsHere).toBe(true);
  });

  it('has a range of prices though its cause is all but sure: nobody has named those of its parts', () => {
    const { range, offer } = assessed(shown(finding('roars'), finding('rust-run'), finding('drum-play')), {
      catalogue: empty,
    });
    const gross = toMajor(defined(offer?.quote.options[0], 'an option').gross);
    expect(range?.low).toBeLessThan(gross * 0.98);
    expect(range?.high).toBeGreaterThan(gross * 1.02);
    const one = { probability: 0.5, gross: 300, days: 1, partDays: 1, partsNet: 120, hours: 2 };
    const around = pricedAround(one, { partsNet: 120, hours: 2, usualNet: 100, usualGross: 119 });
    expect(sum(around.map(({ probability }) => probability))).toBeCloseTo(0.5, 9);
    for (const of of ['gross', 'partsNet'] as const)
      expect(sum(around.map((own) => own.probability * own[of])) / 0.5).toBeCloseTo(one[of], 9);
    expect(pricedAround(one, { partsNet: 120, hours: 2, usualNet: 0, usualGross: 0 })).toEqual([one]);
  });

  it('is asked how old it is before a replacement is offered, or a repair, where that may turn the answer; once', () => {
    const cheap = { ...settings, labourPerHour: money(4000, 'EUR') };
    const onset = { type: 'check-done', checkId: 'ask-onset', outcomeId: 'slowly', title: '', outcome: '' } as const;
    const nextOf = (...more: TicketEventData[]) =>
      assessed(shown(finding('roars'), onset, ...more), { catalogue: empty, settings: cheap });
    const open = nextOf();
    expect(open.steps[0]?.kind).toBe('escalate');
    expect(open.next).toMatchObject({ rung: 'find-cause', station: 'plate', doNext: { kind: 'ask-age' } });
    expect(open.tips?.unknowns.find(({ id }) => id === 'age')?.worth).toBeGreaterThan(5);
    // Who asked and was told, or was told that nobody knows, is not sent there again.
    for (const answer of [{ type: 'age-not-known' }, { type: 'age-guessed', years: 11 }] as const)
      expect(nextOf(answer).next.doNext.kind).not.toBe('ask-age');
    expect(nextOf({ type: 'age-not-known' }).next.doNext).toMatchObject({ kind: 'step', step: { kind: 'escalate' } });
  });

  it('comes out the same from the desk, look by look', () => {
    const desk = createDesk();
    let events = eventsOf(201).slice(0, 1);
    const acts: TicketEventData[] = [
      { type: 'plate-not-listed', text: 'KX 9100 W' },
      { type: 'kind-judged', questionId: 'loading', answerId: 'front' },
      { type: 'age-guessed', years: 8 },
      finding('stands-full'),
      { type: 'kind-judged', questionId: 'drive', answerId: null },
      settled,
      pump,
    ];
    const world = { catalogue: empty, settings, learned: nothingLearned() };
    for (const act of acts) {
      events = add(events, act);
      const state = applyEvents(events);
      expect(compose(desk.run, world, state, NOW)).toEqual(compose(fromScratch, world, state, NOW));
    }
  });
});
