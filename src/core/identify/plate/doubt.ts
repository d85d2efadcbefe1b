/*
 * How often people misread, and how much a list lacks, are estimates, and no shop's readings follow them exactly. A model that is a little wrong is too sure of itself,
 * the more so the more its evidence says: a rate twice as high as thought makes two slips four times as likely, and a number read without a slip says less than it
 * seems where slips are the rule. So evidence counts less than once: odds are raised to a power below one (the coarsened posterior; Miller and Dunson, Journal
 * of the American Statistical Association 114, 2019). What was thought before the reading stays as it is.
 */

/** Of what the reading says of one listed number against another. */
const AMONG_LISTED = 0.7;
/** Of what it says of 'not listed' against all listed numbers. */
const AGAINST_NONE = 0.75;
/** ln of how much less than it seems a reading says for the listed numbers together: unlisted ones lie nearer to them than any model of numbers tells. */
const FOR_NONE = 0.95;

export type Masses = {
  /** Of the listed numbers that were weighed: before the reading, and with it. */
  listed: readonly { before: number; mass: number }[];
  /** Of a number that is listed but was not read: it is no evidence, and moves nothing. */
  unread: number;
  unknown: number;
};
export type Shares = { listed: number[]; unread: number; unknown: number };

/**
 * Probabilities with doubt in the model; they sum to one. Masses are relative. `before`: P(not listed) before anything is read, between 0 and 1.
 * O(listed).
 */
export function doubted({ listed, unread, unknown }: Masses, before: number): Shares {
  const weights = listed.map((one) => one.mass ** AMONG_LISTED * one.before ** (1 - AMONG_LISTED));
  const weight = weights.reduce((sum, one) => sum + one, 0);
  const found = listed.reduce((sum, one) => sum + one.mass, 0);
  const all = found + unread;
  if (!(all > 0)) return { listed: listed.map(() => 0), unread: 0, unknown: 1 };
  const read = found / all;
  const said = Math.log((unknown * (1 - before)) / (all * before));
  const odds = (before / (1 - before)) * Math.exp((1 - read * (1 - AGAINST_NONE)) * said + read * FOR_NONE);
  const none = odds === Infinity ? 1 : odds / (1 + odds);
  return {
    listed: weights.map((one) => (weight > 0 ? ((1 - none) * read * one) / weight : 0)),
    unread: (1 - none) * (1 - read),
    unknown: none,
  };
}
