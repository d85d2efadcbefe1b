'use client';
import { useState } from 'react';
import { arrivalsOf, goingBackOf, returnParcels, type Wish } from '@/core/order';
import type { HeardDespatch } from '@/core/order/documents';
import { SHELF } from '@/core/stock';
import { eventStore, now, placeOrders, sendWaitingOrders } from '@/store';
import { useMoment, useOrders, useSettingsRow } from '@/store/react';
import { NotYours } from '@/stations/shared/NotYours';
import { Button, notice } from '@/ui';
import { answerNotice, plural, troubleWords } from '@/words';
import { ordersWorker, type PlannedPurchases } from '@/workers';
import { tried } from '../tried';
import { GoodsIn, ordersNamed } from './GoodsIn';
import { OrderCard } from './OrderCard';
import { PlanView } from './PlanView';
import { ReturnParcels } from './Returns';

type Planning =
  | { kind: 'idle' }
  | { kind: 'running' }
  | { kind: 'nothing' }
  | { kind: 'planned'; result: PlannedPurchases }
  | { kind: 'failed'; why: string };

/** What may be asked of a plan beside the parts that are needed. */
const ASKED = [
  { key: 'fillsShelf', words: 'And what the shelf lacks, where that pays' },
  { key: 'mayWait', words: 'And leave for a later order what still comes in time, where that pays' },
] as const;

/** One plan over all tickets; what is under way; parcels to check in. */
export function OrdersPage() {
  const row = useSettingsRow();
  const settings = row?.settings;
  const at = useMoment(settings);
  const open = useOrders(1);
  const done = useOrders(0);
  const [wishes, setWishes] = useState<readonly Wish[]>([]);
  const [sought, setSought] = useState('');
  const [despatch, setDespatch] = useState<HeardDespatch | null>(null);
  const [asked, setAsked] = useState({ fillsShelf: false, mayWait: false });
  const [planning, setPlanning] = useState<Planning>({ kind: 'idle' });
  if (!row || !settings || !open) return <main className="p-6 text-soft">Opening the orders …</main>;

  const named = ordersNamed(open, sought);
  const arrivals = arrivalsOf(open);
  const goingBack = goingBackOf(open);
  const intoCalendar = async () => {
    try {
      await (await import('./arrivalsCalendar')).saveArrivals(arrivals, goingBack);
    } catch (error) {
      notice(`No calendar was made: ${troubleWords(error)}.`);
    }
  };
  const plan = async (around: readonly Wish[]) => {
    setWishes(around);
    setPlanning({ kind: 'running' });
    try {
      const result = await ordersWorker.get().plan(now(), { wishes: around, ...asked });
      setPlanning(result ? { kind: 'planned', result } : { kind: 'nothing' });
    } catch (error) {
      setPlanning({ kind: 'failed', why: troubleWords(error) });
    }
  };
  const stop = () => {
    ordersWorker.stop();
    setPlanning({ kind: 'idle' });
  };
  const place = async (result: PlannedPurchases) => {
    // A second click finds no plan to place; a stale plan is refused at the door.
    setPlanning({ kind: 'running' });
    const made = await tried(() => placeOrders(eventStore(), result.orders, settings.zone));
    setPlanning({ kind: 'idle' });
    setWishes([]);
    if (!made) return;
    const yours = result.orders.filter(({ byHand, supplierId }) => byHand && supplierId !== SHELF.id).length;
    if (made.stocks.length) notice(`Kept on the shelf: ${plural(made.stocks.length, 'lot')}. Fetch it at Order.`);
    if (made.orders.length === 0) return;
    notice(
      `${plural(made.orders.length, 'order')} made${yours < made.orders.length ? '; sending' : ''}${yours ? `; ${yours === made.orders.length ? '' : `${yours} of them `}yours to send` : ''}.`,
    );
    try {
      await sendWaitingOrders(settings, true, (order) => notice(answerNotice(order)));
    } catch (error) {
      notice(`It could not be sent: ${troubleWords(error)}. It is tried again.`);
    }
  };

  return (
    <main className="relative min-h-0 overflow-y-auto px-4 py-4 md:px-6">
      <h1 className="text-[23px] font-bold">Orders</h1>
      <section aria-label="Order plan" className="mt-2 border-t-[3px] border-ink pt-2.5">
        <h2 className="text-lg font-semibold">What to buy where, for all machines at once</h2>
        <p className="mb-2 max-w-prose text-[15px] text-soft">
          Goods, shipping and days of waiting are weighed together. Parts of machines whose customer said yes are in it.
        </p>
        <NotYours settings={settings} defaults={row.defaults} of={['latePerDay', 'promiseDays']} />
        <div className="mb-2">
          {ASKED.map(({ key, words }) => (
            <label key={key} className="flex min-h-11 w-fit items-center gap-2.5 text-[15px]">
              <input
                type="checkbox"
                className="size-6 shrink-0 accent-mark"
                checked={asked[key]}
                onChange={(event) => {
                  setAsked({ ...asked, [key]: event.target.checked });
                  setPlanning({ kind: 'idle' });
                }}
              />
              {words}
            </label>
          ))}
        </div>
        {planning.kind === 'running' ? (
          <p className="flex items-center gap-3" role="status">
            Working it out … <Button onClick={stop}>Stop</Button>
          </p>
        ) : (
          <Button tone={planning.kind === 'planned' ? 'plain' : 'main'} onClick={() => void plan(wishes)}>
            {planning.kind === 'planned' ? 'Work it out again' : 'Work out the plan'}
          </Button>
        )}
        {planning.kind === 'nothing' ? (
          <p className="mt-2">Nothing is to be ordered: no machine with a yes lacks a part.</p>
        ) : null}
        {planning.kind === 'failed' ? (
          <p role="alert" className="mt-2 border-l-4 border-stop bg-stop-wash p-3">
            The plan could not be worked out: {planning.why}. Nothing was ordered.
          </p>
        ) : null}
        {planning.kind === 'planned' ? (
          <PlanView
            result={planning.result}
            today={at.today}
            wishes={wishes}
            onWishes={(around) => void plan(around)}
            onPlace={() => void place(planning.result)}
          />
        ) : null}
      </section>
      <ReturnParcels parcels={returnParcels(open)} settings={settings} at={at} />
      <section aria-label="Under way" className="mt-6 border-t border-line pt-2.5">
        <h2 className="text-lg font-semibold">Under way: {plural(open.length, 'order')}</h2>
        {open.length === 0 ? <p className="text-soft">Nothing is on the way.</p> : null}
        {open.length + (done?.length ?? 0) > 0 ? (
          <GoodsIn
            orders={[...open, ...(done ?? [])]}
            sought={sought}
            onSought={setSought}
            note={despatch}
            onNote={setDespatch}
          />
        ) : null}
        {arrivals.length + goingBack.length > 0 ? (
          <Button tone="quiet" onClick={() => void intoCalendar()}>
            Arrivals and returns into a calendar
          </Button>
        ) : null}
        {open.length > 0 && named.length === 0 ? (
          <p className="mt-2">
            {ordersNamed(done ?? [], sought).length
              ? 'That order is done: see below.'
              : 'Nothing under way is called so. It may be for another shop: do not open it.'}
          </p>
        ) : null}
        {[...named]
          .sort((a, b) => (a.madeAt < b.madeAt ? 1 : -1))
          .map((order) => (
            <OrderCard key={order.orderId} order={order} at={at} settings={settings} note={despatch} />
          ))}
      </section>
      {done?.length ? (
        <details className="mt-6 border-t border-line pt-2.5">
          <summary className="min-h-11 cursor-pointer content-center font-semibold text-soft">
            Done: {plural(done.length, 'order')}
          </summary>
          {ordersNamed(done, sought).map((order) => (
            <OrderCard key={order.orderId} order={order} at={at} settings={settings} note={null} />
          ))}
        </details>
      ) : null}
    </main>
  );
}
