import type { Catalogue, Part, Relation } from '../catalogue';
import { readPartNumber, type ExpectedNumber, type NumberDifference } from '../identify';
import { indexOnce, type PartId, type RoleId } from '../units';
import { crossReference } from './crossReference';

/*
 * The number printed on the old part is evidence of which machine this is, of which listing holds for it, and of what was fitted. What may be printed there follows
 * from what the machine may be: the number listed for it, mostly; else one that the cross-reference connects with that; else, after an earlier repair, anything.
 */

/** P(a number that the listings lead to is printed there | the machine is one that they are for). The rest: an earlier repair fitted another part. */
const LED_TO = 0.9;
/** P(it is the very number that was fitted when it was built | the listings lead to it). The rest is for what is sold in its place. */
const AS_BUILT = 0.7;
/** Even where these are a part's own numbers, any one of them may have been fitted: this share of the prior is the same for all (as `modelIndex` has it). */
const ALIKE = 0.1;
/** P(it is in the catalogue all the same | an earlier repair fitted a part that nothing leads to). Of another machine it is as often as the listings lead to a number. */
const FOREIGN_LISTED = 0.5;
/** P(this one number | it is one of the catalogue that nothing leads to): of the same role, or another. */
const FOREIGN = { sameRole: 1 / 30, otherRole: 1 / 1000 };

/** A number that may be the one on the old part. */
export type OldCandidate = {
  part: Part;
  probability: number;
  differences: NumberDifference[];
  /** A listing of this machine, or the cross-reference from one, leads to it. */
  ledTo: boolean;
};

/** What the number on an old part is taken for. The probabilities of the candidates, `unknown` and `unread` sum to one. */
export type OldNumber = {
  /** As it was read or typed. */
  text: string;
  /** Highest first. */
  candidates: OldCandidate[];
  /** P(it is in no list at hand). */
  unknown: number;
  /** P(the text does not have it). */
  unread: number;
  /** P(nothing leads from this machine to it): then an earlier repair may have fitted another part, or it is another machine. */
  noRoute: number;
};

/** What the machine may be, as far as the old part tells: its listings, each with how surely it fits. */
export type OldHypothesis = {
  probability: number;
  listings: readonly { partId: PartId; share: number }[];
  holds: (relation: Relation) => boolean;
};

const partsById = indexOnce((part: Part) => part.id);

/** P(number | the old part is of this listing), over the numbers that it leads to. */
function printedOn(
  catalogue: Pick<Catalogue, 'parts' | 'relations'>,
  partId: PartId,
  holds: (relation: Relation) => boolean,
): Map<PartId, number> {
  const reference = crossReference(catalogue, partId, holds);
  const built = asBuilt(partId, reference.relations, holds);
  const others = reference.parts.filter(({ id }) => id !== built);
  return new Map([
    [built, others.length ? AS_BUILT : 1],
    ...others.map(({ id }): [PartId, number] => [id, (1 - AS_BUILT) / others.length]),
  ]);
}

/** The number that was fitted when the machine was built: along the supersessions that hold from a date on. */
function asBuilt(partId: PartId, relations: readonly Relation[], holds: (relation: Relation) => boolean): PartId {
  const seen = new Set<PartId>();
  for (let at = partId; ;) {
    seen.add(at);
    const next = relations.find(
      (relation) =>
        relation.kind === 'superseded-by' &&
        relation.fromPartId === at &&
        relation.builtFrom !== undefined &&
        !seen.has(relation.toPartId) &&
        holds(relation),
    );
    if (!next) return at;
    at = next.toPartId;
  }
}

type Printed = ReadonlyMap<PartId, number>;
const NOTHING: Printed = new Map();

const printedBy = (catalogue: Pick<Catalogue, 'parts' | 'relations'>, { listings, holds }: OldHypothesis) =>
  listings.map(({ partId, share }): [number, Printed] => [share, printedOn(catalogue, partId, holds)]);

/**
 * What may be printed there before it is read: by number, over all hypotheses. `led`: P(the machine is one whose listings lead anywhere); the rest is for other machines.
 * `foreign`, `unlisted`: P(nothing leads to the number, and it is in the catalogue; and it is not).
 */
type Before = { weights: ReadonlyMap<PartId, number>; led: number; foreign: number; unlisted: number };

/** P(foreign), P(unlisted), where listings lead somewhere with this probability. */
const elseOf = (leads: number) => ({
  foreign: leads * (1 - LED_TO) * FOREIGN_LISTED + (1 - leads) * LED_TO,
  unlisted: leads * (1 - LED_TO) * (1 - FOREIGN_LISTED) + (1 - leads) * (1 - LED_TO),
});

/** Hypotheses and listings as they stand after the old part's number, in the order in which they were given. */
export type AfterOld = { old: OldNumber; probabilities: number[]; shares: number[][] };

/**
 * What the number on the old part says. Exact by Bayes over hypotheses that exclude one another: P(h | text) = Σ P(h | number) · P(number | text), with the same
 * prior of numbers in both. A listing that is not certain of itself (learned, or of sisters) is weighed against its not fitting in the same way. A hypothesis
 * without listings leads nowhere. O(hypotheses · listings · components).
 */
export function afterOldNumber(
  catalogue: Pick<Catalogue, 'parts' | 'relations'>,
  hypotheses: readonly OldHypothesis[],
  text: string,
  roleId: RoleId,
): AfterOld {
  const printed = hypotheses.map((hypothesis) => printedBy(catalogue, hypothesis));
  const of = printed.map(mixed);
  const before = expectedOf(hypotheses, of);
  const old = readOld(catalogue, before, text, roleId);
  const bayes = ratioOf(before, old);
  return {
    old,
    probabilities: hypotheses.map(({ probability }, h) => {
      const own = of[h] ?? NOTHING;
      return probability * (old.unread + bayes(own, own.size > 0 ? 1 : 0));
    }),
    shares: hypotheses.map(({ listings }, h) =>
      listings.map(({ share }, at) => {
        if (share >= 1) return share;
        const others = (printed[h] ?? []).filter((_, index) => index !== at);
        const leads = Math.min(
          1,
          others.reduce((sum, [weight]) => sum + weight, 0),
        );
        const is = share * bayes(printed[h]?.[at]?.[1] ?? NOTHING, 1);
        const isNot = (1 - share) * bayes(mixed(others), leads);
        const after = is + isNot > 0 ? is / (is + isNot) : share;
        return old.unread * share + (1 - old.unread) * after;
      }),
    ),
  };
}

/** The numbers that may be printed on a part of one role, with P(number | the machine is one of these). */
export function numbersLedTo(
  catalogue: Pick<Catalogue, 'parts' | 'relations'>,
  hypotheses: readonly OldHypothesis[],
): ReadonlyMap<PartId, number> {
  const of = hypotheses.map((hypothesis) => mixed(printedBy(catalogue, hypothesis)));
  return expectedOf(hypotheses, of).weights;
}

function expectedOf(hypotheses: readonly OldHypothesis[], of: readonly Printed[]): Before {
  const weights = new Map<PartId, number>();
  let led = 0;
  hypotheses.forEach(({ probability }, h) => {
    const own = of[h] ?? NOTHING;
    if (own.size > 0) led += probability;
    for (const [partId, share] of own) weights.set(partId, (weights.get(partId) ?? 0) + probability * share);
  });
  led = Math.min(1, led);
  return { weights, led, ...elseOf(led) };
}

function readOld(
  { parts }: Pick<Catalogue, 'parts'>,
  { weights, foreign, unlisted }: Before,
  text: string,
  roleId: RoleId,
): OldNumber {
  const one = (part: Part) => foreign * (part.roleId === roleId ? FOREIGN.sameRole : FOREIGN.otherRole);
  const numbered = (part: Part, prior: number): ExpectedNumber => ({
    partId: part.id,
    partNumber: part.partNumber,
    prior,
  });
  const reading = readPartNumber(
    {
      expected: parts.flatMap((part) =>
        weights.has(part.id) ? [numbered(part, LED_TO * (weights.get(part.id) ?? 0))] : [],
      ),
      elsewhere: atMost(
        parts.filter(({ id }) => !weights.has(id)).map((part) => numbered(part, one(part))),
        foreign,
      ),
      unlisted,
    },
    text,
  );
  const byId = partsById(parts);
  const candidates = reading.candidates.flatMap(({ partId, probability, differences }): OldCandidate[] =>
    (byId.get(partId) ?? []).slice(0, 1).map((part) => ({
      part,
      probability,
      differences,
      ledTo: weights.has(partId),
    })),
  );
  const foreignShare = candidates.reduce((sum, { ledTo, probability }) => sum + (ledTo ? 0 : probability), 0);
  return {
    text,
    candidates,
    unknown: reading.unknown,
    unread: reading.unread,
    noRoute: reading.unknown + foreignShare,
  };
}

/** P(text has this number | what may be printed) over P(text), by what may be printed and P(the listings lead to it at all). */
function ratioOf(
  { weights, led, foreign, unlisted }: Before,
  { candidates, unknown, noRoute }: OldNumber,
): (of: Printed, leads: number) => number {
  const each = 1 / Math.max(1, weights.size);
  const ratios = candidates
    .filter(({ ledTo }) => ledTo)
    .map(({ part, probability }) => {
      const prior = LED_TO * ((1 - ALIKE) * (weights.get(part.id) ?? 0) + ALIKE * led * each);
      return { partId: part.id, ratio: probability / prior };
    });
  const [ofForeign, ofUnlisted] = [(noRoute - unknown) / foreign, unknown / unlisted];
  return (of, leads) => {
    const other = elseOf(leads);
    const listed = ratios.reduce(
      (sum, { partId, ratio }) => sum + ratio * ((1 - ALIKE) * (of.get(partId) ?? 0) + ALIKE * each),
      0,
    );
    return leads * LED_TO * listed + other.foreign * ofForeign + other.unlisted * ofUnlisted;
  };
}

/** Mixes what may be printed by weight; sums to one, or is empty. */
function mixed(of: readonly [number, Printed][]): Printed {
  const total = of.reduce((sum, [weight]) => sum + weight, 0);
  const mix = new Map<PartId, number>();
  for (const [weight, printed] of of)
    if (weight > 0)
      for (const [partId, share] of printed) mix.set(partId, (mix.get(partId) ?? 0) + (weight * share) / total);
  return mix;
}

/** Together no more than `most`. */
function atMost(numbers: readonly ExpectedNumber[], most: number): ExpectedNumber[] {
  const total = numbers.reduce((sum, { prior }) => sum + prior, 0);
  return total <= most ? [...numbers] : numbers.map((number) => ({ ...number, prior: (number.prior * most) / total }));
}
