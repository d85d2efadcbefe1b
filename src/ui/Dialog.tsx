'use client';
import { Dialog as Radix } from 'radix-ui';
import type { ReactNode } from 'react';
import { Button } from './Button';

/** For questions off the main path: what is asked, what it does, two answers. */
export function Ask({
  open,
  onOpenChange,
  title,
  children,
  yes,
  onYes,
  danger,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  children: ReactNode;
  yes: string;
  onYes: () => void;
  danger?: boolean;
}) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-ground/80" />
        <Radix.Content className="fixed top-1/4 left-1/2 z-50 w-[min(92vw,30rem)] -translate-x-1/2 rounded-sm border-2 border-ink bg-sheet p-5">
          <Radix.Title className="text-lg font-bold">{title}</Radix.Title>
          <Radix.Description asChild>
            <div className="mt-2 text-soft">{children}</div>
          </Radix.Description>
          <div className="mt-4 flex flex-wrap gap-2.5">
            <Button tone={danger ? 'stop' : 'main'} onClick={onYes}>
              {yes}
            </Button>
            <Radix.Close asChild>
              <Button>Leave it</Button>
            </Radix.Close>
          </div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

export function Panel({
  open,
  onOpenChange,
  title,
  children,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  children: ReactNode;
}) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-ground/80" />
        <Radix.Content
          aria-describedby={undefined}
          className="fixed top-[10vh] left-1/2 z-50 max-h-[80vh] w-[min(92vw,34rem)] -translate-x-1/2 overflow-y-auto rounded-sm border-2 border-ink bg-sheet p-5"
        >
          <Radix.Title className="mb-3 text-lg font-bold">{title}</Radix.Title>
          {children}
          <div className="mt-4">
            <Radix.Close asChild>
              <Button hint="Esc">Close</Button>
            </Radix.Close>
          </div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
