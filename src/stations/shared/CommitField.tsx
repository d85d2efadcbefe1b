'use client';
import { useEffect, useRef, useState, type ComponentProps } from 'react';
import { draftOf, dropDraft, putDraft, saving } from '@/store';
import { Field, notice } from '@/ui';
import { notSavedWords } from '@/words';

const REST_MS = 1000;

type Props = Omit<ComponentProps<typeof Field>, 'value' | 'onChange'> & {
  /** Names the draft: ticket and field. */
  draftKey: string;
  committed: string;
  /** Becomes one event on leaving the field, on Enter, or after a second's rest. false: it was refused, and what was typed stays to be mended. */
  commit: (text: string) => Promise<boolean | void>;
  /** Called with each keystroke, for what is computed while one types. */
  onTyped?: (text: string) => void;
  /** false: only leaving the field or Enter commits, not the rest. */
  commitOnRest?: boolean;
};

/** A field that saves itself. What is typed goes to a draft at once, so that a killed tab loses nothing. */
export function CommitField({ draftKey, committed, commit, onTyped, commitOnRest = true, ...field }: Props) {
  const [text, setText] = useState(committed);
  /** What was typed and is not saved yet; null: nothing. It may change while an older text is being saved. */
  const typed = useRef<string | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);

  useEffect(() => {
    if (typed.current === null) setText(committed);
  }, [committed]);

  useEffect(() => {
    void draftOf(draftKey).then((draft) => {
      if (draft === null || typed.current !== null) return;
      typed.current = draft;
      setText(draft);
      onTyped?.(draft);
    });
    return () => clearTimeout(timer.current);
    // A draft is looked for once, when the field appears.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [draftKey]);

  const finish = async () => {
    clearTimeout(timer.current);
    const value = typed.current;
    if (value === null) return;
    if (value.trim() !== committed.trim() && (await commit(value.trim())) === false) return;
    if (typed.current === value) typed.current = null;
    await saving.keep(() => dropDraft(draftKey, value)).catch((error: unknown) => notice(notSavedWords(error)));
  };

  const change = (value: string) => {
    typed.current = value;
    setText(value);
    onTyped?.(value);
    saving.keep(() => putDraft(draftKey, value), draftKey).catch((error: unknown) => notice(notSavedWords(error)));
    clearTimeout(timer.current);
    if (commitOnRest) timer.current = setTimeout(() => void finish(), REST_MS);
  };

  return (
    <Field
      {...field}
      value={text}
      onChange={(event) => change(event.target.value)}
      onBlur={() => void finish()}
      onKeyDown={(event) => {
        if (event.key === 'Enter') void finish();
      }}
    />
  );
}
