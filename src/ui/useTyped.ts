'use client';
import { useState, type ChangeEvent } from 'react';

/** What stands in a field that nobody keeps: its text, and what ties a `Field` to it. */
export function useTyped(initial = '') {
  const [text, set] = useState(initial);
  return {
    text,
    set,
    field: { value: text, onChange: (event: ChangeEvent<HTMLInputElement>) => set(event.target.value) },
  };
}
