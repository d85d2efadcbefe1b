import type { ReactNode } from 'react';
import { cx } from './cx';

const TONES = {
  sound: ['text-sound', '●'],
  doubt: ['text-doubt', '▲'],
  stop: ['text-stop', '✕'],
  soft: ['text-soft', '○'],
} as const;

/** A verdict: shape, word and colour together, never colour alone. */
export function Mark({ tone, children }: { tone: keyof typeof TONES; children: ReactNode }) {
  const [colour, shape] = TONES[tone];
  return (
    <span className={cx('font-semibold', colour)}>
      <span aria-hidden className="mr-1.5 text-[0.8em]">
        {shape}
      </span>
      {children}
    </span>
  );
}

export function Caution({ children }: { children: ReactNode }) {
  return (
    <p className="border-l-4 border-doubt bg-doubt-wash px-3 py-1.5 text-[15px] text-ink">
      <strong className="text-doubt">Caution. </strong>
      {children}
    </p>
  );
}
