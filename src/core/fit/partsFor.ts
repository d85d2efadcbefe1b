import type { Catalogue, Fit, Model, Part, Position, Relation } from '../catalogue';
import { readSerial, type ExpectedNumber } from '../identify';
import {
  addDays,
  groupBy,
  indexOnce,
  unique,
  type LocalDate,
  type ModelId,
  type PartId,
  type RoleId,
  type PlatformId,
} from '../units';
import { crossReference, type CrossReferenceProblem } from './crossReference';
import { afterOldNumber, numbersLedTo, type OldHypothesis, type OldNumber } from './oldNumber';

/** One step of the chain of reasons from the machine to a number. */
export type FitReason =
  | { kind: 'listed-for-model'; modelId: ModelId }
  | { kind: 'listed-for-platform'; platformId: PlatformId }
  /** Learned: how surely, by how often it was proved and how often it did not help. */
  | { kind: 'fitted-before'; probability: number }
  | { kind: 'fitted-to-sisters'; platformId: PlatformId; models: number }
  | { kind: 'serial-within'; builtFrom: LocalDate | null; builtTo: LocalDate | null }
  | { kind: 'serial-open'; builtFrom: LocalDate | null; builtTo: LocalDate | null }
  | { kind: 'position'; position: Position }
  | {
      kind: 'superseded';
      fromPartId: PartId;
      toPartId: PartId;
      source: string;
      /** Only for machines built in this window. */
      builtFrom?: LocalDate;
      builtTo?: LocalDate;
    }
  | { kind: 'interchangeable'; partId: PartId; source: string }
  | { kind: 'sister-number'; partId: PartId; source: string }
  | { kind: 'generic-for'; partId: PartId; source: string; note: string | null }
  | { kind: 'kit-contains'; partId: PartId; quantity: number }
  | { kind: 'typed'; supplierName: string }
  /** The old part bears this number: the very one that is bought, or one that it is sold in place of. */
  | { kind: 'on-the-old-part'; partId: PartId; same: boolean; probability: number };

/** typed: no catalogue lists it; somebody read or typed the number. */
export type FitRoute = 'typed' | 'maker' | 'sister' | 'generic' | 'kit';

export type FitCandidate = {
  /** What to buy; a split needs several together. */
  buy: { partId: PartId; quantity: number }[];
  part: Part;
  listedPartId: PartId;
  position: Position;
  route: FitRoute;
  /** Probability that this fits this machine, over the model candidates and open serial breaks. Not exclusive: several numbers may all fit. */
  probability: number;
  reasons: FitReason[];
};

export type FitQuestion = {
  models: readonly { modelId: ModelId; probability: number }[];
  roleId: RoleId;
  position?: Position | undefined;
  serial?: string | undefined;
  today: LocalDate;
  /** How many sets of what a fit names are wanted: 1 when missing. */
  sets?: number | undefined;
  /** The number on the old part, as it was read or typed. */
  oldNumber?: string | undefined;
};

export type FitAnswer = {
  candidates: FitCandidate[];
  problems: CrossReferenceProblem[];
  positions: Position[];
  /** null where nobody read it. */
  old: OldNumber | null;
};

/** P(a part listed for sisters on the platform, but not for this model, fits it). */
const SISTER_SHARE = 0.85;
/** P(a generic offered for a number really fits without further measuring). */
const ROUTE_TRUST: Record<FitRoute, number> = { typed: 1, maker: 1, sister: 0.98, kit: 1, generic: 0.9 };
const ROUTE_ORDER: FitRoute[] = ['typed', 'maker', 'sister', 'generic', 'kit'];

const partsById = indexOnce((part: Part) => part.id);
const modelsById = indexOnce((model: Model) => model.id);
const fitsByRole = indexOnce((fit: Fit) => fit.roleId);

/** When the machine may have been built. */
export type BuildWindow = { builtFrom: LocalDate; builtTo: LocalDate; probability: number };
/** A listing that may hold for a machine of one model. `share`: P(it fits) where it holds; 1 but for what is only listed for sisters. */
type Listing = { fit: Fit; share: number; reasons: FitReason[] };
/** What a machine may be: a model, and a stretch of build dates in which the same listings and supersessions hold. They exclude one another. */
type Hypothesis = { probability: number; listings: Listing[]; holds: (relation: Relation) => boolean };

/**
 * The numbers that mend this role on this machine, with the chain of reasons for each: fits by model and platform, position, serial break,
 * then along supersessions to what is sold today, and across to sister numbers, generics and kits. Likeliest and most direct first.
 * A number's probability is summed over what the machine may be (models and stretches of build dates exclude one another); within one of these the surest of its ways counts,
 * so that a number listed twice is no surer than listed once. The number on the old part, where it was read, is evidence of all that (`oldNumber.ts`), and what was in the
 * machine comes first among equals. O(hypotheses × (fits + components)).
 */
export function partsFor(catalogue: Catalogue, question: FitQuestion): FitAnswer {
  const problems: CrossReferenceProblem[] = [];
  const positions = new Set<Position>();
  const found = new Map<string, FitCandidate>();
  const parts = partsById(catalogue.parts);
  const { hypotheses, old } = seenOnOld(catalogue, question, hypothesesOf(catalogue, question));
  const fitted = fittedBefore(catalogue, old);
  for (const { probability, listings, holds } of hypotheses) {
    const here = new Map<string, FitCandidate>();
    for (const { fit, share, reasons } of listings) {
      positions.add(fit.position);
      if (!isWanted(fit.position, question.position)) continue;
      const position: FitReason[] = fit.position === 'any' ? [] : [{ kind: 'position', position: fit.position }];
      const units = Math.ceil(fit.quantity * (question.sets ?? 1));
      for (const offer of routesOf(catalogue, fit.partId, holds, problems)) {
        const buy = offer.buy.map((entry) => ({
          partId: entry.partId,
          quantity: offer.holds === null ? entry.quantity * units : Math.ceil(units / offer.holds) * entry.quantity,
        }));
        const part = buy[0] && parts.get(buy[0].partId)?.[0];
        if (!part) continue;
        const key = `${fit.position} ${buy.map((entry) => entry.partId).join('+')}`;
        const trust = ROUTE_TRUST[offer.route];
        // What was in this machine and ran needs no trust.
        const p = probability * share * (trust + (1 - trust) * fitted.same(buy));
        if (p <= (here.get(key)?.probability ?? 0)) continue;
        here.set(key, {
          buy,
          part,
          listedPartId: fit.partId,
          position: fit.position,
          route: offer.route,
          probability: p,
          reasons: [...reasons, ...position, ...offer.reasons, ...fitted.reasons(buy)],
        });
      }
    }
    for (const [key, candidate] of here) {
      const known = found.get(key);
      if (known) known.probability = Math.min(1, known.probability + candidate.probability);
      else found.set(key, candidate);
    }
  }
  const candidates = [...found.values()].sort(
    (a, b) =>
      Math.round((b.probability - a.probability) * 4) ||
      fitted.rank(a.buy) - fitted.rank(b.buy) ||
      ROUTE_ORDER.indexOf(a.route) - ROUTE_ORDER.indexOf(b.route) ||
      b.probability - a.probability,
  );
  return { candidates, problems, positions: [...positions], old };
}

/** A number that may be printed on a part of this machine. */
export type NumberOnMachine = ExpectedNumber & { roleId: RoleId };

/** The numbers that may be printed on the parts of this machine, of every role; the priors sum to one at most, each role alike. O(roles · as `partsFor`). */
export function numbersOn(
  catalogue: Catalogue,
  question: Pick<FitQuestion, 'models' | 'serial' | 'today'>,
): NumberOnMachine[] {
  const parts = partsById(catalogue.parts);
  const roles = [...fitsByRole(catalogue.fits).keys()];
  return roles.flatMap((roleId) => {
    const hypotheses = hypothesesOf(catalogue, { ...question, roleId });
    return [...numbersLedTo(catalogue, hypotheses.map(asOld))].flatMap(([partId, weight]): NumberOnMachine[] => {
      const partNumber = parts.get(partId)?.[0]?.partNumber;
      return partNumber === undefined ? [] : [{ partId, partNumber, roleId, prior: weight / roles.length }];
    });
  });
}

const asOld = ({ probability, listings, holds }: Hypothesis): OldHypothesis => ({
  probability,
  holds,
  listings: listings.map(({ fit, share }) => ({ partId: fit.partId, share })),
});

/** The hypotheses as the number on the old part leaves them. */
function seenOnOld(
  catalogue: Catalogue,
  { oldNumber, roleId, position }: FitQuestion,
  before: Hypothesis[],
): { hypotheses: Hypothesis[]; old: OldNumber | null } {
  if (oldNumber === undefined) return { hypotheses: before, old: null };
  const asked = before.map((hypothesis) => ({
    ...hypothesis,
    listings: hypothesis.listings.filter(({ fit }) => isWanted(fit.position, position)),
  }));
  const { old, probabilities, shares } = afterOldNumber(catalogue, asked.map(asOld), oldNumber, roleId);
  const hypotheses = before.map((hypothesis, h) => ({
    ...hypothesis,
    probability: probabilities[h] ?? 0,
    listings: hypothesis.listings.map((listing) => {
      const share = shares[h]?.[asked[h]?.listings.indexOf(listing) ?? -1];
      return share === undefined ? listing : { ...listing, share };
    }),
  }));
  return { hypotheses, old };
}

type Bought = FitCandidate['buy'];
/** The old part's number counts where it is likelier than not. */
export const LIKELY = 0.5;

/** What was in the machine: its number, and what is sold in place of that today. */
function fittedBefore(
  catalogue: Catalogue,
  old: OldNumber | null,
): { same: (buy: Bought) => number; reasons: (buy: Bought) => FitReason[]; rank: (buy: Bought) => number } {
  const [lead] = old?.candidates ?? [];
  if (!lead || lead.probability < LIKELY) return { same: () => 0, reasons: () => [], rank: () => 0 };
  const { part, probability } = lead;
  const today = crossReference(catalogue, part.id).soldToday?.parts.map(({ partId }) => partId) ?? [];
  const isSame = (buy: Bought) => buy.length === 1 && buy[0]?.partId === part.id;
  const isToday = (buy: Bought) => buy.every(({ partId }) => partId === part.id || today.includes(partId));
  return {
    same: (buy) => (isSame(buy) ? probability : 0),
    reasons: (buy) =>
      isToday(buy) ? [{ kind: 'on-the-old-part', partId: part.id, same: isSame(buy), probability }] : [],
    rank: (buy) => (isToday(buy) ? 0 : 1),
  };
}

const isWanted = (position: Position, wanted: Position | undefined): boolean =>
  wanted === undefined || wanted === 'any' || position === 'any' || position === wanted;

/** Every model the machine may be, cut where a listing or a supersession begins or ends to hold. */
function hypothesesOf(catalogue: Catalogue, question: FitQuestion): Hypothesis[] {
  const models = modelsById(catalogue.models);
  const ofRole = fitsByRole(catalogue.fits).get(question.roleId) ?? [];
  return question.models.flatMap(({ modelId, probability }): Hypothesis[] => {
    const model = models.get(modelId)?.[0];
    if (!model) return [];
    const windows = windowsOf(catalogue, model, question);
    const direct = ofRole.filter((fit) => fit.modelId === modelId || fit.platformId === model.platformId);
    // What was only learned here does not silence the sisters.
    const listed = direct.some((fit) => fit.probability === undefined);
    const listings = [
      ...directListings(direct, model, windows),
      ...(listed ? [] : sisterListings(catalogue, ofRole, model)),
    ];
    const relations = unique(listings.flatMap(({ fit }) => crossReference(catalogue, fit.partId).relations));
    const spans = [...direct, ...relations.filter(({ kind }) => kind === 'superseded-by')];
    return stretchesOf(spans, windows).map(({ share, holds }) => ({
      probability: probability * share,
      listings: listings.filter(({ fit }) => !direct.includes(fit) || holds(fit)),
      holds,
    }));
  });
}

function directListings(direct: readonly Fit[], model: Model, windows: readonly BuildWindow[]): Listing[] {
  return direct.map((fit): Listing => {
    const why = whyListed(fit, model);
    // What the shop learned says how surely; a list is taken at its word.
    return { fit, share: fit.probability ?? 1, reasons: [why, ...serialReason(fit, windows)] };
  });
}

function whyListed({ modelId, probability }: Fit, model: Model): FitReason {
  if (probability !== undefined) return { kind: 'fitted-before', probability };
  return modelId
    ? { kind: 'listed-for-model', modelId: model.id }
    : { kind: 'listed-for-platform', platformId: model.platformId };
}

/** What the sisters take where nothing is listed for this model: position by position, each number by how many sisters take it there. */
function sisterListings(catalogue: Catalogue, ofRole: readonly Fit[], { id, platformId }: Model): Listing[] {
  const sisters = new Set(
    catalogue.models.filter((other) => other.platformId === platformId && other.id !== id).map((other) => other.id),
  );
  const fits = ofRole.filter((fit) => fit.modelId !== undefined && sisters.has(fit.modelId));
  return [...groupBy(fits, (fit) => fit.position).values()].flatMap((there) =>
    [...groupBy(there, (fit) => fit.partId).values()].flatMap((same): Listing[] => {
      const [fit] = same;
      if (!fit) return [];
      const share = (SISTER_SHARE * same.length) / there.length;
      return [{ fit, share, reasons: [{ kind: 'fitted-to-sisters', platformId, models: same.length }] }];
    }),
  );
}

/** The windows in which a machine of this model may have been built: by its serial, else by the years of production. */
export function windowsOf(
  catalogue: Pick<Catalogue, 'serial_schemes'>,
  model: Model,
  { serial, today }: { serial?: string | null | undefined; today: LocalDate },
): BuildWindow[] {
  const { producedFrom, producedTo } = model;
  const reading = serial
    ? readSerial(catalogue.serial_schemes, model.makerId, serial, { producedFrom, producedTo, today })
    : null;
  return reading?.candidates.length
    ? reading.candidates
    : [{ builtFrom: producedFrom, builtTo: producedTo ?? today, probability: 1 }];
}

type Span = { builtFrom?: LocalDate | undefined; builtTo?: LocalDate | undefined };

/** Probability that the machine was built within a span. */
export const shareWithin = (windows: readonly BuildWindow[], { builtFrom, builtTo }: Span): number =>
  windows.reduce(
    (sum, window) => sum + window.probability * overlap(window.builtFrom, window.builtTo, builtFrom, builtTo),
    0,
  );

/** What a serial break says of a listing: settled by the date, or open. */
function serialReason(fit: Fit, windows: readonly BuildWindow[]): FitReason[] {
  if (fit.builtFrom === undefined && fit.builtTo === undefined) return [];
  const limits = { builtFrom: fit.builtFrom ?? null, builtTo: fit.builtTo ?? null };
  return [{ kind: shareWithin(windows, fit) > 0.999 ? 'serial-within' : 'serial-open', ...limits }];
}

type Stretch = { share: number; holds: (span: Span) => boolean };

/** Cuts the build dates where any span begins or ends, so that in each stretch the same ones hold. One stretch where nothing depends on the date. O(spans²). */
function stretchesOf(spans: readonly Span[], windows: readonly BuildWindow[]): Stretch[] {
  const starts = unique(
    spans.flatMap(({ builtFrom, builtTo }) => [
      ...(builtFrom ? [builtFrom] : []),
      ...(builtTo ? [addDays(builtTo, 1)] : []),
    ]),
  ).sort();
  if (starts.length === 0) return [{ share: 1, holds: () => true }];
  return [undefined, ...starts].flatMap((from, index): Stretch[] => {
    const next = starts[index];
    const share = shareWithin(windows, {
      builtFrom: from,
      builtTo: next ? addDays(next, -1) : undefined,
    });
    if (share <= 0) return [];
    const holds = ({ builtFrom, builtTo }: Span) =>
      (builtFrom === undefined || (from !== undefined && builtFrom <= from)) &&
      // A stretch lies wholly before a span's end or wholly after it.
      (builtTo === undefined || from === undefined || from <= builtTo);
    return [{ share, holds }];
  });
}

function overlap(from: LocalDate, to: LocalDate, low: LocalDate | undefined, high: LocalDate | undefined): number {
  const day = (date: LocalDate) => Date.parse(`${date}T00:00:00Z`) / 86_400_000;
  const length = day(to) - day(from) + 1;
  const inside = Math.min(day(to), high ? day(high) : Infinity) - Math.max(day(from), low ? day(low) : -Infinity) + 1;
  return Math.max(0, Math.min(1, inside / Math.max(1, length)));
}

/** `holds`: pieces of the part that one kit has; null where the number is the part itself. */
type Route = {
  buy: { partId: PartId; quantity: number }[];
  route: FitRoute;
  holds: number | null;
  reasons: FitReason[];
};

/** Every number under which a listed part can be bought today, as the supersessions hold. */
function routesOf(
  catalogue: Catalogue,
  listedPartId: PartId,
  holds: (relation: Relation) => boolean,
  problems: CrossReferenceProblem[],
): Route[] {
  const reference = crossReference(catalogue, listedPartId, holds);
  for (const problem of reference.problems)
    if (!problems.some((known) => JSON.stringify(known) === JSON.stringify(problem))) problems.push(problem);
  const routes: Route[] = [];
  const chain: PartId[] = [listedPartId];
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
    routes.push({ buy: reference.soldToday.parts, route: 'maker', holds: null, reasons });
  }
  // Equal numbers hang on any number of the chain, newest first.
  for (const at of unique(chain.reverse())) {
    for (const relation of reference.relations) {
      const other =
        relation.fromPartId === at ? relation.toPartId : relation.toPartId === at ? relation.fromPartId : null;
      if (other === null || chain.includes(other)) continue;
      const add = (route: FitRoute, partId: PartId, reason: FitReason, pieces: number | null = null) => {
        const sold = crossReference(catalogue, partId, holds).soldToday;
        if (sold) routes.push({ buy: sold.parts, route, holds: pieces, reasons: [reason] });
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
        add('kit', other, { kind: 'kit-contains', partId: at, quantity: relation.quantity }, relation.quantity);
    }
  }
  return routes;
}
