'use client';
import type { LocalDate, RequirementId } from '@/core/units';
import Link from 'next/link';
import type { PurchasePlan } from '@/core/order';
import { Button, Mark, NumberText, Why } from '@/ui';
import { formatDate, formatMoney, formatPercent, plural } from '@/words';
import type { PlannedPurchases } from '@/workers';

const CANNOT_BUY: Record<PurchasePlan['cannotBuy'][number]['why'], string> = {
  'no-offer': 'nobody lists it. Ask the suppliers, giving model and serial.',
  'out-of-stock': 'nobody has enough of it in stock. Ask the suppliers when it comes.',
  'not-enough-together': 'there is some, but another machine takes it. Ask the suppliers when more comes.',
};

/** The plan as it would be ordered: per supplier, with what each line is for. */
export function PlanView({
  result,
  today,
  onPlace,
}: {
  result: PlannedPurchases;
  today: LocalDate;
  onPlace: () => void;
}) {
  const { plan, orders, wanted, tickets, shaken } = result;
  const number = (id: string) => tickets.find((ticket) => ticket.ticketId === id)?.number ?? '?';
  const nameOf = (requirementId: RequirementId) => {
    const entry = wanted.find((part) => part.requirementId === requirementId);
    return entry ? `${entry.partNumber}, ${entry.description}` : requirementId;
  };
  return (
    <div className="mt-3 flex flex-col gap-3">
      <p className="text-[15px]">
        <strong className="text-lg">
          {formatMoney({ ...plan.goods, amountMinor: plan.goods.amountMinor + plan.shipping.amountMinor })}
        </strong>{' '}
        to pay: goods {formatMoney(plan.goods)}, shipping {formatMoney(plan.shipping)}. Waiting costs the customers{' '}
        {formatMoney(plan.lateness)}.{' '}
        <Why
          label="How good is the plan"
          because="An integer programme over all offers, shipping modes and lateness. The gap is how much cheaper any plan could be at most."
        >
          {plan.provenGap <= 0
            ? 'No plan is cheaper: proven'
            : `At most ${formatPercent(plan.provenGap)} from the cheapest possible`}
        </Why>
      </p>
      {plan.cannotBuy.map((entry) => (
        <Mark key={entry.ticketId + entry.requirementId} tone="stop">
          Ticket {number(entry.ticketId)}: {nameOf(entry.requirementId)} cannot be bought: {CANNOT_BUY[entry.why]}
        </Mark>
      ))}
      {shaken.map((entry) => (
        <Mark key={entry.ticketId} tone="doubt">
          <Link href={`/ticket/${entry.ticketId}`} className="underline underline-offset-4">
            Ticket {entry.number}
          </Link>{' '}
          is not in the plan: it has a decision to look at again.
        </Mark>
      ))}
      {orders.map((order) => (
        <div key={order.supplierId + order.modeId} className="rounded-sm border-[1.5px] border-edge bg-sheet p-3">
          <h3 className="flex flex-wrap justify-between gap-x-4 font-semibold">
            <span>
              {order.supplierName}, {order.modeName}
            </span>
            <span>
              {formatMoney(order.goods)} +{' '}
              {order.shipping.amountMinor === 0 ? 'no shipping' : `${formatMoney(order.shipping)} shipping`} ·{' '}
              {formatDate(order.arrivesOn, today)}
            </span>
          </h3>
          <ul>
            {order.lines.map((line) => (
              <li
                key={line.offerId}
                className="flex flex-wrap justify-between gap-x-4 border-t border-line py-1 text-[15px]"
              >
                <span>
                  {line.packs > 1 ? `${line.packs} × ` : ''}
                  <NumberText
                    text={order.parts.get(line.partId)?.partNumber ?? line.supplierNumber}
                    className="font-semibold"
                  />{' '}
                  {order.parts.get(line.partId)?.description}
                  <span className="text-soft">
                    {' '}
                    for{' '}
                    {line.for.map((entry) => (
                      <Link
                        key={entry.ticketId + entry.requirementId}
                        href={`/ticket/${entry.ticketId}`}
                        className="mr-1 underline underline-offset-4"
                      >
                        ticket {number(entry.ticketId)}
                      </Link>
                    ))}
                    {line.spare > 0 ? `· ${plural(line.spare, 'piece')} left over` : ''}
                  </span>
                </span>
                <span className="whitespace-nowrap">{formatMoney(line.linePrice)}</span>
              </li>
            ))}
          </ul>
        </div>
      ))}
      {orders.length ? (
        <Button tone="main" className="self-start" onClick={onPlace}>
          {orders.some(({ byHand }) => byHand) ? 'Make' : 'Send'} {plural(orders.length, 'order')}
        </Button>
      ) : null}
    </div>
  );
}
