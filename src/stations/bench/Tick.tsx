import type { ReactNode } from 'react';
import { cx } from '@/ui';

type Props = { on: boolean; onTick: () => void; children: ReactNode; disabled?: boolean; rest?: object };

/** A line that is ticked by a glove: all of it is the control. */
export function Tick({ on, onTick, children, disabled, rest = {} }: Props) {
  return (
    <button
      type="button"
      role="checkbox"
      aria-checked={on}
      aria-disabled={disabled}
      onClick={onTick}
      className="flex min-h-11 w-full min-w-0 scroll-mt-28 items-center gap-3 px-2 py-1.5 text-left"
      {...rest}
    >
      <span
        aria-hidden
        className={cx(
          'grid size-7 shrink-0 place-items-center rounded-[3px] border-[1.5px] text-sm',
          disabled ? 'border-edge' : 'border-ink',
          on && 'bg-ink text-ground',
        )}
      >
        {on ? '✓' : ''}
      </span>
      <span className={cx('min-w-0 flex-1', on && 'text-soft')}>{children}</span>
    </button>
  );
}
