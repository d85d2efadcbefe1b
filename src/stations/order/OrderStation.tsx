'use client';
import Link from 'next/link';
import { Question } from '../shared/Station';
import { DO_NEXT, type StationProps } from '../shared/StationProps';
import { useDonors } from '../shared/useDonors';
import { record as recordOn } from '@/store';
import { awaited, unordered, type ChosenPart } from '@/core/ticket';
import { Button, cx, Mark, NumberText } from '@/ui';
import { formatDate, plural, ROUTE_WORDS } from '@/words';

export function OrderLine({ state, at }: StationProps) {
  const open = unordered(state).length;
  const coming = awaited(state);
  if (state.parts.length === 0) return <span className="text-soft">nothing to order yet</span>;
  if (open > 0) return <span className="text-soft">{plural(open, 'part')} to order</span>;
  if (coming.length === 0) return <>all {plural(state.parts.length, 'part')} here</>;
  const first = state.progress[coming[0]?.requirementId ?? ''];
  return (
    <>
      {plural(coming.length, 'part')} from {first?.supplierName}{' '}
      {first?.dueOn ? `· due ${formatDate(first.dueOn, at.today)}` : ''}
    </>
  );
}

/** A donor on the shelf that carries this part: taken there, it is noted on both tickets. */
function FromDonor({ state, at, part, onTaken }: StationProps & { part: ChosenPart; onTaken: () => Promise<void> }) {
  const listed = [...part.buy, ...part.alternatives].map(({ partId }) => partId);
  const [match] = useDonors(state, part.roleId, part.position, listed, at.today);
  if (!match) return null;
  const { donor } = match;
  const take = async () => {
    await recordOn(donor.ticketId, {
      type: 'donor-part-taken',
      roleId: part.roleId,
      position: part.position,
      forTicket: state.number,
    });
    await onTaken();
  };
  return <Button onClick={() => void take()}>Taken from donor {donor.number}</Button>;
}

export function OrderStation(props: StationProps) {
  const { state, at, record } = props;
  const open = unordered(state);
  const shelf = (part: ChosenPart) =>
    record({
      type: 'part-received',
      requirementId: part.requirementId,
      orderId: null,
      partNumber: part.buy[0]?.partNumber ?? '',
      verdict: 'from-shelf',
    });
  if (state.parts.length === 0)
    return <Question title="Nothing to order" why="Choose the part first, or this job needs none." />;
  const yes = state.answer?.answer === 'yes';
  return (
    <div className="flex flex-col gap-3">
      <Question
        title={
          open.length
            ? `${plural(open.length, 'part')} to order`
            : awaited(state).length
              ? 'On the way'
              : 'Everything is here'
        }
        why={
          open.length && !yes
            ? 'They join the order plan when the customer has said yes.'
            : 'One plan over all open machines; check what arrives against what was ordered before anything is opened.'
        }
      />
      <ul>
        {state.parts.map((part) => {
          const progress = state.progress[part.requirementId];
          return (
            <li
              key={part.requirementId}
              className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-b border-line py-1.5"
            >
              <span>
                {part.buy.map((bought) => (
                  <span key={bought.partId} className="block">
                    {bought.quantity > 1 ? `${bought.quantity} × ` : ''}
                    <NumberText text={bought.partNumber} className="font-semibold" /> {bought.description}
                  </span>
                ))}
                <span className="text-sm text-soft">
                  {ROUTE_WORDS[part.route]}
                  {part.alternatives.length ? ` · ${plural(part.alternatives.length, 'other number')} would do` : ''}
                </span>
              </span>
              {progress?.received ? (
                <Mark tone="sound">here: {progress.received.partNumber}</Mark>
              ) : progress?.orderId ? (
                <Link href="/orders" className="min-h-11 content-center underline underline-offset-4">
                  order {progress.orderNumber},{' '}
                  {progress.dueOn ? `due ${formatDate(progress.dueOn, at.today)}` : 'no date'}
                </Link>
              ) : (
                <span className="flex flex-wrap gap-2">
                  <FromDonor {...props} part={part} onTaken={() => shelf(part)} />
                  <Button onClick={() => void shelf(part)}>Taken from the shelf</Button>
                </span>
              )}
            </li>
          );
        })}
      </ul>
      <Link
        href="/orders"
        className={cx(
          'inline-flex min-h-11 items-center self-start rounded-sm border-[1.5px] px-3.5 font-semibold',
          open.length && yes ? 'border-mark bg-mark text-mark-ink' : 'border-edge bg-sheet',
        )}
        {...DO_NEXT}
      >
        {open.length && yes ? 'Plan the orders of all machines' : 'To the orders'}
      </Link>
    </div>
  );
}
