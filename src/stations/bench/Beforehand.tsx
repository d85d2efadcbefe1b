import { atBench, READY_ITEMS } from '@/core/ticket';
import { Mark } from '@/ui';
import { READY_WORDS } from '@/words';
import { DO_NEXT } from '../shared/StationProps';
import { Tick } from './Tick';
import type { BenchProps, Shown } from './BenchProps';

/** Before the first step: what the shop knows by itself, and what a person has to look at. */
export function Beforehand({ state, bench, next, ask }: BenchProps & { bench: Shown }) {
  const { ready, plan } = bench;
  const { readied, ticks } = state.round;
  if (ticks.length > 0) return null;
  return (
    <section aria-label="Before the first step">
      <h3 className="font-semibold">Before the first step</h3>
      <ul className="text-[15px]">
        <li className="py-1">
          <Mark tone={ready.yes ? 'sound' : 'doubt'}>
            {ready.yes ? 'The customer said yes' : 'The customer has not said yes'}
          </Mark>
        </li>
        {state.round.parts.length > 0 || ready.unnamed.length === 0 ? (
          <li className="py-1">
            <Mark tone={ready.orderedHere ? 'sound' : 'doubt'}>
              {ready.orderedHere
                ? `All parts ${ready.unnamed.length ? 'with a number ' : ''}are here`
                : 'Parts are still to come'}
            </Mark>
          </li>
        ) : null}
        {READY_ITEMS.filter((item) => item !== 'parts' || ready.unnamed.length > 0).map((item) => {
          const isHere = readied.includes(item);
          return (
            <li key={item}>
              <Tick
                on={isHere}
                onTick={() => void ask(atBench({ type: 'readied', item, ok: !isHere }))}
                rest={item === 'parts' && next.doNext.kind === 'get-parts' ? DO_NEXT : {}}
              >
                Here: {READY_WORDS[item]}
                {item === 'parts' ? `: ${ready.unnamed.join('; ')}` : ''}
                {item === 'tools' && plan.lacking.length ? `; not in your shop: ${plan.lacking.join(', ')}` : ''}
              </Tick>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
