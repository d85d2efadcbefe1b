import type { Choice } from '@/core/case';
import type { OfferedOption } from '@/core/ticket';
import { toMajor } from '@/core/units';
import { optionWords, otherChoiceWords } from '@/words';

type Shown = Pick<OfferedOption, 'id' | 'kind' | 'fixName' | 'gross'> & { causeNames: readonly string[] };

/** Of the ways weighed today, those that stand in the offer at the same price. */
export const choicesShown = (choices: readonly Choice[], options: readonly Shown[]): Choice[] =>
  choices.filter((choice) => options.some(({ id, gross }) => id === choice.id && toMajor(gross) === choice.quote));

/** What another way than the first says for repair. */
export function otherWords(choices: readonly Choice[], options: readonly Shown[], currency: string): string | null {
  const shown = choicesShown(choices, options);
  if (shown[0]?.id !== choices[0]?.id) return null;
  const nameOf = (id: string) => {
    const option = options.find((one) => one.id === id);
    return option ? optionWords(option) : null;
  };
  return otherChoiceWords(shown, nameOf, currency);
}
