'use client';
import Link from 'next/link';
import { Button, Mark, NumberText, Why } from '@/ui';
import { formatDate, formatMoney, formatPercent, plural } from '@/words';
import type { PlannedPurchases } from '@/workers';

/** The plan as it would be ordered: per supplier, with what each line is for. */
export function PlanView({ result, today, onPlace }: { result: PlannedPurchases; today: string; onPlace: () => void }) {
  const { plan, parts, suppliers, modes, tickets } = result;
  const number = (id: string) => tickets.find((ticket) => ticket.ticketId === id)?.number ?? '?';
  const part = (id: string) => parts.find((entry) => entry.id === id);
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
          Ticket {number(entry.ticketId)}: {entry.requirementId} cannot be bought:{' '}
          {entry.why === 'no-offer' ? 'nobody has enough of it' : 'not enough together with the others'}. Ask the
          suppliers, giving model and serial.
        </Mark>
      ))}
      {plan.orders.map((order) => (
        <div key={order.supplierId + order.modeId} className="rounded-sm border-[1.5px] border-edge bg-sheet p-3">
          <h3 className="flex flex-wrap justify-between gap-x-4 font-semibold">
            <span>
              {suppliers.find((supplier) => supplier.id === order.supplierId)?.name},{' '}
              {modes.find((mode) => mode.id === order.modeId)?.name}
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
                    text={part(line.partId)?.partNumber ?? line.supplierNumber}
                    className="font-semibold"
                  />{' '}
                  {part(line.partId)?.description}
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
                <span className="whitespace-nowrap">{formatMoney(line.price)}</span>
              </li>
            ))}
          </ul>
        </div>
      ))}
      {plan.orders.length ? (
        <Button tone="main" className="self-start" onClick={onPlace}>
          Send {plural(plan.orders.length, 'order')}
        </Button>
      ) : null}
    </div>
  );
}
