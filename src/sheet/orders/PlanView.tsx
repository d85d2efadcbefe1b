'use client';
import { defined, subtractMoney, type LocalDate, type PartId, type RequirementId } from '@/core/units';
import Link from 'next/link';
import { SHELF } from '@/core/stock';
import { useRef, useState } from 'react';
import { isOpened, type PlanReason, type PurchasePlan, type Wish } from '@/core/order';
import { now } from '@/store';
import { Button, notice, Mark, NumberText, Why } from '@/ui';
import {
  delayWords,
  formatDate,
  formatMoney,
  formatPercent,
  plural,
  reasonWords,
  troubleWords,
  wishWords,
} from '@/words';
import { ordersWorker, type PlannedPurchases } from '@/workers';

const CANNOT_BUY: Record<PurchasePlan['cannotBuy'][number]['why'], string> = {
  'no-offer': 'nobody lists it. Ask the suppliers, giving model and serial.',
  'out-of-stock': 'nobody has enough of it in stock. Ask the suppliers when it comes.',
  'not-enough-together': 'there is some, but another machine takes it. Ask the suppliers when more comes.',
};

/** The reasons of a plan as they come, one plan solved for each; what was found so far stays when it is stopped. */
function useReasons(result: PlannedPurchases, wishes: readonly Wish[]) {
  const [found, setFound] = useState<{ of: PlannedPurchases; reasons: PlanReason[]; asked: 'some' | 'all' | null }>({
    of: result,
    reasons: [],
    asked: null,
  });
  const run = useRef<object | null>(null);
  const { reasons, asked } = found.of === result ? found : { reasons: [], asked: null };
  const explain = async () => {
    const own = {};
    run.current = own;
    const so: PlanReason[] = [];
    const say = (state: 'some' | 'all' | null) => setFound({ of: result, reasons: [...so], asked: state });
    try {
      for (const aspect of result.aspects) {
        say('some');
        const reason = await ordersWorker
          .get()
          .explain(aspect, result.plan, wishes, result.shelf, result.mayWait, now());
        if (run.current !== own) return;
        if (reason) so.push(reason);
      }
      say('all');
    } catch (error) {
      notice(`The reasons could not be worked out: ${troubleWords(error)}. The plan is as it was.`);
      say(null);
    }
  };
  const stop = () => {
    run.current = null;
    ordersWorker.stop();
    setFound({ of: result, reasons, asked: null });
  };
  return { reasons, asked, explain, stop };
}

/** What may be wished otherwise at a line or an order. */
function Wishes({
  label,
  wishes,
  names,
  wish,
}: {
  label: string;
  wishes: readonly Wish[];
  names: PlannedPurchases['market'];
  wish: (wish: Wish) => void;
}) {
  if (wishes.length === 0) return null;
  return (
    <details className="w-full text-[15px]">
      <summary
        className="min-h-11 cursor-pointer content-center text-soft underline underline-offset-4"
        aria-label={`Otherwise: ${label}`}
      >
        Otherwise
      </summary>
      <div className="flex flex-wrap gap-2 pb-2">
        {wishes.map((one) => (
          <Button key={JSON.stringify(one)} onClick={() => wish(one)}>
            {wishWords(one, names)}
          </Button>
        ))}
      </div>
    </details>
  );
}

/** The plan as it would be ordered: per supplier, with what each line is for. */
export function PlanView({
  result,
  today,
  wishes,
  onWishes,
  onPlace,
}: {
  result: PlannedPurchases;
  today: LocalDate;
  wishes: readonly Wish[];
  onWishes: (wishes: readonly Wish[]) => void;
  onPlace: () => void;
}) {
  const { plan, orders, wanted, tickets, shaken, market, wished } = result;
  const { reasons, asked, explain, stop } = useReasons(result, wishes);
  const isExplained = asked === 'all';
  const wish = (next: Wish) => onWishes([...wishes, next]);
  const reasonOf = (of: PlanReason['of'], id: string, otherwise: string) => {
    const reason = reasons.find((one) => one.of === of && one.id === id);
    return reason ? (
      <span className="block text-sm text-soft">{reasonWords(reason.without, otherwise, number)}</span>
    ) : null;
  };
  const nextBest = Math.min(
    Infinity,
    ...reasons.flatMap(({ without }) =>
      without.cannotBuy.length || without.total.amountMinor < 0 ? [] : [without.total.amountMinor],
    ),
  );
  const number = (id: string) => tickets.find((ticket) => ticket.ticketId === id)?.number ?? '?';
  const partOf = (requirementId: RequirementId): PartId =>
    defined(market.takes.find((one) => one.requirementId === requirementId)?.partIds[0], 'a part that it takes');
  const nameOf = (requirementId: RequirementId) => {
    const entry = wanted.find((part) => part.requirementId === requirementId);
    return entry ? `${entry.partNumber}, ${entry.description}` : requirementId;
  };
  const forShelf = plan.waits.reduce((left, { cost }) => subtractMoney(left, cost), plan.forLater);
  return (
    <div className="mt-3 flex flex-col gap-3">
      <p className="text-[15px]">
        <strong className="text-lg">
          {formatMoney({ ...plan.goods, amountMinor: plan.goods.amountMinor + plan.shipping.amountMinor })}
        </strong>{' '}
        to pay: goods {formatMoney(plan.goods)}, shipping {formatMoney(plan.shipping)}. Waiting costs the customers{' '}
        {formatMoney(plan.lateness)}.{' '}
        {forShelf.amountMinor ? `For the shelf ${formatMoney(forShelf)} wait for a better day. ` : ''}
        <Why
          label="How good is the plan"
          because="An integer programme over all offers, shipping modes and lateness. The gap is how much cheaper any plan could be at most."
        >
          {plan.provenGap <= 0
            ? 'No plan is cheaper: proven'
            : plan.provenGap >= 1
              ? 'Too large an order to prove how near it is to the cheapest possible'
              : `At most ${formatPercent(plan.provenGap)} from the cheapest possible`}
        </Why>
      </p>
      {wished ? (
        <section aria-label="Wishes" className="border-l-4 border-mark pl-3">
          <p className="text-[15px]">
            {wished.cannotBuy.length ? (
              reasonWords(wished, 'Around what you wished', number)
            ) : (
              <>
                Around what you wished, the plan costs <strong>{formatMoney(wished.total)}</strong> more than the best
                one, waiting included.
              </>
            )}
          </p>
          <ul className="flex flex-wrap gap-2">
            {wishes.map((one) => (
              <li key={JSON.stringify(one)}>
                <Button onClick={() => onWishes(wishes.filter((other) => other !== one))}>
                  {wishWords(one, market)} ✕<span className="sr-only"> take this wish back</span>
                </Button>
              </li>
            ))}
          </ul>
        </section>
      ) : null}
      {orders.length === 0 ? null : isExplained ? (
        <p className="text-[15px]">
          {Number.isFinite(nextBest)
            ? nextBest === 0
              ? 'Another plan is as good: see the lines.'
              : `The next best plan costs ${formatMoney({ ...plan.total, amountMinor: nextBest })} more, waiting included.`
            : 'There is no other plan.'}
        </p>
      ) : asked === 'some' ? (
        <p role="status" className="flex flex-wrap items-center gap-3">
          Trying each line otherwise, {reasons.length} of {result.aspects.length} … <Button onClick={stop}>Stop</Button>
        </p>
      ) : (
        <Button className="self-start" onClick={() => void explain()}>
          Why is it this plan?
        </Button>
      )}
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
      {plan.waits.length ? (
        <section aria-label="Left for a later order" className="border-l-4 border-doubt pl-3">
          <h3 className="font-semibold">Left for a later order</h3>
          <ul>
            {plan.waits.map((wait) => (
              <li key={wait.requirementId} className="flex flex-wrap items-center gap-x-3 text-[15px]">
                <span className="min-w-0 flex-1 basis-72">
                  Ticket {number(wait.ticketId)}: {nameOf(wait.requirementId)}. Order it by{' '}
                  <strong>{formatDate(wait.orderBy, today)}</strong> at the latest; here{' '}
                  {formatDate(wait.arrivesOn, today)}.{' '}
                  <Why
                    label="What waiting comes to"
                    because={`With ${market.suppliers.find(({ id }) => id === wait.supplierId)?.name ?? wait.supplierId} it is expected to come to ${formatMoney(wait.cost)}: the goods, and the shipping as often as no other order goes there before that day, by how often you ordered there in the last 90 days. Parcels that come late are not in it. Nothing is ordered for it now: it is in tomorrow’s plan again.`}
                  >
                    {formatMoney(wait.cost)} then
                  </Why>
                </span>
                {wishes.some((one) => one.kind === 'later' && one.requirementId === wait.requirementId) ? null : (
                  <Button
                    onClick={() =>
                      wish({ kind: 'now', requirementId: wait.requirementId, partId: partOf(wait.requirementId) })
                    }
                  >
                    In this order after all
                  </Button>
                )}
              </li>
            ))}
          </ul>
        </section>
      ) : null}
      {orders.map((order) => (
        <div key={order.supplierId + order.modeId} className="rounded-sm border-[1.5px] border-edge bg-sheet p-3">
          <h3 className="flex flex-wrap justify-between gap-x-4 font-semibold">
            <span>
              {order.supplierName}, {order.modeName}
            </span>
            <span>
              {formatMoney(order.goods)} +{' '}
              {order.shipping.amountMinor === 0 ? 'no shipping' : `${formatMoney(order.shipping)} shipping`} ·{' '}
              <Why
                label={`How sure that day is for ${order.supplierName}`}
                because={
                  delayWords(market.suppliers.find(({ id }) => id === order.supplierId)?.delay ?? null) ??
                  'As the supplier packs and the carrier brings it. None of its parcels came yet that had a day.'
                }
              >
                {formatDate(order.arrivesOn, today)}
              </Why>
            </span>
          </h3>
          {reasonOf('mode', order.modeId, 'Not sent so')}
          <Wishes
            label={`${order.supplierName}, ${order.modeName}`}
            wish={wish}
            names={market}
            wishes={[
              { kind: 'not-from', supplierId: order.supplierId },
              { kind: 'not-by', modeId: order.modeId },
              ...market.modes
                .filter(({ supplierId, id }) => supplierId === order.supplierId && id !== order.modeId)
                .map(({ supplierId, id }): Wish => ({ kind: 'only-by', supplierId, modeId: id })),
            ]}
          />
          <ul>
            {order.lines.map((line) => (
              <li
                key={`${line.offerId} ${isOpened(line)}`}
                className="flex flex-wrap justify-between gap-x-4 border-t border-line py-1 text-[15px]"
              >
                <span className="min-w-0 flex-1 basis-72">
                  {line.packs > 1 ? `${line.packs} × ` : ''}
                  <NumberText
                    text={order.parts.get(line.partId)?.partNumber ?? line.supplierNumber}
                    className="font-semibold"
                  />{' '}
                  {order.parts.get(line.partId)?.description}
                  <span className="text-soft">
                    {' '}
                    {line.for.length ? 'for ' : ''}
                    {line.for.map((entry) => (
                      <Link
                        key={entry.ticketId + entry.requirementId}
                        href={`/ticket/${entry.ticketId}`}
                        className="mr-1 underline underline-offset-4"
                      >
                        ticket {number(entry.ticketId)}
                      </Link>
                    ))}
                    {isOpened(line) ? '· the kit is opened ' : ''}
                    {line.spare > 0 ? `· ${plural(line.spare, 'piece')} for the shelf` : ''}
                  </span>
                  {reasonOf('offer', line.offerId, 'Without this offer')}
                </span>
                <span className="whitespace-nowrap">{formatMoney(line.linePrice)}</span>
                <Wishes
                  label={order.parts.get(line.partId)?.partNumber ?? line.supplierNumber}
                  wish={wish}
                  names={market}
                  wishes={[
                    { kind: 'not-number', partId: line.partId },
                    ...(market.parts.find(({ id }) => id === line.partId)?.suppliers ?? [])
                      .filter((supplierId) => supplierId !== order.supplierId)
                      .map((supplierId): Wish => ({ kind: 'only-from', partId: line.partId, supplierId })),
                    ...line.for.map(({ requirementId }): Wish => ({
                      kind: 'later',
                      requirementId,
                      partId: partOf(requirementId),
                    })),
                    ...line.for.flatMap(({ requirementId }) =>
                      (market.takes.find((one) => one.requirementId === requirementId)?.partIds ?? [])
                        .filter((partId) => partId !== line.partId)
                        .map((partId): Wish => ({ kind: 'only-number', requirementId, partId })),
                    ),
                  ]}
                />
              </li>
            ))}
          </ul>
        </div>
      ))}
      {orders.length ? (
        <Button tone="main" className="self-start" onClick={onPlace}>
          {placeWords(orders)}
        </Button>
      ) : null}
    </div>
  );
}

/** What the button does: orders that go out, and what is kept on the shelf. */
function placeWords(orders: PlannedPurchases['orders']): string {
  const bought = orders.filter(({ supplierId }) => supplierId !== SHELF.id);
  const isKept = bought.length < orders.length;
  if (bought.length === 0) return 'Keep it on the shelf for them';
  return `${bought.some(({ byHand }) => byHand) ? 'Make' : 'Send'} ${plural(bought.length, 'order')}${isKept ? ', keep the rest on the shelf' : ''}`;
}
