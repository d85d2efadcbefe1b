import type { SheetStep } from '@/core/bench';
import { atBench } from '@/core/ticket';
import { swapWords } from '@/words';
import { Tick } from './Tick';
import type { BenchProps } from './BenchProps';

/** Of the new part and of the old one, before it is thrown away. */
export function AtTheSwap({ step, ask }: BenchProps & { step: SheetStep }) {
  if (step.swap.length === 0) return null;
  return (
    <section aria-label="At the swap">
      <h4 className="font-semibold">At the swap</h4>
      <ul>
        {step.swap.map((task) => (
          <li key={`${task.roleId} ${task.key}`}>
            <Tick
              on={task.done}
              onTick={() =>
                void ask(atBench({ type: 'swap-ticked', roleId: task.roleId, text: task.key, done: !task.done }))
              }
            >
              {swapWords(task)}
            </Tick>
          </li>
        ))}
      </ul>
    </section>
  );
}
