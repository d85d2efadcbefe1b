'use client';
import { useEffect, useState } from 'react';
import { Button } from '@/ui';

const TICK_MS = 100;

/** Times what runs out, in seconds: started and stopped by one touch. */
export function Stopwatch({ label, take }: { label: string; take: (seconds: number) => void }) {
  const [from, setFrom] = useState<number | null>(null);
  const [shown, setShown] = useState(0);
  useEffect(() => {
    if (from === null) return undefined;
    const ticking = setInterval(() => setShown((performance.now() - from) / 1000), TICK_MS);
    return () => clearInterval(ticking);
  }, [from]);
  return (
    <Button
      aria-label={from === null ? `Start the stopwatch: ${label}` : `Stop the stopwatch: ${label}`}
      onClick={() => {
        if (from === null) {
          setShown(0);
          setFrom(performance.now());
          return;
        }
        take(Math.round((performance.now() - from) / 100) / 10);
        setFrom(null);
      }}
    >
      {from === null ? 'Stopwatch' : `Stop: ${shown.toFixed(1)} s`}
    </Button>
  );
}

/** Counts by touch, for eyes that are on the machine. */
export function Counter({ label, count, take }: { label: string; count: number; take: (count: number) => void }) {
  return (
    <Button aria-label={`One more: ${label}`} onClick={() => take(count + 1)}>
      +1
    </Button>
  );
}
