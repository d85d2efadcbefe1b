'use client';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { STATIONS, type Assessment, type Station as StationId } from '@/core/case';
import type { TicketEventData } from '@/core/ticket';
import { record as append, undoLast } from '@/store';
import { useMoment, useSettings, useTicket } from '@/store/react';
import { BenchLine, BenchStation } from '@/stations/bench/BenchStation';
import { FindingsLine, FindingsStation } from '@/stations/findings/FindingsStation';
import { OrderLine, OrderStation } from '@/stations/order/OrderStation';
import { PartLine, PartStation } from '@/stations/part/PartStation';
import { PlateLine, PlateStation } from '@/stations/plate/PlateStation';
import { ProofLine, ProofStation } from '@/stations/proof/ProofStation';
import { Station } from '@/stations/shared/Station';
import type { StationProps } from '@/stations/shared/StationProps';
import { WorthLine, WorthStation } from '@/stations/worth/WorthStation';
import { Button } from '@/ui';
import { eventWords, formatSince, notSavedWords, STATION_NAMES } from '@/words';
import { History } from './History';
import { setOpenTicket } from './openTicket';
import { Scale, ScaleBar } from './Scale';
import { useAssessment } from './useAssessment';
import { useBadges } from './useBadges';
import { useKeys } from './useKeys';

const LINES = {
  plate: PlateLine,
  findings: FindingsLine,
  part: PartLine,
  worth: WorthLine,
  order: OrderLine,
  bench: BenchLine,
  proof: ProofLine,
};
const BODIES = {
  findings: FindingsStation,
  part: PartStation,
  worth: WorthStation,
  order: OrderStation,
  bench: BenchStation,
  proof: ProofStation,
};

/** Brings the focus to the control that does the next thing. */
function focusDoNext(): void {
  const control =
    document.querySelector<HTMLElement>('[data-do-next]:not(:disabled)') ??
    document.querySelector<HTMLElement>('#station-findings button[aria-pressed]');
  control?.scrollIntoView({ block: 'center' });
  control?.focus();
}

export function TicketSheet({ ticketId }: { ticketId: string }) {
  const loaded = useTicket(ticketId);
  const settings = useSettings();
  const at = useMoment(settings);
  const { assessment, busy, none, failed } = useAssessment(loaded?.state, settings, at.now);
  const badges = useBadges();
  const [toggled, setToggled] = useState<ReadonlyMap<StationId, boolean>>(new Map());
  const inWork = assessment?.station;

  useEffect(() => {
    if (loaded) setOpenTicket({ state: loaded.state, assessment });
    return () => setOpenTicket(null);
  }, [loaded, assessment]);

  // When the work moves on, what was folded or unfolded by hand before counts no more.
  const before = useRef(inWork);
  useEffect(() => {
    if (before.current !== inWork) setToggled(new Map());
    before.current = inWork;
  }, [inWork]);

  const record = useCallback(
    async (...data: TicketEventData[]) => {
      try {
        await append(ticketId, ...data);
      } catch (error) {
        toast(notSavedWords(error));
        throw error;
      }
    },
    [ticketId],
  );
  const undo = useCallback(async () => {
    const event = await undoLast(ticketId);
    if (!event) toast('There is nothing to take back. What was ordered is cancelled on the Orders page.');
    else if (event.data.type !== 'undone' && isTicketData(event.data)) toast(`Taken back: ${eventWords(event.data)}`);
  }, [ticketId]);
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
            toggle(id);
            document.querySelector<HTMLElement>(`#station-${id} h2 button`)?.focus();
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
              <h1 className="text-[23px] leading-tight font-bold">
                {state.plate ? `${state.plate.badge} ${state.plate.modelNumber}` : `Ticket ${state.number}`}
              </h1>
              <p className="text-soft">
                ticket {state.number}
                {state.customer ? ` · ${[state.customer.name, state.customer.place].filter(Boolean).join(', ')}` : ''} ·
                in the shop since {formatSince(state.openedAt, at.now, at.zone)}
                {state.closed ? ' · closed' : ''}
              </p>
            </div>
            <Button tone="quiet" className="shrink-0" hint="u" onClick={() => void undo()}>
              Take back
            </Button>
          </header>
          {none ? (
            <p>There is no catalogue yet. Import one on the Catalogue page; what you have written here is kept.</p>
          ) : null}
          {failed ? (
            <p role="alert" className="border-l-4 border-stop bg-stop-wash p-3">
              The computation stopped: {failed}. Your notes are kept. Reload the page; if it happens again, take back
              the last note.
            </p>
          ) : null}
          {assessment ? (
            <Stations
              props={{ state, assessment, settings, at, record }}
              isOpen={isOpen}
              toggle={toggle}
              badges={badges}
            />
          ) : none || failed ? null : (
            <p className="text-soft">Working it out …</p>
          )}
          <History events={events} at={at} record={record} ticketId={ticketId} />
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

const isTicketData = (data: { type: string }): data is TicketEventData =>
  !['order-made', 'send-failed', 'answered', 'line-received', 'cancelled'].includes(data.type);

type StationsProps = {
  props: StationProps;
  isOpen: (id: StationId) => boolean;
  toggle: (id: StationId) => void;
  badges: ReadonlyMap<string, string>;
};

function Stations({ props, isOpen, toggle, badges }: StationsProps) {
  const inWork: Assessment['station'] = props.assessment.station;
  return (
    <>
      {STATIONS.map((id, index) => {
        const Line = LINES[id];
        const Body = id === 'plate' ? null : BODIES[id];
        return (
          <Station
            key={id}
            id={id}
            name={STATION_NAMES[id]}
            hint={String(index + 1)}
            inWork={inWork === id}
            open={isOpen(id)}
            onToggle={() => toggle(id)}
            summary={<Line {...props} />}
          >
            {Body ? <Body {...props} /> : <PlateStation {...props} badges={badges} />}
          </Station>
        );
      })}
    </>
  );
}
