'use client';
import type { RequirementId, TicketId } from '@/core/units';
import Link from 'next/link';
import { OldPart } from '../shared/OldPart';
import { Question } from '../shared/Station';
import { DO_NEXT, type StationProps } from '../shared/StationProps';
import { useDonors } from '../shared/useDonors';
import {
  acceptedOption,
  awaited,
  leftOver,
  needsOf,
  takeFromShelf,
  toBuy,
  unordered,
  type PartNeed,
} from '@/core/ticket';
import { Button, cx, Mark, NumberText } from '@/ui';
import { formatDate, plural, ROUTE_WORDS, shakenWords } from '@/words';

export type OrderProps = StationProps<'next' | 'part'> & {
  fromDonor: (donorId: TicketId, requirementId: RequirementId) => Promise<void>;
};

export function OrderLine({ state, at }: Pick<OrderProps, 'state' | 'at'>) {
  const open = unordered(state).length;
  const coming = awaited(state);
  if (state.round.parts.length === 0) return <span className="text-soft">nothing to order yet</span>;
  if (open > 0)
    return (
      <span className="text-soft">
        {plural(open, 'part')} to {toBuy(state).length ? 'order' : 'take out of a donor'}
      </span>
    );
  const [first] = coming;
  if (!first) return <>all {plural(state.round.parts.length, 'part')} here</>;
  const { deliveries, dueOn } = first.supply;
  return (
    <>
      {plural(coming.length, 'part')} from {deliveries.at(-1)?.supplierName}{' '}
      {dueOn ? `· due ${formatDate(dueOn, at.today)}` : ''}
    </>
  );
}

/** `firm`: the part does not have to be looked at again. */
type NeedProps = OrderProps & { need: PartNeed; firm: boolean };

/** A donor on the shelf that carries this part: taken there, it is noted on both tickets. */
function FromDonor({ state, need, fromDonor }: NeedProps) {
  const { requirementId, roleId, position, bought, donor: wanted } = need.requirement;
  const matches = useDonors(state, roleId, position, [bought.partId]);
  if (!matches) return null;
  const match = matches.find(({ donor }) => donor.ticketId === wanted?.ticketId) ?? matches[0];
  if (!match)
    return wanted ? (
      <Mark tone="doubt">Machine {wanted.number} has it no more: choose another number at Part.</Mark>
    ) : null;
  const { donor } = match;
  return (
    <Button
      {...(wanted ? { tone: 'main' as const, ...DO_NEXT } : {})}
      onClick={() => void fromDonor(donor.ticketId, requirementId)}
    >
      Taken from donor {donor.number}
    </Button>
  );
}

/** Where one part stands: here, on the way (line by line), or to be ordered or taken. */
function Need(props: NeedProps) {
  const { need, at, ask, firm } = props;
  const { requirement, supply } = need;
  const { bought, alternatives, route } = requirement;
  const here = supply.deliveries.find((delivery) => delivery.here > 0);
  return (
    <li className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-b border-line py-1.5">
      <span>
        {bought.quantity > 1 ? `${bought.quantity} × ` : ''}
        <NumberText text={bought.partNumber} className="font-semibold" /> {bought.description}
        <span className="block text-sm text-soft">
          {ROUTE_WORDS[route]}
          {alternatives.length ? ` · ${plural(alternatives.length, 'other number')} would do` : ''}
          {requirement.donor ? ` · machine ${requirement.donor.number}: test it before it goes in` : ''}
          {route === 'typed' && supply.missing > 0 && bought.cost === null
            ? ' · nobody named a price yet: type it at Part, and it is planned with the others'
            : ''}
        </span>
      </span>
      <span className="flex flex-wrap items-center gap-2">
        {here ? (
          <Mark tone={supply.coming + supply.missing === 0 ? 'sound' : 'doubt'}>
            {supply.coming + supply.missing === 0 ? 'here' : `${supply.here} of ${bought.quantity} here`}:{' '}
            {here.partNumber}
          </Mark>
        ) : null}
        {supply.deliveries
          .filter((delivery) => delivery.here < delivery.units)
          .map((delivery) => (
            <Link
              key={JSON.stringify(delivery.from)}
              href="/orders"
              className="min-h-11 content-center underline underline-offset-4"
            >
              order {delivery.orderNumber}, {delivery.dueOn ? `due ${formatDate(delivery.dueOn, at.today)}` : 'no date'}
            </Link>
          ))}
        {supply.missing > 0 && firm ? (
          <>
            <FromDonor {...props} />
            <Button onClick={() => void ask(takeFromShelf(requirement.requirementId))}>Taken from the shelf</Button>
          </>
        ) : null}
      </span>
    </li>
  );
}

export function OrderStation(props: OrderProps) {
  const { state, next, part, at } = props;
  const main = part.parts?.main;
  const needs = needsOf(state);
  const open = unordered(state);
  const buying = toBuy(state).length > 0;
  const left = leftOver(state);
  const yes = acceptedOption(state.round) !== null;
  const shaken = next.shaken.filter(({ decision }) => decision === 'order');
  const firm = !next.shaken.some(({ decision }) => decision === 'part');
  return (
    <div className="flex flex-col gap-3">
      {needs.length === 0 ? (
        <Question title="Nothing to order" why="Choose the part first, or this job needs none." />
      ) : (
        <Question
          title={
            open.length
              ? `${plural(open.length, 'part')} to ${buying ? 'order' : 'take out of a donor'}`
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
      )}
      {shaken.length ? <Mark tone="doubt">{shakenWords(shaken)}</Mark> : null}
      {part.oldDiffers ? (
        <Mark tone="doubt">
          Nothing leads from the number on the old part to the part chosen: look at Part before it is ordered.
        </Mark>
      ) : null}
      <ul>
        {needs.map((need) => (
          <Need key={need.requirement.requirementId} {...props} need={need} firm={firm} />
        ))}
      </ul>
      {main && open.length ? <OldPart key={main.roleId} {...props} answer={main} /> : null}
      {left.length ? (
        <div className="border-l-4 border-doubt bg-well p-3 text-[15px]">
          <p>
            <Mark tone="doubt">No longer needed here, and still on the way:</Mark> cancel it on the Orders page while
            that is possible; else it goes back, or on the shelf.
          </p>
          <ul>
            {left.map((delivery) => (
              <li key={JSON.stringify(delivery.from)}>
                order {delivery.orderNumber}, {delivery.supplierName}
                {delivery.dueOn ? `, due ${formatDate(delivery.dueOn, at.today)}` : ''}
              </li>
            ))}
          </ul>
        </div>
      ) : null}
      {needs.length ? (
        <Link
          href="/orders"
          className={cx(
            'inline-flex min-h-11 items-center self-start rounded-sm border-[1.5px] px-3.5 font-semibold',
            buying && yes ? 'border-mark bg-mark text-mark-ink' : 'border-edge bg-sheet',
          )}
          {...(open.length && !buying ? {} : DO_NEXT)}
        >
          {buying && yes ? 'Plan the orders of all machines' : 'To the orders'}
        </Link>
      ) : null}
    </div>
  );
}
