'use client';
import { useState } from 'react';
import { typedNumber } from '@/core/units';
import { Button, Field } from '@/ui';

/** A share, typed in percent. `share`: as it is; null where nothing is said yet. */
export function ShareForm({
  label,
  share,
  take,
}: {
  label: string;
  share: number | null;
  take: (p: number) => Promise<string | null>;
}) {
  const shown = share === null ? '' : String(Math.round(1000 * share) / 10);
  const [text, setText] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const value = typedNumber(text ?? '', 0, 100);
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (value !== null)
          void take(value / 100).then((why) => {
            setWrong(why);
            if (why === null) setText(null);
          });
      }}
    >
      <Field
        label={label}
        hideLabel
        unit="%"
        inputMode="decimal"
        autoComplete="off"
        className="w-24"
        value={text ?? shown}
        onChange={(event) => setText(event.target.value)}
        note={text !== null && value === null ? 'From 0 to 100.' : (wrong ?? undefined)}
      />
      {text !== null && text !== shown ? (
        <Button type="submit" disabled={value === null}>
          Note it
        </Button>
      ) : null}
    </form>
  );
}
