'use client';
import type { TicketId } from '@/core/units';
import { useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { STATIONS, type Assessment, type Station as StationId, type Weighed } from '@/core/case';
import { isSettled, machineName } from '@/core/ticket';
import { useMoment, useSettingsRow, useTicket } from '@/store/react';
import { BenchLine, BenchStation } from '@/stations/bench/BenchStation';
import { FindingsLine, FindingsStation, FindingsUnread } from '@/stations/findings/FindingsStation';
import { OrderLine, OrderStation, type OrderProps } from '@/stations/order/OrderStation';
import { PartLine, PartStation } from '@/stations/part/PartStation';
import { PlateLine, PlateStation } from '@/stations/plate/PlateStation';
import { ProofLine, ProofStation } from '@/stations/proof/ProofStation';
import { Question, Station } from '@/stations/shared/Station';
import type { StationProps } from '@/stations/shared/StationProps';
import { Visits } from '@/stations/shared/Visits';
import { WorthLine, WorthStation } from '@/stations/worth/WorthStation';
import { Button, Mark } from '@/ui';
import { formatSince, STATION_NAMES } from '@/words';
import { History } from './History';
import { setOpenTicket } from './openTicket';
import { Scale, ScaleBar } from './Scale';
import { useAsk } from './useAsk';
import { useAssessment } from './useAssessment';
import { useBadges } from './useBadges';
import { useKeys } from './useKeys';

/** Brings the focus to the control that does the next thing; what was heard in the customer's words comes before the plain choices. */
function focusDoNext(): void {
  const control =
    document.querySelector<HTMLElement>('[data-do-next]:not(:disabled)') ??
    document.querySelector<HTMLElement>('#station-findings [data-heard] button') ??
    document.querySelector<HTMLElement>('#station-findings button[aria-pressed]');
  control?.scrollIntoView({ block: 'center' });
  control?.focus();
}

/** Brings a station's name into view where it is not: what was above it has folded, and the page stands anywhere. Not under the hands of who types. */
function showStation(id: StationId): void {
  const section = document.querySelector<HTMLElement>(`#station-${id}`);
  const page = section?.closest('main');
  if (!section || !page || document.activeElement?.matches('input, textarea, select')) return;
  const [{ top }, seen] = [section.getBoundingClientRect(), page.getBoundingClientRect()];
  if (top < seen.top || top > seen.top + seen.height * LOW_ON_THE_PAGE) section.scrollIntoView({ block: 'start' });
}
/** A station that begins further down than this shows too little of itself. */
const LOW_ON_THE_PAGE = 0.6;

export function TicketSheet({ ticketId }: { ticketId: TicketId }) {
  const loaded = useTicket(ticketId);
  const row = useSettingsRow();
  const settings = row?.settings;
  const at = useMoment(settings);
  const { assessment, busy, failed } = useAssessment(loaded?.state, settings, at.now);
  const badges = useBadges();
  const [toggled, setToggled] = useState<ReadonlyMap<StationId, boolean>>(new Map());
  const inWork = assessment?.next.station;

  useEffect(() => {
    if (loaded) setOpenTicket({ state: loaded.state, assessment });
    return () => setOpenTicket(null);
  }, [loaded, assessment]);

  // When the work moves on, what was folded or unfolded by hand before counts no more.
  const before = useRef(inWork);
  useEffect(() => {
    const last = before.current;
    before.current = inWork;
    if (last === inWork) return;
    setToggled(new Map());
    if (!last || !inWork || inWork === 'done') return;
    const shown = setTimeout(() => showStation(inWork), 30);
    return () => clearTimeout(shown);
  }, [inWork]);

  const { ask, shelf, undo } = useAsk(ticketId);
  const isOpen = useCallback(
    (id: StationId) => toggled.get(id) ?? (inWork === 'done' ? id === 'proof' : inWork === id),
    [toggled, inWork],
  );
  const toggle = useCallback((id: StationId) => setToggled((map) => new Map(map).set(id, !isOpen(id))), [isOpen]);

  const keys = useMemo(
    () => ({
      d: () => {
        if (inWork && inWork !== 'done' && !isOpen(inWork)) toggle(inWork);
        setTimeout(focusDoNext, 30);
      },
      u: () => void undo(),
      ...Object.fromEntries(
        STATIONS.map((id, index) => [
          String(index + 1),
          () => {
            const head = document.querySelector<HTMLElement>(`#station-${id} h2 button`);
            // The key goes there; it folds only what one stands on: a station may have unfolded by itself a moment ago.
            if (!isOpen(id) || document.activeElement === head) toggle(id);
            head?.focus();
          },
        ]),
      ),
    }),
    [inWork, isOpen, toggle, undo],
  );
  useKeys(keys);

  if (loaded === null)
    return (
      <main className="p-6">
        <h1 className="text-2xl font-bold">No such ticket</h1>
        <p className="text-soft">
          It may belong to another shop’s backup. The machines in this shop are listed at the left.
        </p>
      </main>
    );
  if (!loaded || !settings) return <main className="p-6 text-soft">Opening the ticket …</main>;
  const { state, events } = loaded;
  return (
    <div className="grid min-h-0 flex-1 grid-rows-1 lg:grid-cols-[minmax(0,1fr)_19.75rem]">
      <main className="relative flex min-h-0 min-w-0 flex-col overflow-y-auto">
        <div className="flex-1 px-4 pt-3.5 pb-6 md:px-6">
          <header className="mb-2 flex items-start justify-between gap-x-4">
            <div>
              <h1 className="text-[23px] leading-tight font-bold">{machineName(state) || `Ticket ${state.number}`}</h1>
              <p className="text-soft">
                ticket {state.number}
                {state.customer ? ` · ${[state.customer.name, state.customer.place].filter(Boolean).join(', ')}` : ''} ·
                in the shop since {formatSince(state.openedAt, at.now, at.zone)}
                {state.closed ? ' · closed' : ''}
                {state.plate && !isSettled(state.plate) ? (
                  <>
                    {' · '}
                    <Mark tone="doubt">plate in doubt</Mark>
                  </>
                ) : null}
              </p>
              <Visits state={state} settings={settings} at={at} />
            </div>
            <Button tone="quiet" className="shrink-0" hint="u" onClick={() => void undo()}>
              Take back
            </Button>
          </header>
          {failed ? (
            <p role="alert" className="border-l-4 border-stop bg-stop-wash p-3">
              The computation stopped: {failed}. Your notes are kept. Reload the page; if it happens again, take back
              the last note.
            </p>
          ) : null}
          {assessment ? (
            <Stations
              base={{ state, settings, defaults: row?.defaults ?? [], at, ask }}
              assessment={assessment}
              shelf={shelf}
              isOpen={isOpen}
              toggle={toggle}
              badges={badges}
            />
          ) : failed ? null : (
            <p className="text-soft">Working it out …</p>
          )}
          <History events={events} at={at} ask={ask} ticketId={ticketId} />
        </div>
        {assessment ? (
          <ScaleBar assessment={assessment} settings={settings} at={at} busy={busy} onDoNext={keys.d} />
        ) : null}
      </main>
      {assessment ? (
        <Scale assessment={assessment} settings={settings} at={at} busy={busy} onDoNext={keys.d} />
      ) : (
        <aside className="hidden border-l border-line bg-sheet lg:block" />
      )}
    </div>
  );
}

type StationsProps = {
  base: StationProps;
  assessment: Assessment;
  shelf: OrderProps['shelf'];
  isOpen: (id: StationId) => boolean;
  toggle: (id: StationId) => void;
  badges: ReadonlyMap<string, string>;
};

type Shown = { summary: ReactNode; body: ReactNode };
const LATER: Shown = {
  summary: <span className="text-soft">follows once the machine is known</span>,
  body: <Question title="Read the plate first" why="Everything here follows from the machine." />,
};

/** Before the machine is known only its plate and what the customer says can be worked on. */
function unreadStations({ base, badges }: StationsProps): Record<StationId, Shown> {
  const { complaint } = base.state;
  return {
    plate: { summary: <PlateLine {...base} />, body: <PlateStation {...base} badges={badges} /> },
    findings: {
      summary: <span className="text-soft">{complaint || 'nothing said yet'}</span>,
      body: <FindingsUnread {...base} />,
    },
    part: LATER,
    worth: LATER,
    order: LATER,
    bench: LATER,
    proof: LATER,
  };
}

/** Each station is given the chapters that it shows. */
function weighedStations(
  { base, badges, shelf }: StationsProps,
  {
    machine,
    age,
    lore,
    causes,
    telling,
    part,
    offer,
    range,
    market,
    conditions,
    worth,
    choices,
    tips,
    paths,
    nearby,
    payers,
    steps,
    along,
    barred,
    look,
    why,
    bench,
    next,
  }: Weighed,
): Record<StationId, Shown> {
  const findings = { ...base, machine, lore, causes, telling, steps, along, barred, look, why, next };
  const parts = { ...base, machine, age, lore, causes, part, offer, next };
  const worths = {
    ...base,
    machine,
    age,
    lore,
    causes,
    offer,
    range,
    market,
    conditions,
    worth,
    choices,
    bench,
    next,
    tips,
    paths,
    nearby,
    payers,
    why,
  };
  const orders = { ...base, next, part, shelf };
  const works = { ...base, bench, lore, why, next };
  const proofs = { ...base, bench, lore, causes, barred, why, next, nearby };
  return {
    plate: {
      summary: <PlateLine {...base} machine={machine} age={age} />,
      body: <PlateStation {...base} {...{ machine, age, payers, lore, next, badges }} />,
    },
    findings: { summary: <FindingsLine {...findings} />, body: <FindingsStation {...findings} /> },
    part: { summary: <PartLine {...parts} />, body: <PartStation {...parts} /> },
    worth: { summary: <WorthLine {...worths} />, body: <WorthStation {...worths} /> },
    order: { summary: <OrderLine {...orders} />, body: <OrderStation {...orders} /> },
    bench: { summary: <BenchLine {...works} />, body: <BenchStation {...works} /> },
    proof: { summary: <ProofLine {...proofs} />, body: <ProofStation {...proofs} /> },
  };
}

function Stations(props: StationsProps) {
  const { assessment, isOpen, toggle } = props;
  const inWork = assessment.next.station;
  const shown = assessment.kind === 'unread' ? unreadStations(props) : weighedStations(props, assessment);
  return (
    <>
      {STATIONS.map((id, index) => (
        <Station
          key={id}
          id={id}
          name={STATION_NAMES[id]}
          hint={String(index + 1)}
          inWork={inWork === id}
          open={isOpen(id)}
          onToggle={() => toggle(id)}
          summary={shown[id].summary}
        >
          {shown[id].body}
        </Station>
      ))}
    </>
  );
}
