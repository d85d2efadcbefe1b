import type { Catalogue, Fit, Part, Position, Relation } from '../catalogue';
import { readSerial } from '../identify';
import { addDays, keyBy, unique } from '../units';
import { crossReference, type CrossReferenceProblem } from './crossReference';

/** One step of the chain of reasons from the machine to a number. */
export type FitReason =
  | { kind: 'listed-for-model'; modelId: string }
  | { kind: 'listed-for-platform'; platformId: string }
  | { kind: 'fitted-to-sisters'; platformId: string; models: number }
  | { kind: 'serial-within'; builtFrom: string | null; builtTo: string | null }
  | { kind: 'serial-open'; builtFrom: string | null; builtTo: string | null }
  | { kind: 'position'; position: Position }
  | {
      kind: 'superseded';
      fromPartId: string;
      toPartId: string;
      source: string;
      /** Only for machines built in this window. */
      builtFrom?: string;
      builtTo?: string;
    }
  | { kind: 'interchangeable'; partId: string; source: string }
  | { kind: 'sister-number'; partId: string; source: string }
  | { kind: 'generic-for'; partId: string; source: string; note: string | null }
  | { kind: 'kit-contains'; partId: string; quantity: number };

export type FitRoute = 'maker' | 'sister' | 'generic' | 'kit';

export type FitCandidate = {
  /** What to buy; a split needs several together. */
  buy: { partId: string; quantity: number }[];
  part: Part;
  listedPartId: string;
  position: Position;
  route: FitRoute;
  /** Probability that this fits this machine, over the model candidates and open serial breaks. Not exclusive: several numbers may all fit. */
  probability: number;
  reasons: FitReason[];
};

export type FitQuestion = {
  models: readonly { modelId: string; probability: number }[];
  roleId: string;
  position?: Position | undefined;
  serial?: string | undefined;
  today: string;
};

export type FitAnswer = { candidates: FitCandidate[]; problems: CrossReferenceProblem[]; positions: Position[] };

/** P(a part listed for sisters on the platform, but not for this model, fits it). */
const SISTER_SHARE = 0.85;
/** P(a generic offered for a number really fits without further measuring). */
const ROUTE_TRUST: Record<FitRoute, number> = { maker: 1, sister: 0.98, kit: 1, generic: 0.9 };
const ROUTE_ORDER: FitRoute[] = ['maker', 'sister', 'generic', 'kit'];

/** When the machine may have been built. */
type BuildWindow = { builtFrom: string; builtTo: string; probability: number };
type Listed = { fit: Fit; weight: number; reasons: FitReason[]; windows: BuildWindow[] };

/**
 * The numbers that mend this role on this machine, with the chain of reasons for each: fits by model and platform, position, serial break,
 * then along supersessions to what is sold today, and across to sister numbers, generics and kits. Likeliest and most direct first.
 * O(fits + components).
 */
export function partsFor(catalogue: Catalogue, question: FitQuestion): FitAnswer {
  const listed = listedParts(catalogue, question);
  const positions = unique(listed.map(({ fit }) => fit.position));
  const wanted = listed.filter(
    ({ fit }) =>
      question.position === undefined ||
      question.position === 'any' ||
      fit.position === 'any' ||
      fit.position === question.position,
  );
  const parts = keyBy(catalogue.parts, (part) => part.id);
  const problems: CrossReferenceProblem[] = [];
  const found = new Map<string, FitCandidate>();

  for (const { fit, weight, reasons, windows } of wanted) {
    const position: FitReason[] = fit.position === 'any' ? [] : [{ kind: 'position', position: fit.position }];
    for (const offer of offersFor(catalogue, fit.partId, windows, problems)) {
      const part = parts.get(offer.buy[0]?.partId ?? '');
      if (!part) continue;
      const key = `${fit.position} ${offer.buy.map((entry) => entry.partId).join('+')}`;
      const known = found.get(key);
      const probability = weight * offer.share * ROUTE_TRUST[offer.route];
      if (known) {
        known.probability = Math.min(1, known.probability + probability);
        continue;
      }
      const quantity = offer.route === 'kit' ? 1 : fit.quantity;
      found.set(key, {
        buy: offer.buy.map((entry) => ({ partId: entry.partId, quantity: entry.quantity * quantity })),
        part,
        listedPartId: fit.partId,
        position: fit.position,
        route: offer.route,
        probability,
        reasons: [...reasons, ...position, ...offer.reasons],
      });
    }
  }
  const candidates = [...found.values()].sort(
    (a, b) =>
      Math.round((b.probability - a.probability) * 4) ||
      ROUTE_ORDER.indexOf(a.route) - ROUTE_ORDER.indexOf(b.route) ||
      b.probability - a.probability,
  );
  return { candidates, problems, positions };
}

function listedParts(catalogue: Catalogue, question: FitQuestion): Listed[] {
  const models = keyBy(catalogue.models, (model) => model.id);
  const listed = new Map<string, Listed>();
  const add = (fit: Fit, weight: number, reasons: FitReason[], windows: BuildWindow[]) => {
    const key = `${fit.partId} ${fit.position}`;
    const known = listed.get(key);
    if (known) known.weight = Math.min(1, known.weight + weight);
    else listed.set(key, { fit, weight, reasons, windows });
  };
  for (const { modelId, probability } of question.models) {
    const model = models.get(modelId);
    if (!model) continue;
    const ofRole = catalogue.fits.filter((fit) => fit.roleId === question.roleId);
    const own = ofRole.filter((fit) => fit.modelId === modelId);
    const platform = ofRole.filter((fit) => fit.platformId === model.platformId);
    const sisters = new Set(
      catalogue.models
        .filter((other) => other.platformId === model.platformId && other.id !== modelId)
        .map((other) => other.id),
    );
    const direct = [...own, ...platform];
    const windows = windowsOf(catalogue, model, question);
    for (const fit of direct) {
      const serial = serialShare(fit, windows);
      if (serial.share <= 0) continue;
      const why: FitReason = fit.modelId
        ? { kind: 'listed-for-model', modelId }
        : { kind: 'listed-for-platform', platformId: model.platformId };
      add(fit, probability * serial.share, serial.reason ? [why, serial.reason] : [why], within(windows, fit));
    }
    if (direct.length > 0) continue;
    const sisterFits = ofRole.filter((fit) => fit.modelId !== undefined && sisters.has(fit.modelId));
    for (const [partId, count] of countBy(sisterFits.map((fit) => fit.partId))) {
      const fit = sisterFits.find((candidate) => candidate.partId === partId);
      if (fit)
        add(
          fit,
          (probability * SISTER_SHARE * count) / sisterFits.length,
          [{ kind: 'fitted-to-sisters', platformId: model.platformId, models: count }],
          windows,
        );
    }
  }
  return [...listed.values()];
}

const countBy = (values: readonly string[]): Map<string, number> => {
  const counts = new Map<string, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return counts;
};

/** The windows in which a machine of this model may have been built: by its serial, else by the years of production. */
function windowsOf(catalogue: Catalogue, model: Catalogue['models'][number], question: FitQuestion): BuildWindow[] {
  const reading = question.serial
    ? readSerial(catalogue.serial_schemes, model.makerId, question.serial, {
        producedFrom: model.producedFrom,
        producedTo: model.producedTo,
        today: question.today,
      })
    : null;
  return reading?.candidates.length
    ? reading.candidates
    : [{ builtFrom: model.producedFrom, builtTo: model.producedTo ?? question.today, probability: 1 }];
}

type Span = { builtFrom?: string | undefined; builtTo?: string | undefined };

/** Probability that the machine was built within a span. */
const shareWithin = (windows: readonly BuildWindow[], { builtFrom, builtTo }: Span): number =>
  windows.reduce(
    (sum, window) => sum + window.probability * overlap(window.builtFrom, window.builtTo, builtFrom, builtTo),
    0,
  );

/** The windows as they are once it is known that the machine lies within a fit's serial break. */
function within(windows: readonly BuildWindow[], { builtFrom, builtTo }: Span): BuildWindow[] {
  const total = shareWithin(windows, { builtFrom, builtTo });
  return windows.flatMap((window) => {
    const share = overlap(window.builtFrom, window.builtTo, builtFrom, builtTo);
    if (share <= 0 || total <= 0) return [];
    return [
      {
        builtFrom: builtFrom && builtFrom > window.builtFrom ? builtFrom : window.builtFrom,
        builtTo: builtTo && builtTo < window.builtTo ? builtTo : window.builtTo,
        probability: (window.probability * share) / total,
      },
    ];
  });
}

/** Share of the possible build dates that lie within a fit's serial break. */
function serialShare(fit: Fit, windows: readonly BuildWindow[]): { share: number; reason?: FitReason } {
  if (fit.builtFrom === undefined && fit.builtTo === undefined) return { share: 1 };
  const limits = { builtFrom: fit.builtFrom ?? null, builtTo: fit.builtTo ?? null };
  const share = shareWithin(windows, fit);
  return { share, reason: { kind: share > 0.999 ? 'serial-within' : 'serial-open', ...limits } };
}

/** A stretch of build dates in which the same supersessions hold, and how likely the machine is of it. */
type Era = { share: number; holds: (relation: Relation) => boolean };

/**
 * Cuts the build dates where supersessions begin or end to hold, so that each era has one answer. One era where nothing depends on the date.
 * O(eras × relations).
 */
function erasOf(relations: readonly Relation[], windows: readonly BuildWindow[]): Era[] {
  const dated = relations.filter(
    (relation) =>
      relation.kind === 'superseded-by' && (relation.builtFrom !== undefined || relation.builtTo !== undefined),
  );
  if (dated.length === 0) return [{ share: 1, holds: () => true }];
  const starts = unique(
    dated.flatMap(({ builtFrom, builtTo }) => [
      ...(builtFrom ? [builtFrom] : []),
      ...(builtTo ? [addDays(builtTo, 1)] : []),
    ]),
  ).sort();
  return ['', ...starts].flatMap((from, at): Era[] => {
    const next = starts[at];
    const share = shareWithin(windows, {
      builtFrom: from || undefined,
      builtTo: next ? addDays(next, -1) : undefined,
    });
    if (share <= 0) return [];
    const holds = ({ builtFrom, builtTo }: Relation) =>
      (builtFrom === undefined || (from !== '' && builtFrom <= from)) &&
      (builtTo === undefined || (next !== undefined && builtTo < next));
    return [{ share, holds }];
  });
}

function overlap(from: string, to: string, low: string | undefined, high: string | undefined): number {
  const day = (date: string) => Date.parse(`${date}T00:00:00Z`) / 86_400_000;
  const length = day(to) - day(from) + 1;
  const inside = Math.min(day(to), high ? day(high) : Infinity) - Math.max(day(from), low ? day(low) : -Infinity) + 1;
  return Math.max(0, Math.min(1, inside / Math.max(1, length)));
}

type Route = { buy: { partId: string; quantity: number }[]; route: FitRoute; share: number; reasons: FitReason[] };

/** Every number under which a listed part can be bought today, each with the share of the build dates for which that holds. */
function offersFor(
  catalogue: Catalogue,
  listedPartId: string,
  windows: readonly BuildWindow[],
  problems: CrossReferenceProblem[],
): Route[] {
  const component = crossReference(catalogue, listedPartId).relations;
  return erasOf(component, windows).flatMap((era) => routesOf(catalogue, listedPartId, era, problems));
}

function routesOf(
  catalogue: Catalogue,
  listedPartId: string,
  { share, holds }: Era,
  problems: CrossReferenceProblem[],
): Route[] {
  const reference = crossReference(catalogue, listedPartId, holds);
  for (const problem of reference.problems)
    if (!problems.some((known) => JSON.stringify(known) === JSON.stringify(problem))) problems.push(problem);
  const routes: Route[] = [];
  const chain: string[] = [listedPartId];
  if (reference.soldToday) {
    const reasons = reference.soldToday.via.map((relation): FitReason => ({
      kind: 'superseded',
      fromPartId: relation.fromPartId,
      toPartId: relation.toPartId,
      source: relation.source,
      ...(relation.builtFrom === undefined ? {} : { builtFrom: relation.builtFrom }),
      ...(relation.builtTo === undefined ? {} : { builtTo: relation.builtTo }),
    }));
    chain.push(...reference.soldToday.via.flatMap((relation) => [relation.fromPartId, relation.toPartId]));
    routes.push({ buy: reference.soldToday.parts, route: 'maker', share, reasons });
  }
  // Equal numbers hang on any number of the chain, newest first.
  for (const at of unique(chain.reverse())) {
    for (const relation of reference.relations) {
      const other =
        relation.fromPartId === at ? relation.toPartId : relation.toPartId === at ? relation.fromPartId : null;
      if (other === null || chain.includes(other)) continue;
      const add = (route: FitRoute, partId: string, reason: FitReason) => {
        const sold = crossReference(catalogue, partId, holds).soldToday;
        if (sold) routes.push({ buy: sold.parts, route, share, reasons: [reason] });
      };
      if (relation.kind === 'sister')
        add('sister', other, { kind: 'sister-number', partId: at, source: relation.source });
      else if (relation.kind === 'interchangeable')
        add('sister', other, { kind: 'interchangeable', partId: at, source: relation.source });
      else if (relation.kind === 'generic' && relation.fromPartId === at)
        add('generic', other, {
          kind: 'generic-for',
          partId: at,
          source: relation.source,
          note: relation.note ?? null,
        });
      else if (relation.kind === 'contains' && relation.toPartId === at)
        add('kit', other, { kind: 'kit-contains', partId: at, quantity: relation.quantity });
    }
  }
  return routes;
}
