import { stableJson } from '../units';
import type { Chapter, Run } from './chapter';

type Kept = { input: object; contents: Map<string, string>; answer: unknown; refined: Generator<unknown> | null };

export type Desk = {
  run: Run;
  /** The chapters that were asked since it was last cleared; the others kept their answer. */
  readonly asked: readonly string[];
  clear: () => void;
  /** Takes one step further in every chapter that can be answered better; false when none can. */
  refine: () => boolean;
};

/**
 * Keeps each chapter's last answer: with the inputs unchanged it is not asked again. An input counts as unchanged when it is the same object, or, where the
 * chapter says so, when it says the same. Same question, same answer as from scratch. O(inputs) for what is kept.
 */
export function createDesk(): Desk {
  const kept = new Map<string, Kept>();
  let asked: string[] = [];
  const run: Run = <Name extends string, In extends object, Out>(chapter: Chapter<Name, In, Out>, input: In): Out => {
    const contents = new Map(
      (chapter.byContent ?? []).map((key): [string, string] => [String(key), stableJson(input[key])]),
    );
    const known = kept.get(chapter.name);
    if (known && isSame(known, input, contents)) return known.answer as Out;
    asked.push(chapter.name);
    const answer = chapter.answer(input);
    kept.set(chapter.name, { input, contents, answer, refined: chapter.refine?.(input) ?? null });
    return answer;
  };
  return {
    run,
    get asked() {
      return asked;
    },
    clear: () => {
      asked = [];
    },
    refine: () => {
      let better = false;
      for (const entry of kept.values()) {
        const next = entry.refined?.next();
        if (!next) continue;
        if (next.done) entry.refined = null;
        else {
          entry.answer = next.value;
          better = true;
        }
      }
      return better;
    },
  };
}

function isSame(known: Kept, input: object, contents: ReadonlyMap<string, string>): boolean {
  return Object.entries(input).every(([key, value]) =>
    contents.has(key) ? known.contents.get(key) === contents.get(key) : Reflect.get(known.input, key) === value,
  );
}
