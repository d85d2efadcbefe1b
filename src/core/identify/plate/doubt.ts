/*
 * How often people misread, and how much a list lacks, are estimates, and no shop's readings follow them exactly. A model that is a little wrong is too sure of itself,
 * the more so the more its evidence says: a rate twice as high as thought makes two slips four times as likely, and a number read without a slip says less than it
 * seems where slips are the rule. So evidence counts less than once: odds are raised to a power below one (the coarsened posterior; Miller and Dunson, Journal
 * of the American Statistical Association 114, 2019). What was thought before the reading stays as it is.
 */

/** Of what the reading says of one listed number against another. */
const AMONG_LISTED = 0.85;
/** Of what it says of 'not listed' against all listed numbers. */
const AGAINST_NONE = 0.65;
/**
 * ln of how much more is to be said for 'not listed' than the model of unlisted numbers says, where the listed numbers that it may be differ from the reading, on the mean over these: less where one stands alone, more with
 * every slip that it takes and with the listed numbers that lie as near, for where those are dense unlisted ones are too. Not of what is read just as a number, or what is left of it without
 * its ending, is listed. More of a photograph: its reader takes one character for another where people leave out, double and swap, and so seldom makes of a listed number what looks like no other.
 */
const FOR_NONE = { alone: -1.5, slip: 0.64, near: 0.38, photographed: 0.85 };
/** ln of how much likelier a listed number became another one that is listed than the rates say: nobody sees such a slip. As far as the reading is taken for one just as it is listed. */
const INTO_LISTED = 0.7;

export type Masses = {
  /**
   * Of the listed numbers that were weighed: before the reading, and with it; whether the reading gives it as it is listed; slips between it and the reading; and how many listed
   * numbers are about as near to the same stretch as the nearest.
   */
  listed: readonly Listed[];
  /** Of a number that is listed but was not read: it is no evidence, and moves nothing. */
  unread: number;
  unknown: number;
  /** Whether the text was read off a picture; else a person typed it. */
  photographed: boolean;
};
type Listed = { before: number; mass: number; exact: boolean; slips: number; near: number };
export type Shares = { listed: number[]; unread: number; unknown: number };

const forNone = ({ slips, near }: Listed, photographed: boolean): number =>
  FOR_NONE.alone +
  (photographed ? FOR_NONE.photographed : 0) +
  FOR_NONE.slip * slips +
  FOR_NONE.near * Math.log(1 + near);

/**
 * Probabilities with doubt in the model; they sum to one. Masses are relative. `before`: P(not listed) before anything is read, between 0 and 1.
 * O(listed).
 */
export function doubted({ listed: given, unread, unknown, photographed }: Masses, before: number): Shares {
  const whole = given.reduce((sum, one) => sum + one.mass, 0);
  const asListed = given.reduce((sum, one) => sum + (one.exact ? one.mass : 0), 0) / (whole || 1);
  const others = Math.exp(INTO_LISTED * asListed);
  const listed = given.map((one) => (one.exact ? one : { ...one, mass: one.mass * others }));
  const found = listed.reduce((sum, one) => sum + one.mass, 0);
  const all = found + unread;
  if (!(all > 0)) return { listed: listed.map(() => 0), unread: 0, unknown: 1 };
  const read = found / all;
  const more = listed.reduce((sum, one) => sum + (one.exact ? 0 : one.mass * forNone(one, photographed)), 0) / all;
  const said = Math.log((unknown * (1 - before)) / (all * before));
  const odds = (before / (1 - before)) * Math.exp((1 - read * (1 - AGAINST_NONE)) * said + more);
  const none = odds === Infinity ? 1 : odds / (1 + odds);
  return {
    listed: amongListed(listed).map((share) => (1 - none) * read * share),
    unread: (1 - none) * (1 - read),
    unknown: none,
  };
}

/**
 * What is read just as it is listed is weighed against what is not with the whole evidence: who types a listed number mostly means it. Within each of the two, odds count less. They sum to one;
 * all 0 where nothing was found.
 */
function amongListed(listed: Masses['listed']): number[] {
  const weightOf = ({ mass, before }: Masses['listed'][number]) => mass ** AMONG_LISTED * before ** (1 - AMONG_LISTED);
  const sums = (exact: boolean) =>
    listed.reduce(
      (sum, one) => (one.exact === exact ? { mass: sum.mass + one.mass, weight: sum.weight + weightOf(one) } : sum),
      { mass: 0, weight: 0 },
    );
  const [exact, near] = [sums(true), sums(false)];
  const all = exact.mass + near.mass;
  return listed.map((one) => {
    const own = one.exact ? exact : near;
    return own.weight > 0 && all > 0 ? (own.mass / all) * (weightOf(one) / own.weight) : 0;
  });
}
