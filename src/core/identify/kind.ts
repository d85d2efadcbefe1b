import type { Catalogue, Design, KindAnswer, KindQuestion } from '../catalogue';
import { entropyBits, groupBy, normalise } from '../units';

export type DesignShare = { design: Design; probability: number };
/** What was answered, by question; null: could not be told, which is an answer and moves nothing. */
export type KindAnswers = Readonly<Record<string, string | null>>;

type KindKnowledge = Pick<Catalogue, 'designs' | 'kind_questions' | 'kind_answers' | 'kind_likelihoods'>;

/** Nobody looks without ever being mistaken. */
const MISTAKEN = 0.005;

/** P(answer | design): as the table says, what is left of one evenly over the answers that it does not name. */
function answerShares({ kind_likelihoods }: KindKnowledge, answers: readonly KindAnswer[], design: Design): number[] {
  const said = answers.map(
    ({ questionId, id }) =>
      kind_likelihoods.find((row) => row.designId === design.id && row.questionId === questionId && row.answerId === id)
        ?.p,
  );
  const left = Math.max(0, 1 - said.reduce<number>((sum, p) => sum + (p ?? 0), 0));
  const silent = said.filter((p) => p === undefined).length;
  return normalise(said.map((p) => Math.max(MISTAKEN, p ?? left / Math.max(1, silent))));
}

const answersOf = (knowledge: KindKnowledge, questionId: string): KindAnswer[] =>
  groupBy(knowledge.kind_answers, (row) => row.questionId).get(questionId) ?? [];

/**
 * Which designs a machine may be of, likeliest first; sums to one. Naive Bayes: shares of the trade times P(answer | design). Answers to questions that the
 * knowledge does not know any more move nothing. O(designs × answers).
 */
export function designsBy(knowledge: KindKnowledge, answered: KindAnswers): DesignShare[] {
  const masses = knowledge.designs.map((design) =>
    Object.entries(answered).reduce((mass, [questionId, answerId]) => {
      const answers = answersOf(knowledge, questionId);
      const index = answers.findIndex(({ id }) => id === answerId);
      return index < 0 ? mass : mass * (answerShares(knowledge, answers, design)[index] ?? 0);
    }, design.weight),
  );
  return normalise(masses)
    .map((probability, index): DesignShare[] => {
      const design = knowledge.designs[index];
      return design ? [{ design, probability }] : [];
    })
    .flat()
    .sort((a, b) => b.probability - a.probability);
}

export type KindAsked = KindQuestion & {
  answers: readonly (KindAnswer & { probability: number })[];
  /** How much the answer tells of the design, on average. */
  bits: number;
};

export type KindSeen = KindQuestion & { answers: readonly KindAnswer[]; answerId: string | null };

/** The questions that were answered, in the order in which they are asked. */
export const kindSeen = (knowledge: KindKnowledge, answered: KindAnswers): KindSeen[] =>
  knowledge.kind_questions
    .filter(({ settles }) => settles === undefined)
    .flatMap((question): KindSeen[] => {
      const answerId = answered[question.id];
      return answerId === undefined ? [] : [{ ...question, answers: answersOf(knowledge, question.id), answerId }];
    })
    .sort((a, b) => a.step - b.step);

/** How the tub is closed, as somebody saw it; null where nobody did. */
export function tubSeen({ kind_questions }: KindKnowledge, answered: KindAnswers): 'bolted' | 'welded' | null {
  const question = kind_questions.find(({ settles }) => settles === 'tub');
  const answer = question && answered[question.id];
  return answer === 'welded' || answer === 'bolted' ? answer : null;
}

/** Questions that tell something else than the design: to be answered by whoever can see it. */
export const kindBeside = (knowledge: KindKnowledge, answered: KindAnswers): KindSeen[] =>
  knowledge.kind_questions
    .filter(({ settles }) => settles !== undefined)
    .map((question): KindSeen => ({
      ...question,
      answers: answersOf(knowledge, question.id),
      answerId: answered[question.id] ?? null,
    }));

/** Below this a question is not worth a look behind the machine. */
const WORTH_ASKING_BITS = 0.05;

/** The easiest open question that tells something of the design; null when none tells enough. O(questions × answers × designs). */
export function nextKindQuestion(knowledge: KindKnowledge, answered: KindAnswers): KindAsked | null {
  const shares = designsBy(knowledge, answered);
  const before = entropyBits(shares.map(({ probability }) => probability));
  const asked = knowledge.kind_questions
    .filter(({ id, settles }) => answered[id] === undefined && settles === undefined)
    .map((question): KindAsked => {
      const answers = answersOf(knowledge, question.id);
      const table = shares.map(({ design }) => answerShares(knowledge, answers, design));
      const weighed = answers.map((answer, index) => {
        const joint = shares.map(({ probability }, row) => probability * (table[row]?.[index] ?? 0));
        const probability = joint.reduce((sum, mass) => sum + mass, 0);
        return { answer: { ...answer, probability }, after: entropyBits(normalise(joint)) };
      });
      const after = weighed.reduce((sum, entry) => sum + entry.answer.probability * entry.after, 0);
      return { ...question, answers: weighed.map(({ answer }) => answer), bits: Math.max(0, before - after) };
    })
    // What anybody sees at a glance first, what needs a panel off last.
    .sort((a, b) => a.step - b.step);
  return asked.find(({ bits }) => bits >= WORTH_ASKING_BITS) ?? null;
}

/** "loading=front drive=belt" as answers, and back. What could not be told is not kept: another look may tell it. */
export const kindFrom = (seen: string | undefined): KindAnswers =>
  Object.fromEntries(
    (seen ?? '').split(/\s+/).flatMap((entry) => {
      const [question, answer] = entry.split('=');
      return question && answer ? [[question, answer]] : [];
    }),
  );

export const kindText = (answers: KindAnswers): string =>
  Object.entries(answers)
    .flatMap(([question, answer]) => (answer === null ? [] : [`${question}=${answer}`]))
    .sort()
    .join(' ');
