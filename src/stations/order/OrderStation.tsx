'use client';
import { idleHere, mayTake, release, takeFromStock, type StockState } from '@/core/stock';
import { unique, type RequirementId, type StockId, type TicketId } from '@/core/units';
import Link from 'next/link';
import { OldPart } from '../shared/OldPart';
import { Question } from '../shared/Station';
import { DO_NEXT, type StationProps } from '../shared/StationProps';
import { useDonors } from '../shared/useDonors';
import {
  acceptedOption,
  awaited,
  isReserved,
  leftOver,
  needsOf,
  takeFromShelf,
  toBuy,
  unordered,
  type PartNeed,
  type TicketState,
} from '@/core/ticket';
import { useStock } from '@/store/react';
import { Button, cx, Mark, NumberText } from '@/ui';
import {
  formatDate,
  openPartsWords,
  plural,
  ROUTE_WORDS,
  shakenWords,
  takeWords,
  usedPartWords,
  usedWords,
} from '@/words';

/** What a person does at the shelf for one ticket; noted on both. */
export type ShelfActs = {
  fromDonor: (donorId: TicketId, requirementId: RequirementId) => Promise<void>;
  fromStock: (
    stockId: StockId,
    decide: (lot: StockState, ticket: TicketState) => ReturnType<typeof takeFromStock>,
  ) => Promise<void>;
  toShelf: (requirementId: RequirementId, currency: string) => Promise<void>;
};

export type OrderProps = StationProps<'next' | 'part'> & { shelf: ShelfActs };

export function OrderLine({ state, at }: Pick<OrderProps, 'state' | 'at'>) {
  const open = unordered(state).length;
  const coming = awaited(state);
  if (state.round.parts.length === 0) return <span className="text-soft">nothing to order yet</span>;
  if (open > 0) return <span className="text-soft">{openPartsWords(open, toBuy(state).length)}</span>;
  const [first] = coming;
  if (!first) return <>all {plural(state.round.parts.length, 'part')} here</>;
  const { deliveries, dueOn } = first.supply;
  const kept = deliveries.find((delivery) => isReserved(delivery));
  if (kept)
    return (
      <>
        {plural(coming.length, 'part')} on the shelf{kept.supplierName ? `, ${kept.supplierName}` : ''}
      </>
    );
  return (
    <>
      {plural(coming.length, 'part')} from {deliveries.at(-1)?.supplierName}{' '}
      {dueOn ? `· due ${formatDate(dueOn, at.today)}` : ''}
    </>
  );
}

/** `firm`: the part does not have to be looked at again. */
type NeedProps = OrderProps & { need: PartNeed; firm: boolean; lots: readonly StockState[] };

/** A donor on the shelf that carries this part: taken there, it is noted on both tickets. */
function FromDonor({ state, need, shelf, lots }: NeedProps) {
  const { requirementId, roleId, position, bought, donor: wanted } = need.requirement;
  const matches = useDonors(state, roleId, position, [bought.partId]);
  if (!matches || lotsFor(need, lots).length) return null;
  const match = matches.find(({ donor }) => donor.ticketId === wanted?.ticketId) ?? matches[0];
  if (!match)
    return wanted ? (
      <Mark tone="doubt">Machine {wanted.number} has it no more: choose another number at Part.</Mark>
    ) : null;
  const { donor } = match;
  return (
    <Button
      {...(wanted ? { tone: 'main' as const, ...DO_NEXT } : {})}
      onClick={() => void shelf.fromDonor(donor.ticketId, requirementId)}
    >
      Taken from donor {donor.number}
    </Button>
  );
}

/** Lots that have what is needed: new ones, and of used ones those that were offered as used. */
const lotsFor = ({ requirement }: PartNeed, lots: readonly StockState[]): StockState[] => {
  const { bought, alternatives, requirementId, donor } = requirement;
  const fine = [bought, ...alternatives].map(({ partId }) => partId);
  return lots.filter(
    (lot) =>
      lot.partId !== null &&
      fine.includes(lot.partId) &&
      mayTake(lot, requirementId) > 0 &&
      (!lot.used || (lot.origin.kind === 'donor' && lot.origin.ticketId === donor?.ticketId)),
  );
};

/** What lies on the shelf, counted: one touch takes it. */
function FromStock({ need, lots, shelf }: NeedProps) {
  const { requirementId } = need.requirement;
  const { supply } = need;
  return lotsFor(need, lots).map((lot) => {
    const kept = lot.reserved.some((claim) => claim.requirementId === requirementId);
    if (supply.missing === 0 && !kept) return null;
    return (
      <span key={lot.stockId} className="flex flex-wrap items-center gap-2">
        {lot.used ? <Mark tone={lot.works ? 'sound' : 'doubt'}>{usedWords(lot)}</Mark> : null}
        <Button
          tone="main"
          {...DO_NEXT}
          onClick={() => void shelf.fromStock(lot.stockId, (now, ticket) => takeFromStock(now, ticket, requirementId))}
        >
          {takeWords(Math.min(supply.missing + supply.coming, mayTake(lot, requirementId)), lot.place)}
        </Button>
      </span>
    );
  });
}

/** Where one part stands: here, on the way (line by line), or to be ordered or taken. */
function Need(props: NeedProps) {
  const { need, at, ask, firm, lots } = props;
  const { requirement, supply } = need;
  const { bought, alternatives, route } = requirement;
  const here = supply.deliveries.find((delivery) => delivery.here > 0);
  const own = lotsFor(need, lots);
  return (
    <li className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-b border-line py-1.5">
      <span>
        {bought.quantity > 1 ? `${bought.quantity} × ` : ''}
        <NumberText text={bought.partNumber} className="font-semibold" /> {bought.description}
        <span className="block text-sm text-soft">
          {ROUTE_WORDS[route]}
          {alternatives.length ? ` · ${plural(alternatives.length, 'other number')} would do` : ''}
          {requirement.donor
            ? ` · ${usedPartWords(
                requirement.donor.number,
                own.some(({ works }) => works),
              )}`
            : ''}
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
          .filter((delivery) => delivery.here < delivery.units && !isReserved(delivery))
          .map((delivery) => (
            <Link
              key={JSON.stringify(delivery.from)}
              href="/orders"
              className="min-h-11 content-center underline underline-offset-4"
            >
              order {delivery.orderNumber}, {delivery.dueOn ? `due ${formatDate(delivery.dueOn, at.today)}` : 'no date'}
            </Link>
          ))}
        {firm ? <FromStock {...props} /> : null}
        {supply.missing > 0 && firm ? (
          <>
            <FromDonor {...props} />
            {own.length ? null : (
              <Button onClick={() => void ask(takeFromShelf(requirement.requirementId))}>Have one here already</Button>
            )}
          </>
        ) : null}
      </span>
    </li>
  );
}

/** Requirements of this ticket for which pieces of a lot are kept, and which it has no longer. */
const keptInVain = ({ reserved }: StockState, { ticketId, round }: TicketState): RequirementId[] =>
  unique(
    reserved.flatMap((claim) =>
      claim.ticketId === ticketId && !round.parts.some((part) => part.requirementId === claim.requirementId)
        ? [claim.requirementId]
        : [],
    ),
  );

export function OrderStation(props: OrderProps) {
  const { state, next, part, at } = props;
  const main = part.parts?.main;
  const needs = needsOf(state);
  const open = unordered(state);
  const buying = toBuy(state).length > 0;
  const left = leftOver(state).filter((delivery) => !isReserved(delivery));
  const mainIsOpen = open.some(({ requirement }) => requirement.roleId === main?.roleId);
  const idle = idleHere(state);
  const lots = useStock(1) ?? [];
  const unclaimed = lots.filter((lot) => keptInVain(lot, state).length);
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
              ? openPartsWords(open.length, toBuy(state).length)
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
          <Need key={need.requirement.requirementId} {...props} need={need} firm={firm} lots={lots} />
        ))}
      </ul>
      {main && mainIsOpen ? <OldPart key={main.roleId} {...props} answer={main} /> : null}
      {idle.map(({ requirement, units }) => (
        <p key={requirement.requirementId} className="flex flex-wrap items-center gap-3 border-l-4 border-doubt pl-3">
          <span className="flex-1">
            Here and no longer needed: {units > 1 ? `${units} × ` : ''}
            <NumberText text={requirement.bought.partNumber} className="font-semibold" />
          </span>
          <Button onClick={() => void props.shelf.toShelf(requirement.requirementId, props.settings.currency)}>
            Put it on the shelf
          </Button>
        </p>
      ))}
      {unclaimed.map((lot) => (
        <p key={lot.stockId} className="flex flex-wrap items-center gap-3 border-l-4 border-doubt pl-3">
          <span className="flex-1">
            Kept for it on the shelf and no longer needed:{' '}
            <NumberText text={lot.partNumber} className="font-semibold" />
          </span>
          <Button
            onClick={() =>
              keptInVain(lot, state).forEach(
                (requirementId) =>
                  void props.shelf.fromStock(lot.stockId, (now, ticket) => release(now, ticket, requirementId)),
              )
            }
          >
            Let go of it
          </Button>
        </p>
      ))}
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
