import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { catalogue, modelOn, NOW, readAs, settings } from '../../../tests/support/demoCases';
import { eventsAfter } from '../../../tests/support/acts';
import { nothingLearned } from '../learn';
import { alsoDo, applyEvents, note, offer, settleCause, type RequirementDraft, type TicketEvent } from '../ticket';
import { addDays, asDay, asId, defined, money, sum, toMajor, type CauseId } from '../units';
import {
  assess,
  compose,
  createDesk,
  offerOf,
  ownWarranty,
  partsOf,
  picksToDecide,
  settlementOf,
  type Settings,
  type Weighed,
} from '.';
import { payersChapter } from './chapters/payers';

const assessed = (events: readonly TicketEvent[], change: Partial<Settings> = {}): Weighed => {
  const result = assess(catalogue, applyEvents(events), { ...settings, ...change }, nothingLearned(), NOW);
  if (result.kind === 'unread') throw new Error('not read');
  return result;
};
const onPlatform = (platformId: string, boughtOn = '2017-03-01'): TicketEvent[] => {
  return eventsAfter(readAs(modelOn(platformId)), NOW, note({ type: 'bought-on', date: asDay(boughtOn) }));
};
const settled = (events: readonly TicketEvent[], id: string) => {
  const { lore } = assessed(events);
  const cause = defined(
    lore.causes.find((one) => one.id === id),
    id,
  );
  return eventsAfter(events, NOW, settleCause(settlementOf(cause)));
};

describe('the ready-by date', () => {
  it('waits for what the bench owes to other machines, where that is longer than the shop says', () => {
    const events = settled(onPlatform('fj-a2'), 'element');
    const readyWith = (waitingMinutes: number, benches = 1) => {
      const own = { ...settings, queueDays: 1, benches, shopDays: [1, 2, 3, 4, 5, 6, 7] };
      const world = { catalogue, settings: own, learned: nothingLearned(), waitingMinutes };
      const weighed = compose(createDesk().run, world, applyEvents(events), NOW);
      return weighed.kind === 'weighed' ? (weighed.offer?.quote.options[0]?.readyOn ?? null) : null;
    };
    const soon = defined(readyWith(0), 'a day');
    expect(readyWith(360)).toBe(soon);
    expect(readyWith(3 * 360 + 20)).toBe(addDays(soon, 2));
    expect(readyWith(3 * 360 + 20, 3)).toBe(soon);
  });
});

describe('the phone question', () => {
  it('is answered from a plate and an age, the doubt about the price in it, and narrows as the cause is found', () => {
    const open = assessed(onPlatform('fj-a2'));
    const range = defined(open.range, 'a range');
    const worth = defined(open.worth, 'a comparison');
    expect(range.high).toBeGreaterThan(range.low);
    expect(worth.spread[1] - worth.spread[0]).toBeGreaterThan(0.5 * (range.high - range.low));
    const known = defined(assessed(settled(onPlatform('fj-a2'), 'element')).worth, 'a comparison');
    expect(known.spread[1] - known.spread[0]).toBeLessThan(worth.spread[1] - worth.spread[0]);
  });

  it('is turned where it says that it is', () => {
    const events = settled(onPlatform('fj-a2', '2020-06-01'), 'element');
    const { worth, tips, offer: made } = assessed(events);
    const quote = toMajor(defined(made?.quote.options[0], 'an option').gross);
    const gap = defined(tips, 'tips').quote - quote;
    expect(Math.sign(gap)).toBe(Math.sign(defined(worth, 'a comparison').advantage));
    expect(Math.abs(gap - defined(worth, 'a comparison').advantage)).toBeLessThan(1);
    const price = tips?.newPrice;
    if (price)
      for (const factor of [0.97, 1.03]) {
        const economics = catalogue.economics.map((row) => ({
          ...row,
          newPrice: money(Math.round(price * factor * 100), 'EUR'),
          delivery: money(0, 'EUR'),
          disposal: money(0, 'EUR'),
        }));
        const moved = assess({ ...catalogue, economics }, applyEvents(events), settings, nothingLearned(), NOW);
        if (moved.kind === 'unread') throw new Error('not read');
        expect(moved.worth?.repair).toBe(factor > 1);
      }
  });

  it('counts the day without a machine as this customer says it, on both sides, and not where it is in no currency of ours', () => {
    const events = settled(onPlatform('fj-a2'), 'element');
    const before = defined(assessed(events).worth, 'a comparison');
    const said = (currency: string) =>
      defined(
        assessed(eventsAfter(events, NOW, note({ type: 'day-without-noted', perDay: money(2000, currency) }))).worth,
        'a comparison',
      );
    const { offer: made, market } = assessed(events);
    const readyOn = defined(made?.options[0]?.readyOn, 'a day');
    let days = 0;
    while (addDays(asDay('2026-11-24'), days) < readyOn) days += 1;
    const perDay = 20 - toMajor(settings.latePerDay);
    const wait = (defined(market, 'a market').economics.daysToReplace - days) * perDay;
    expect(said('EUR').advantage - before.advantage).toBeCloseTo(wait, 6);
    expect(said('USD').advantage).toBeCloseTo(before.advantage, 6);
  });

  it('is answered where later money counts in full, too: by what is saved in all', () => {
    const { worth, paths } = assessed(settled(onPlatform('fj-a2'), 'element'), { rho: 0 });
    expect(worth?.annualRepair).toBeCloseTo(worth?.annualReplace ?? NaN, 6);
    expect(Number.isFinite(worth?.advantage)).toBe(true);
    expect(sum(paths.map(({ cheapest }) => cheapest))).toBeCloseTo(1, 9);
  });
});

describe('ways out', () => {
  it('are weighed with what is done here; a new one is their measure', () => {
    for (const { id } of catalogue.platforms.slice(0, 4)) {
      const { paths, worth } = assessed(onPlatform(id));
      expect(paths.map(({ route }) => route?.kind ?? 'here')).toEqual(
        expect.arrayContaining(['here', 'maker-service', 'used-machine', 'new-machine']),
      );
      expect(paths[0]?.advantage).toBeCloseTo(worth?.advantage ?? NaN, 6);
      expect(paths.find(({ owns }) => owns === 'new')?.advantage).toBeCloseTo(0, 9);
      expect(sum(paths.map(({ cheapest }) => cheapest))).toBeCloseTo(1, 9);
    }
  });
});

describe('two that are broken together', () => {
  it('are settled in one go, offered together however little that saves, and taken apart again by settling on the second', () => {
    const events = onPlatform('fj-a1', '2014-05-01');
    const { lore } = assessed(events);
    const causeOf = (id: string) =>
      defined(
        lore.causes.find((one) => one.id === id),
        id,
      );
    const [spider, inlet] = [causeOf('spider'), causeOf('inlet-valve')];
    const both = eventsAfter(events, NOW, settleCause(settlementOf(spider, null, 0.6, inlet)));
    expect(applyEvents(both).round).toMatchObject({ cause: { causeId: 'spider' }, also: 'inlet-valve' });
    const offered = assessed(both).offer?.options.filter(({ causeIds }) => causeIds.length === 2) ?? [];
    expect(offered.map(({ causeIds }) => causeIds)).toEqual([['spider', 'inlet-valve']]);
    expect(
      assessed(eventsAfter(events, NOW, settleCause(settlementOf(spider)))).offer?.options.flatMap(
        ({ causeIds }) => causeIds,
      ),
    ).not.toContain('inlet-valve');
    // What needs no part is mended with it all the same.
    const filter = causeOf('filter-blocked');
    const cleaned = assessed(eventsAfter(events, NOW, settleCause(settlementOf(spider, null, 0.6, filter))));
    expect(cleaned.offer?.options.map(({ causeIds }) => causeIds)).toContainEqual(['spider', 'filter-blocked']);
    const second = applyEvents(eventsAfter(both, NOW, settleCause(settlementOf(inlet))));
    expect(second.round).toMatchObject({ cause: { causeId: 'inlet-valve' }, also: null });
  });
});

describe('a job near to it', () => {
  it('is offered together when it pays, or when the shop says so, both priced and bought', () => {
    const events = settled(onPlatform('qu-m1', '2018-05-01'), 'damper-front');
    const { nearby } = assessed(events);
    const rear = defined(
      nearby.find(({ causeId }) => causeId === 'damper-rear'),
      'the rear pair',
    );
    expect(rear.extraMinutes).toBeLessThan(rear.aloneMinutes);
    const both = assessed(eventsAfter(events, NOW, alsoDo(rear.causeId, rear.name)));
    const way = defined(
      both.offer?.options.find(({ causeIds }) => causeIds.length === 2),
      'both in one go',
    );
    expect(way.parts.map(({ position }) => position).sort()).toEqual(expect.arrayContaining(['front', 'rear']));
    const lone = toMajor(defined(both.offer?.quote.options[0], 'alone').gross);
    const priced = toMajor(
      defined(
        both.offer?.quote.options.find(({ id }) => id === way.id),
        'priced',
      ).gross,
    );
    expect(priced - lone).toBeCloseTo(rear.extra, 2);
    const back = assessed(eventsAfter(events, NOW, alsoDo(rear.causeId, rear.name), alsoDo(null, rear.name)));
    expect(back.offer?.options.map(({ id }) => id)).toEqual(assessed(events).offer?.options.map(({ id }) => id));
  });

  it('pays more the older the machine is, as far as its part wears', () => {
    const at = (boughtOn: string) =>
      assessed(settled(onPlatform('fj-a2', boughtOn), 'damper-front')).nearby.find(
        ({ causeId }) => causeId === 'damper-rear',
      );
    expect(at('2016-01-01')?.needed).toBeGreaterThan(at('2024-01-01')?.neededAnyway ?? 1);
  });
});

describe('what the work uses up', () => {
  it('is charged by the piece from the shelf, and bought where the shop keeps none', () => {
    const events = settled(onPlatform('fj-a2'), 'bearings');
    const [option] = assessed(events).offer?.quote.options ?? [];
    const sundries = option?.lines.filter(({ kind }) => kind === 'sundry') ?? [];
    expect(sundries.length).toBeGreaterThan(0);
    for (const { amounts } of sundries) expect(amounts?.net.amountMinor).toBeGreaterThan(0);
    const bought = (change: Partial<Settings>) =>
      assessed(events, change).offer?.options[0]?.parts.map(({ roleId }): string => roleId) ?? [];
    expect(bought({})).not.toContain('sealant');
    expect(bought({ lackingStock: [...settings.lackingStock, 'sealant'] })).toContain('sealant');
    const missing =
      assessed(events, { lackingStock: [...settings.lackingStock, 'sealant'] }).offer?.quote.options[0]?.lines ?? [];
    expect(missing.filter(({ kind }) => kind === 'sundry').length).toBe(sundries.length - 1);
  });

  it('is decided at Part as it is offered: what is kept by the piece is no part to buy, at either', () => {
    let compared = 0;
    let keptSomewhere = 0;
    for (const lackingStock of [settings.lackingStock, [...settings.lackingStock, 'hose-clamp']])
      for (const id of ['drain-pump', 'hose-leak', 'bearings', 'door-seal', 'inlet-valve', 'lock']) {
        const { part, offer } = assessed(settled(onPlatform('fj-a2'), id), { lackingStock });
        const parts = defined(part.parts, 'its parts');
        const numbers = (made: readonly RequirementDraft[]) => made.map(({ bought }) => bought.partNumber).sort();
        const decided = partsOf(picksToDecide(parts, parts.main?.candidates[0], part.kept), asId<CauseId>(id));
        const offered = (offer?.options[0]?.parts ?? []).filter(
          // What only the work uses up, and this shop does not keep, is bought with the offer.
          ({ roleId }) => roleId === parts.main?.roleId || parts.companions.some((one) => one.roleId === roleId),
        );
        expect([id, numbers(decided)]).toEqual([id, numbers(offered)]);
        compared += decided.length;
        keptSomewhere += part.kept.length;
      }
    expect(compared).toBeGreaterThan(8);
    expect(keptSomewhere).toBeGreaterThan(0);
  });

  it('is marked up by the tier that its price reaches', () => {
    const events = settled(onPlatform('fj-a2'), 'board');
    const partOf = (change: Partial<Settings>) =>
      assessed(events, change).offer?.quote.options[0]?.lines.find(({ kind }) => kind === 'part')?.amounts?.net
        .amountMinor ?? 0;
    const tier = (major: number, basisPoints: number) => ({ from: money(major * 100, 'EUR'), basisPoints });
    const flat = partOf({ markupTiers: [], partsMarkupBasisPoints: 0 });
    expect(partOf({ markupTiers: [tier(1, 5000), tier(100_000, 100)], partsMarkupBasisPoints: 0 })).toBe(
      Math.round(flat * 1.5),
    );
    expect(partOf({ markupTiers: [tier(100_000, 100)], partsMarkupBasisPoints: 0 })).toBe(flat);
  });
});

describe('who pays', () => {
  const lock = asId<CauseId>('lock');
  it('is the maker while its warranty runs, by receipt for sure and by the years of production with a chance', () => {
    const today = asDay('2026-11-24');
    const { machine, age, lore } = assessed(onPlatform('fj-a2'));
    const cause = lore.causes.find(({ id }) => id === lock) ?? null;
    const asked = (from: number, to: number) =>
      payersChapter.answer({
        warranties: catalogue.warranties,
        recalls: catalogue.recalls,
        machine,
        age: { ...age, from, to },
        cause,
        today,
      });
    expect(asked(1, 1).find(({ kind }) => kind === 'warranty')?.chance).toBe(1);
    expect(asked(2.5, 2.5).find(({ kind }) => kind === 'warranty')).toBeUndefined();
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 15, noNaN: true }),
        fc.double({ min: 0.1, max: 5, noNaN: true }),
        (from, width) => {
          // By throwing a thousand ages: the second way of computing.
          const ages = Array.from({ length: 1000 }, (_, i) => from + (width * (i + 0.5)) / 1000);
          const share = ages.filter((years) => years < 2).length / 1000;
          const said = asked(from, from + width).find(({ kind }) => kind === 'warranty')?.chance ?? 0;
          expect(Math.abs(said - (share >= 0.02 ? share : said))).toBeLessThan(0.002);
        },
      ),
    );
    const recalled = asked(6.5, 6.5).find(({ kind }) => kind === 'recall');
    expect(recalled).toMatchObject({ chance: 1, fits: 'this-cause' });
  });

  it('is this shop until its own warranty ends', () => {
    expect(ownWarranty(asDay('2026-01-10'), 12, asDay('2026-11-24'))).not.toBeNull();
    expect(ownWarranty(asDay('2025-11-20'), 12, asDay('2026-11-24'))).toBeNull();
    expect(ownWarranty(asDay('2026-11-20'), 0, asDay('2026-11-24'))).toBeNull();
  });
});

describe('an offer', () => {
  it('keeps how long it stands, what it answers for and what was told, whatever today says', () => {
    const events = settled(onPlatform('fj-a2'), 'element');
    const before = assessed(events);
    const made = applyEvents(eventsAfter(events, NOW, offer(defined(offerOf(before), 'an offer')))).round.offer;
    expect(made).toMatchObject({
      validUntil: addDays(asDay('2026-11-24'), settings.validDays),
      warrantyMonths: settings.warrantyMonths,
      worth: { told: { advantage: before.worth?.advantage, quote: before.worth?.quote } },
    });
  });

  it('has a line for fetching and bringing back where the customer wants it and the shop does it', () => {
    const events = settled(onPlatform('fj-a2'), 'element');
    const wanted = eventsAfter(events, NOW, note({ type: 'carriage-noted', collect: true, bringBack: false }));
    const kinds = (change: Partial<Settings>) =>
      assessed(wanted, change).offer?.quote.options[0]?.lines.map(({ kind }) => kind) ?? [];
    expect(kinds({ collectionFee: money(2000, 'EUR') })).toContain('collection');
    expect(kinds({ collectionFee: money(2000, 'EUR') })).not.toContain('delivery');
    expect(kinds({ collectionFee: null })).not.toContain('collection');
  });
});
