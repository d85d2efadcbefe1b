'use client';
import { useId, type InputHTMLAttributes, type ReactNode } from 'react';
import { cx } from './cx';

type Props = InputHTMLAttributes<HTMLInputElement> & {
  label: string;
  mono?: boolean;
  note?: ReactNode;
  unit?: string;
  hideLabel?: boolean;
};

/** A labelled input, 44 px high, with what it says about its content underneath. */
export function Field({ label, mono, note, unit, hideLabel, className, id, ...rest }: Props) {
  const own = useId();
  const inputId = id ?? own;
  return (
    <div className={cx('flex min-w-0 flex-col gap-1', className)}>
      <label htmlFor={inputId} className={hideLabel ? 'sr-only' : 'text-sm text-soft'}>
        {label}
      </label>
      <span className="flex items-center gap-2">
        <input
          id={inputId}
          aria-describedby={note ? `${inputId}-note` : undefined}
          className={cx(
            'min-h-11 w-full min-w-0 rounded-sm border-[1.5px] border-edge bg-sheet px-3 text-base text-ink',
            mono && 'font-mono',
          )}
          {...rest}
        />
        {unit ? <span className="text-soft">{unit}</span> : null}
      </span>
      {note ? (
        <p id={`${inputId}-note`} className="text-sm text-soft">
          {note}
        </p>
      ) : null}
    </div>
  );
}
