'use client';
import { keep, type Shaken } from '@/core/ticket';
import { Button, Mark } from '@/ui';
import { shakenWords } from '@/words';
import type { Ask } from './StationProps';

/** A decision that no longer stands: why, and the two ways on. Making it again is the station's own control. */
export function ShakenNote({ shaken, of, ask }: { shaken: readonly Shaken[]; of: 'part' | 'offer'; ask: Ask }) {
  const own = shaken.filter(({ decision }) => decision === of);
  if (own.length === 0) return null;
  return (
    <div role="status" className="flex flex-col gap-2 border-l-4 border-doubt bg-well p-3">
      <p className="text-[15px]">
        <Mark tone="doubt">Look again.</Mark> {shakenWords(own)}
      </p>
      {own.some(({ by }) => by === 'cause') ? null : (
        <Button className="self-start" onClick={() => void ask(keep(of))}>
          {of === 'part' ? 'It is still the right part: keep it' : 'The offer and its price stand: keep them'}
        </Button>
      )}
    </div>
  );
}
