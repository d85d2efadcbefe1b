import { ChevronRight } from 'lucide-react';
import type { ReactNode } from 'react';

/** What is not needed at once: a line that opens. `aside`: what is in it. */
export function Folded({ title, aside, children }: { title: string; aside?: string; children: ReactNode }) {
  return (
    <details className="group border-t border-line">
      <summary className="flex min-h-11 cursor-pointer list-none items-center gap-1.5 text-[15px] [&::-webkit-details-marker]:hidden">
        <ChevronRight aria-hidden size={16} className="moves shrink-0 group-open:rotate-90" />
        <span className="font-semibold">{title}</span>
        {aside ? <span className="text-soft">{aside}</span> : null}
      </summary>
      <div className="pb-3">{children}</div>
    </details>
  );
}
