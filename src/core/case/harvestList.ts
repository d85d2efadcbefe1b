import { knowledgeFor, type Catalogue, type Platform } from '../catalogue';
import { donorsFor, partsFor, type Donor } from '../fit';
import { planWork } from '../labour';
import { demandWithin, type Demand } from '../stock';
import { money, shareOfMoney, sum, unique, type LocalDate, type Money, type PartId, type RoleId } from '../units';
import { pricedParts } from './pricing';
import type { Settings } from './settings';
import { usedPrice, usedTerms } from './usedPart';

/** A part of a donor, weighed. */
export type HarvestRow = {
  roleId: RoleId;
  roleName: string;
  position: string;
  partId: PartId;
  partNumber: string;
  description: string;
  /** P(the shop is asked for one more than it has within a year). */
  wanted: number;
  /** P(it is this number, and works). */
  works: number;
  /** What a customer would pay for it, used. */
  price: Money;
  /** Minutes of the way in that the parts before it on the list have not opened, and of its test. */
  minutes: number;
  testMinutes: number;
  test: string;
  /** chance × price less the minutes; below 0 it is not worth them. */
  worth: Money;
};

export type HarvestQuestion = {
  catalogue: Catalogue;
  donor: Donor;
  platform: Platform;
  /** The demand for a number, and how many of it are on the shelf, new or used. */
  demand: (partId: PartId) => Demand;
  there: (partId: PartId) => number;
  settings: Settings;
  today: LocalDate;
};

const YEAR_DAYS = 365;

type Candidate = Omit<HarvestRow, 'minutes' | 'worth'> & { operations: readonly string[]; gross: number };

/**
 * Which parts of a machine that is kept for its parts are worth the minutes, in an order that shares the way in: at each step the part, or the two parts, that bring most for
 * the minutes that are still needed. Then what is not worth it, by what it would lose alone. Parts that are never fitted used, that are taken already, that it failed of or that
 * nobody prices are not listed. O(parts² · work plans).
 */
export function harvestList(question: HarvestQuestion): HarvestRow[] {
  const { catalogue, platform, settings } = question;
  const { operations } = knowledgeFor(catalogue, platform);
  const left = new Map(candidatesOf(question).map((one) => [one.roleId + one.position, one]));
  const opened = new Set<string>();
  const way = (some: readonly Candidate[]) =>
    planWork(operations, unique(some.flatMap((one) => one.operations)), { done: [...opened] }).strip.filter(
      ({ operationId }) => !opened.has(operationId),
    );
  const minutesOf = (some: readonly Candidate[]) => sum(way(some).map(({ minutes }) => minutes));
  const cost = (minutes: number) =>
    shareOfMoney(settings.labourPerHour, Math.round((minutes / 60) * 10_000)).amountMinor;
  const netOf = (some: readonly Candidate[]) =>
    sum(some.map(({ gross, testMinutes }) => gross - cost(testMinutes))) - cost(minutesOf(some));
  const row = ({ operations: _operations, gross, ...one }: Candidate, minutes: number): HarvestRow => ({
    ...one,
    minutes,
    worth: money(gross - cost(minutes + one.testMinutes), settings.currency),
  });
  const rows: HarvestRow[] = [];
  for (;;) {
    const singles = [...left.values()];
    const choices = [
      ...singles.map((one) => [one]),
      ...singles.flatMap((one, index) => singles.slice(index + 1).map((other) => [one, other])),
    ].map((some) => ({ some, net: netOf(some) }));
    const best = choices.sort((a, b) => b.net - a.net || a.some.length - b.some.length)[0];
    if (!best || best.net <= 0) break;
    // Of two, the one that leads in first.
    const [first] = [...best.some].sort((a, b) => minutesOf([a]) - minutesOf([b]));
    if (!first) break;
    rows.push(row(first, minutesOf([first])));
    for (const { operationId } of way([first])) opened.add(operationId);
    left.delete(first.roleId + first.position);
  }
  const rest = [...left.values()]
    .map((one) => row(one, minutesOf([one])))
    .sort((a, b) => b.worth.amountMinor - a.worth.amountMinor);
  return [...rows, ...rest];
}

function candidatesOf(question: HarvestQuestion): Candidate[] {
  const { catalogue, donor, platform, demand, there, settings, today } = question;
  const { causes } = knowledgeFor(catalogue, platform);
  return catalogue.roles.flatMap((role): Candidate[] => {
    const terms = usedTerms(role);
    const mended = causes.filter((cause) => cause.roleId === role.id);
    const [shortest] = [...mended].sort((a, b) => a.operations.length - b.operations.length);
    if (!terms || !shortest) return [];
    const models = [{ modelId: donor.modelId, probability: 1 }];
    const { candidates } = partsFor(catalogue, { models, roleId: role.id, today });
    return unique(candidates.map(({ position }) => position)).flatMap((position): Candidate[] => {
      const carried = candidates.find(
        (one) => one.position === position && (one.route === 'maker' || one.route === 'sister'),
      );
      if (!carried) return [];
      const { listedPartId } = carried;
      const [match] = donorsFor(catalogue, [donor], {
        roleId: role.id,
        position,
        listedPartIds: [listedPartId],
        platformId: platform.id,
        today,
      });
      const part = catalogue.parts.find(({ id }) => id === listedPartId);
      const priced = pricedParts(catalogue, { models, serial: null, today }, role.id, 1, position, settings);
      const price = usedPrice(priced, settings);
      if (!match || !part || !price) return [];
      const within = demandWithin(demand(listedPartId), YEAR_DAYS);
      const wanted = Math.max(0, 1 - sum(within.slice(0, there(listedPartId) + 1)));
      const works = match.probability * terms.works;
      return [
        {
          roleId: role.id,
          roleName: role.name,
          position,
          partId: listedPartId,
          partNumber: part.partNumber,
          description: part.description,
          wanted,
          works,
          price,
          testMinutes: terms.testMinutes,
          test: terms.test,
          operations: shortest.operations,
          gross: Math.round(wanted * works * price.amountMinor),
        },
      ];
    });
  });
}
