'use client';
import { ChevronDown, ChevronRight } from 'lucide-react';
import type { ReactNode } from 'react';
import { cx } from '@/ui';

type Props = {
  id: string;
  name: string;
  hint: string;
  inWork: boolean;
  open: boolean;
  onToggle: () => void;
  summary: ReactNode;
  children: ReactNode;
};

/** One station of the sheet: its name at the left, folded to a line of facts or open. */
export function Station({ id, name, hint, inWork, open, onToggle, summary, children }: Props) {
  const Chevron = open ? ChevronDown : ChevronRight;
  return (
    <section
      id={`station-${id}`}
      aria-label={name}
      className={cx('grid border-t md:grid-cols-[6.5rem_1fr]', inWork ? 'border-t-[3px] border-ink' : 'border-line')}
    >
      <h2 className="flex self-start">
        <button
          type="button"
          aria-expanded={open}
          onClick={onToggle}
          className={cx(
            'flex min-h-11 w-full items-center gap-1 text-left focus-visible:-outline-offset-3 md:items-start md:pt-2.5',
            inWork ? 'text-lg font-bold text-ink' : 'text-[15px] font-semibold text-soft',
          )}
        >
          <Chevron aria-hidden size={16} className="shrink-0 md:mt-1" />
          {name}
          <span className="sr-only">, key {hint}</span>
        </button>
      </h2>
      <div className="min-w-0 pb-3 md:pt-2.5">
        {open ? children : <div className={cx('leading-snug', !inWork && 'text-[15px]')}>{summary}</div>}
      </div>
    </section>
  );
}

/** The question a station asks, and why. */
export function Question({ title, why }: { title: ReactNode; why?: ReactNode }) {
  return (
    <header className="mb-2.5">
      <h3 className="text-lg leading-snug font-semibold">{title}</h3>
      {why ? <p className="text-[15px] text-soft">{why}</p> : null}
    </header>
  );
}
