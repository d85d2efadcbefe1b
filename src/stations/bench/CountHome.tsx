import { useState } from 'react';
import type { HomeCount } from '@/core/bench';
import { atBench } from '@/core/ticket';
import { Button, Mark } from '@/ui';
import { awayWords, homeWords, listOf, plural } from '@/words';
import { DO_NEXT } from '../shared/StationProps';
import { Tick } from './Tick';
import type { BenchProps } from './BenchProps';

/** Before the machine is closed: tools, screws, connections and pieces are counted home. One touch when all are; what is not there is taken out of it first. */
export function CountHome({ count, ask }: Pick<BenchProps, 'ask'> & { count: HomeCount }) {
  const [out, setOut] = useState<readonly string[]>(count.missing ?? []);
  if (!count.isDue) return null;
  const { items, screwsLeft } = count;
  const isCounted = count.missing !== null;
  const missing = items.filter((item) => out.includes(item));
  const note = (away: readonly string[]) => void ask(atBench({ type: 'counted-home', missing: [...away] }));
  return (
    <li aria-label="Counted home" className="flex flex-col gap-1 border-2 border-ink p-3">
      <h4 className="font-semibold">Before it is closed: count home</h4>
      <ul className="grid sm:grid-cols-2">
        {items.map((item) => (
          <li key={item}>
            <Tick
              on={!out.includes(item)}
              onTick={() => {
                const now = out.includes(item) ? out.filter((one) => one !== item) : [...out, item];
                setOut(now);
                if (isCounted) note(items.filter((one) => now.includes(one)));
              }}
            >
              {homeWords(item, screwsLeft)}
            </Tick>
          </li>
        ))}
      </ul>
      {count.pieces.length ? (
        <Mark tone="stop">Not home: {listOf(count.pieces.map((piece) => `piece ${piece}`))}. Tick it at its step.</Mark>
      ) : null}
      {isCounted && (missing.length > 0 || count.pieces.length === 0) ? (
        <Mark tone={missing.length ? 'stop' : 'sound'}>
          {missing.length ? `Look for it first: ${listOf(missing.map(awayWords))}.` : 'All home.'}
        </Mark>
      ) : isCounted ? null : (
        <Button
          tone={missing.length ? 'stop' : 'main'}
          hint={missing.length ? undefined : 'd'}
          className="self-start"
          onClick={() => note(missing)}
          {...DO_NEXT}
        >
          {missing.length ? `${plural(missing.length, 'thing')} not home` : 'All of it is home'}
        </Button>
      )}
    </li>
  );
}
