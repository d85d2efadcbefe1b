import type { ButtonHTMLAttributes, ReactNode } from 'react';
import { cx } from './cx';

type Props = ButtonHTMLAttributes<HTMLButtonElement> & {
  tone?: 'main' | 'plain' | 'quiet' | 'stop';
  hint?: string | undefined;
  children: ReactNode;
};

const TONES = {
  main: 'bg-mark text-mark-ink border-mark font-semibold',
  plain: 'bg-sheet text-ink border-edge font-semibold',
  quiet: 'bg-transparent text-mark border-transparent underline underline-offset-4 decoration-1',
  stop: 'bg-sheet text-stop border-stop font-semibold',
};

/** 44 px high. `hint` shows the key that does the same. */
export function Button({ tone = 'plain', hint, children, className, type = 'button', ...rest }: Props) {
  return (
    <button
      type={type}
      className={cx(
        'inline-flex min-h-11 items-center justify-center gap-2 rounded-sm border-[1.5px] px-3.5 text-[15px] disabled:opacity-55',
        TONES[tone],
        className,
      )}
      {...rest}
    >
      {children}
      {hint ? <Key tone={tone === 'main' ? 'on' : 'off'}>{hint}</Key> : null}
    </button>
  );
}

export function Key({ children, tone = 'off' }: { children: ReactNode; tone?: 'on' | 'off' }) {
  return (
    <kbd
      className={cx(
        'hidden rounded-[3px] border px-1.5 font-mono text-xs font-semibold md:inline',
        tone === 'on' ? 'border-mark-ink/60 text-mark-ink' : 'border-edge text-soft',
      )}
    >
      {children}
    </kbd>
  );
}
