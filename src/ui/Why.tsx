'use client';
import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';

/** A figure with its reason one touch away. It stands in running text; what can be pressed reaches 44 px beyond the line. */
export function Why({ children, because, label }: { children: ReactNode; because: ReactNode; label: string }) {
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={`${label}: why`}
        className="relative text-left underline decoration-edge decoration-dotted underline-offset-4 after:absolute after:inset-x-0 after:-inset-y-3 after:content-['']"
      >
        {children}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          collisionPadding={12}
          className="z-40 max-w-sm rounded-sm border-[1.5px] border-ink bg-sheet p-3 text-sm text-ink shadow-lg"
        >
          {because}
          <Popover.Arrow className="fill-ink" />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
