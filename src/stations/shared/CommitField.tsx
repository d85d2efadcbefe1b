'use client';
import { useEffect, useRef, useState, type ComponentProps } from 'react';
import { database, now } from '@/store';
import { Field } from '@/ui';

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
  const dirty = useRef(false);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);

  useEffect(() => {
    if (!dirty.current) setText(committed);
  }, [committed]);

  useEffect(() => {
    void database()
      .drafts.get(draftKey)
      .then((draft) => {
        if (draft && !dirty.current) {
          dirty.current = true;
          setText(draft.text);
          onTyped?.(draft.text);
        }
      });
    return () => clearTimeout(timer.current);
    // A draft is looked for once, when the field appears.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [draftKey]);

  const finish = async (value: string) => {
    clearTimeout(timer.current);
    if (!dirty.current) return;
    dirty.current = false;
    if (value.trim() !== committed.trim() && (await commit(value.trim())) === false) {
      dirty.current = true;
      return;
    }
    await database().drafts.delete(draftKey);
  };

  const typed = (value: string) => {
    dirty.current = true;
    setText(value);
    onTyped?.(value);
    void database().drafts.put({ key: draftKey, text: value, at: now() });
    clearTimeout(timer.current);
    if (commitOnRest) timer.current = setTimeout(() => void finish(value), REST_MS);
  };

  return (
    <Field
      {...field}
      value={text}
      onChange={(event) => typed(event.target.value)}
      onBlur={() => void finish(text)}
      onKeyDown={(event) => {
        if (event.key === 'Enter') void finish(text);
      }}
    />
  );
}
