import { useLiveQuery } from 'dexie-react-hooks';
import type { Step } from '@/core/ticket';
import { atBench } from '@/core/ticket';
import { benchPhotosBeside } from '@/store';
import { Button } from '@/ui';
import { BenchPicture } from './BenchPicture';
import type { BenchProps, Shown } from './BenchProps';

/** Pictures that were kept and belong to no step: the page was closed in between, or they were taken off the sheet. */
export function LoosePictures({ state, bench, ask }: BenchProps & { bench: Shown }) {
  const named = [
    ...state.photographs.map(({ photoId }) => photoId),
    ...state.pieces.flatMap(({ photoId }) => photoId ?? []),
  ];
  const loose = useLiveQuery(
    () => benchPhotosBeside(state.ticketId, new Set(named)),
    [state.ticketId, named.join(' ')],
  );
  const steps = bench.sheet.sections.flatMap((section) => section.steps);
  const last = steps.findLast(({ tickedAt }) => tickedAt !== null) ?? steps[0];
  if (!loose?.length || !last) return null;
  const attach = (photoId: string, step: Step) => ask(atBench({ type: 'photographed', photoId, step, text: '' }));
  return (
    <section aria-label="Pictures without a step">
      <h3 className="font-semibold">Pictures without a step</h3>
      <ul className="flex flex-wrap gap-3">
        {loose.map((id) => (
          <li key={id} className="flex items-center gap-2">
            <BenchPicture ticketId={state.ticketId} photoId={id} text="" step={last.step} ask={ask} />
            <Button onClick={() => void attach(id, last.step)}>Belongs to “{last.title}”</Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
