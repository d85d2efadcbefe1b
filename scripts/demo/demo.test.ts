import { describe, expect, it } from 'vitest';
import { demoCatalogue, demoTickets } from '../../tests/support/demo';
import { knowledgeFor, OTHER_CAUSE } from '@/core/catalogue';
import { crossReference } from '@/core/fit';
import { normaliseNumber, readSerial } from '@/core/identify';
import { bearingByDesignation } from '@/core/measure';
import { applyEvents } from '@/core/ticket';
import { groupBy, unique, asDay } from '@/core/units';

const catalogue = demoCatalogue();
const superseded = catalogue.relations.filter((relation) => relation.kind === 'superseded-by');
const outgoing = groupBy(superseded, (relation) => relation.fromPartId);
const incoming = groupBy(superseded, (relation) => relation.toPartId);

describe('the demo shop has what the trade has', () => {
  it('chains of up to four numbers, one split, one merge, one that is not replaced', () => {
    const starts = superseded.filter((relation) => !incoming.has(relation.fromPartId));
    const longest = Math.max(
      ...starts.map((relation) => (crossReference(catalogue, relation.fromPartId).soldToday?.via.length ?? 0) + 1),
    );
    expect(longest).toBeGreaterThanOrEqual(4);
    expect(
      [...outgoing.values()].some((list) => list.length > 1 && new Set(list.map((entry) => entry.source)).size === 1),
    ).toBe(true);
    expect([...incoming.values()].some((list) => list.length > 1)).toBe(true);
    expect(catalogue.parts.some((part) => part.status === 'discontinued' && !outgoing.has(part.id))).toBe(true);
  });

  it('sibling models one character apart', () => {
    const plain = catalogue.models.map((model) => normaliseNumber(model.modelNumber));
    const masks = plain.flatMap((number) =>
      unique([...number].map((_, index) => `${number.slice(0, index)}*${number.slice(index + 1)}`)),
    );
    const seen = groupBy(masks, (mask) => mask);
    expect([...seen.values()].filter((list) => list.length > 1).length).toBeGreaterThan(40);
  });

  it('positions, serial breaks, kits, generics with dimensions and ratings, bearings by their standard', () => {
    for (const position of ['front', 'rear', 'hot', 'cold'])
      expect(
        catalogue.fits.some((fit) => fit.position === position),
        position,
      ).toBe(true);
    expect(catalogue.fits.some((fit) => fit.builtTo !== undefined)).toBe(true);
    expect(catalogue.relations.filter((relation) => relation.kind === 'contains').length).toBeGreaterThan(10);
    const generics = catalogue.parts.filter((part) => part.kind === 'generic');
    const described = new Set(catalogue.part_properties.map((row) => row.partId));
    expect(generics.filter((part) => described.has(part.id)).length).toBeGreaterThan(30);
    const ratings = new Set(
      catalogue.role_properties.filter((property) => property.kind === 'rating').map((property) => property.roleId),
    );
    expect(ratings.size).toBeGreaterThan(4);
    for (const part of catalogue.parts.filter((entry) => entry.kind === 'standard'))
      expect(bearingByDesignation(part.partNumber), part.partNumber).not.toBeNull();
  });

  it('one number that two makers use for different parts', () => {
    const shared = [...groupBy(catalogue.parts, (part) => normaliseNumber(part.partNumber)).values()].filter(
      (parts) => parts.length > 1,
    );
    expect(shared.map((parts) => unique(parts.map(({ makerId }) => makerId)).length)).toEqual([2]);
  });

  it('suppliers whose offers for the same part disagree', () => {
    const byPart = groupBy(catalogue.offers, (offer) => offer.partId);
    const disagree = [...byPart.values()].filter(
      (offers) => new Set(offers.map((offer) => offer.packPrice.amountMinor)).size > 1,
    );
    expect(disagree.length).toBeGreaterThan(400);
    expect(new Set(catalogue.shipping_modes.map((mode) => mode.transitDays)).size).toBeGreaterThan(2);
    expect(catalogue.suppliers.some((supplier) => supplier.minimumOrder.amountMinor > 0)).toBe(true);
    expect(catalogue.offers.some((offer) => offer.stockPacks === 0)).toBe(true);
  });

  it('serials that its makers’ schemes can read', () => {
    let read = 0;
    for (const events of demoTickets().values()) {
      const state = applyEvents(events);
      if (!state.plate || !state.serial) continue;
      const model = catalogue.models.find((entry) => entry.id === state.plate?.modelId);
      const reading = readSerial(catalogue.serial_schemes, state.plate.makerId, state.serial, {
        producedFrom: model?.producedFrom,
        producedTo: model?.producedTo,
        today: asDay('2026-11-24'),
      });
      expect(reading.candidates.length, `${state.number} ${state.serial}`).toBeGreaterThan(0);
      read += 1;
    }
    expect(read).toBeGreaterThan(180);
  });

  it('three years of closed tickets, some declined, with the time they took', () => {
    const closed = [...demoTickets().values()].map((events) => applyEvents(events)).filter((state) => state.closed);
    const opened = closed.map((state) => state.openedAt).sort();
    expect(Date.parse(opened.at(-1) ?? '') - Date.parse(opened[0] ?? '')).toBeGreaterThan(2.5 * 365 * 86_400_000);
    expect(closed.filter((state) => state.closed?.outcome === 'declined').length).toBeGreaterThan(5);
    expect(closed.filter((state) => (state.closed?.takenMinutes ?? 0) > 0).length).toBeGreaterThan(120);
  });

  it('closed tickets that were looked for: at least half carry checks, and some readings, runs, repairs in vain and wrecks', () => {
    const closed = [...demoTickets().values()].map((events) => applyEvents(events)).filter((state) => state.closed);
    const share = (has: (state: (typeof closed)[number]) => boolean) => closed.filter(has).length / closed.length;
    expect(share(({ checks, readings }) => checks.length + readings.length > 0)).toBeGreaterThan(0.5);
    expect(share(({ failingRun }) => failingRun !== null)).toBeGreaterThan(0.25);
    expect(share(({ wrecks }) => wrecks.length > 0)).toBeGreaterThan(0.25);
    expect(share(({ readings }) => readings.length > 0)).toBeGreaterThan(0.02);
    expect(share(({ failedFixes }) => failedFixes.length > 0)).toBeGreaterThan(0.005);
  });
});

describe('the knowledge of every platform', () => {
  const knowledges = catalogue.platforms.map((platform) => ({
    id: platform.id,
    known: knowledgeFor(catalogue, platform),
  }));

  it('a code names a circuit with three to six causes', () => {
    let codes = 0;
    for (const { id, known } of knowledges)
      for (const { code, findingId } of known.codes) {
        // A heating code means nothing on a machine without a heater.
        if (!known.findings.some((finding) => finding.id === findingId)) continue;
        codes += 1;
        const background = known.findingLikelihood(OTHER_CAUSE, findingId);
        const causes = known.causes.filter(
          (cause) => known.findingLikelihood(cause.id, findingId) >= Math.max(0.1, 3 * background),
        );
        expect(causes.length, `${id} ${code}: ${causes.map((cause) => cause.id).join(' ')}`).toBeGreaterThanOrEqual(3);
        expect(causes.length, `${id} ${code}: ${causes.map((cause) => cause.id).join(' ')}`).toBeLessThanOrEqual(6);
      }
    expect(codes).toBeGreaterThan(70);
  });

  it('every cause shows as something, is told by a check that is no question, and has a reason where it needs a part', () => {
    for (const { id, known } of knowledges)
      for (const cause of known.causes) {
        const where = `${id} ${cause.id}`;
        expect(
          known.findings.some(
            (finding) =>
              known.findingLikelihood(cause.id, finding.id) > 2 * known.findingLikelihood(OTHER_CAUSE, finding.id),
          ),
          where,
        ).toBe(true);
        expect(
          known.checks.some(
            (check) =>
              check.kind !== 'ask' &&
              check.outcomes.some(
                (outcome) =>
                  known.outcomeLikelihood(cause.id, check.id, outcome.id) >
                  Math.max(0.3, 2 * known.outcomeLikelihood(OTHER_CAUSE, check.id, outcome.id)),
              ),
          ),
          where,
        ).toBe(true);
        if (cause.roleId)
          expect(
            known.rootCauses.some(({ causeId }) => causeId === cause.id),
            where,
          ).toBe(true);
      }
  });

  it('every reason can be seen on the wreck, and every service item answers a check', () => {
    for (const { id, known } of knowledges) {
      for (const root of known.rootCauses)
        expect(
          known.wreckSigns.some(({ rootId }) => rootId === root.id),
          `${id} ${root.id}`,
        ).toBe(true);
      for (const item of known.service?.items ?? [])
        expect(
          known.checks.some((check) => check.id === item.checkId),
          `${id} ${item.id}`,
        ).toBe(true);
    }
    expect(knowledges.filter(({ known }) => known.service !== null)).toHaveLength(10);
  });
});
