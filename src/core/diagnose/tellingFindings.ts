import type { Knowledge } from '../catalogue';
import { faultStatesOf, findingGiven, type Evidence } from './faultStates';
import { stateBeliefs, type PriorFactors } from './rankCauses';

/** A finding that nobody has answered, and how much a yes or no would tell of what is wrong, in bits on average. */
export type Telling = { findingId: string; bits: number };

/** Less than this is not worth a question. */
const LEAST_BITS = 0.002;

/**
 * The findings whose answer would tell most about what is wrong with this machine (mutual information with it, as it is believed now), most first. What the display
 * shows is read and not asked. `asked`: answered already, 'not sure' included. O(findings × states).
 */
export function tellingFindings(
  knowledge: Knowledge,
  evidence: Evidence,
  asked: ReadonlySet<string>,
  factors: PriorFactors = {},
): Telling[] {
  const states = faultStatesOf(knowledge);
  const { beliefs } = stateBeliefs(knowledge, evidence, factors);
  return knowledge.findings
    .filter(({ id, group }) => !asked.has(id) && group !== 'Displayed code')
    .map(({ id }) => {
      const given = states.map((state) => findingGiven(knowledge, state, id));
      const yes = given.reduce((sum, p, index) => sum + p * (beliefs[index] ?? 0), 0);
      const inside = given.reduce((sum, p, index) => sum + entropy(p) * (beliefs[index] ?? 0), 0);
      return { findingId: id, bits: entropy(yes) - inside };
    })
    .filter(({ bits }) => bits >= LEAST_BITS)
    .sort((a, b) => b.bits - a.bits);
}

const entropy = (p: number): number => (p <= 0 || p >= 1 ? 0 : -p * Math.log2(p) - (1 - p) * Math.log2(1 - p));
