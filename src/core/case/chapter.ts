/**
 * One question of an assessment: its input, its answer. Pure. `byContent`: inputs that count as unchanged when they say the same; the others when
 * they are the same object.
 */
export type Chapter<Name extends string, In extends object, Out> = {
  name: Name;
  answer: (input: In) => Out;
  /** Better answers to the same question, in stages, for as long as the person looks at the first. */
  refine?: (input: In) => Generator<Out>;
  byContent?: readonly (keyof In)[];
};

export type Run = <Name extends string, In extends object, Out>(chapter: Chapter<Name, In, Out>, input: In) => Out;

/** Every chapter anew: what the desk is held against. */
export const fromScratch: Run = (chapter, input) => chapter.answer(input);

/** Every chapter anew, at its best. */
export const fromScratchRefined: Run = (chapter, input) => {
  let answer = chapter.answer(input);
  if (chapter.refine) for (const better of chapter.refine(input)) answer = better;
  return answer;
};
