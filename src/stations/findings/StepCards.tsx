'use client';
import { note, repairDidNotHelp, settleCause } from '@/core/ticket';
import { sum } from '@/core/units';
import { settlementOf, type ShownStep } from '@/core/case';
import { Button, Caution, Folded, Why } from '@/ui';
import { formatMinutes, formatPercent, formatRate, wayWords } from '@/words';
import { DO_NEXT } from '../shared/StationProps';
import { ReadingField } from '../shared/ReadingField';
import type { FindingsProps } from './FindingsProps';
import { Sounds } from './Sounds';

export type Names = { cause: (id: string) => string; step: (step: ShownStep) => string };

export function namesOf({ lore }: FindingsProps): Names {
  const cause = (id: string) => lore.causes.find((entry) => entry.id === id)?.name.toLowerCase() ?? 'none of these';
  const way = (fixId: string | null) => lore.fixes.find(({ id }) => id === fixId)?.name ?? null;
  return {
    cause,
    step: (step) =>
      step.kind === 'check'
        ? (lore.checks.find((entry) => entry.id === step.id)?.title ?? '')
        : step.kind === 'fix'
          ? `Mend: ${wayWords(cause(step.id), way(step.fixId))}${step.also === null ? '' : `, with ${cause(step.also)}`}`
          : 'Give it up: offer a replacement',
  };
}

export type CardProps = FindingsProps & { step: ShownStep; names: Names };

const card = 'flex flex-col gap-2 rounded-sm border-[1.5px] border-edge bg-sheet p-3';

/** A repair that is the cheapest next step: settle on it, or say that it was done and did not help. */
export function FixCard({ step, names, lore, next, settings, ask }: CardProps) {
  const cause = lore.causes.find((entry) => entry.id === step.id);
  const also = step.kind === 'fix' ? lore.causes.find((entry) => entry.id === step.also) : undefined;
  if (!cause) return null;
  const way = lore.fixes.find(({ id }) => id === step.fixId);
  const { roleId, companions } = way ?? cause;
  const free = roleId === undefined && companions.length === 0;
  const { doNext } = next;
  const said = doNext.kind === 'decide-cause' && doNext.causeId === cause.id ? doNext.probability : null;
  const proposed =
    doNext.kind === 'decide-cause' &&
    doNext.causeId === cause.id &&
    doNext.fixId === step.fixId &&
    doNext.also === step.also &&
    (way !== undefined || also !== undefined);
  const noHelp = async () => {
    await ask(repairDidNotHelp(cause.id, step.fixId));
    if (also) await ask(repairDidNotHelp(also.id));
  };
  return (
    <div className={card}>
      <p className="flex items-baseline justify-between gap-3">
        <strong className="text-[17px]">{names.step(step)}</strong>
        <span className="whitespace-nowrap">{formatMinutes(step.minutes + step.accessMinutes)}</span>
      </p>
      <p className="text-[15px] text-soft">
        <Why
          label="Why not the cause’s own share"
          because="The chance that it is this, that nothing else is broken with it, and that mending it so helps."
        >
          {formatPercent(step.cures)} that this mends it
        </Why>
        {free ? ', and it needs no part' : ''}
        {way && way.lifeShare < 1 ? `; it lasts about ${formatPercent(way.lifeShare)} of a new part’s life` : ''}.
        Mending now costs {formatRate(step.expectedCost, settings.currency)} on average until it runs; no check would
        save more than it costs.
      </p>
      <div className="flex flex-wrap gap-2">
        <Button
          tone="main"
          onClick={() => void ask(settleCause(settlementOf({ ...cause, roleId, companions }, step.fixId, said, also)))}
          {...(proposed ? DO_NEXT : {})}
        >
          {also ? 'Settle on both' : 'Settle on it'}
        </Button>
        <Button onClick={() => void noHelp()}>Done already, no help</Button>
      </div>
    </div>
  );
}

const STATE_WORDS = { isolated: 'Machine unplugged', energised: 'Machine live' } as const;

/** How the service mode of this platform is entered, which item answers the check, and how one leaves it. */
function ServiceMode({ lore, checkId }: Pick<FindingsProps, 'lore'> & { checkId: string }) {
  const { service } = lore;
  const item = service?.items.find((entry) => entry.checkId === checkId);
  if (!service || !item) return null;
  return (
    <div>
      <p className="text-[15px]">
        <strong>{item.id}</strong>: {item.drives}. It should give {item.should}.
      </p>
      <Folded title="The way into it, and out">
        <ol className="list-decimal pl-5 text-[15px]">
          <li>{service.enter}</li>
          {service.readFaults ? <li>Stored faults first. {service.readFaults}</li> : null}
          <li>
            {item.id}: {item.drives}.
          </li>
          {service.clearFaults ? <li>Clear the faults. {service.clearFaults}</li> : null}
          {service.leave ? <li>Leave: {service.leave.charAt(0).toLowerCase() + service.leave.slice(1)}</li> : null}
        </ol>
      </Folded>
    </div>
  );
}

/** A check with its way in, its cautions, what each answer would mean, and the answers as buttons. */
export function CheckCard({ step, names, ...props }: CardProps) {
  const { lore, next, ask, settings } = props;
  const check = lore.checks.find((entry) => entry.id === step.id);
  if (!check) return null;
  const opens = step.opens
    .map((id) => lore.operations.find((operation) => operation.id === id)?.title.toLowerCase())
    .filter(Boolean);
  const back = step.closes.flatMap((id) => lore.operations.find((operation) => operation.id === id) ?? []);
  const limits = lore.limits.filter((entry) => entry.checkId === check.id);
  const saves = step.withoutChecks - step.expectedCost;
  const proposed = next.doNext.kind === 'step' && next.doNext.step.id === check.id;
  const saw = (outcomeId: string | null, outcome: string | null) =>
    ask(note({ type: 'check-done', checkId: check.id, outcomeId, title: check.title, outcome }));
  return (
    <div className={card}>
      <p className="flex items-baseline justify-between gap-3">
        <strong className="text-[17px] leading-snug">{check.title}</strong>
        <span className="whitespace-nowrap">{formatMinutes(step.minutes + step.accessMinutes)}</span>
      </p>
      <p className="text-[15px]">{check.how}</p>
      {check.kind === 'listen' ? <Sounds /> : null}
      {check.kind === 'service' ? <ServiceMode lore={lore} checkId={check.id} /> : null}
      <p className="text-[15px] text-soft">
        {check.kind === 'ask' ? 'A question to the customer' : STATE_WORDS[check.state]}
        {opens.length ? `. The way in: ${opens.join(', ')} (${formatMinutes(step.accessMinutes)})` : ''}.{' '}
        {back.length ? (
          <Why
            label="What goes back first"
            because="A machine is run upright, with its plug in and with all that holds or guards it in its place. What opened it has been charged with putting it back; taking it off again would be charged anew."
          >
            First: {back.map(({ refitTitle, title }) => (refitTitle ?? title).toLowerCase()).join('; ')} (
            {formatMinutes(sum(back.map(({ refitMinutes }) => refitMinutes)))}).
          </Why>
        ) : null}{' '}
        <Why
          label={`What ${check.title.toLowerCase()} saves`}
          because={
            <>
              {check.why} On average {formatRate(step.expectedCost, settings.currency)} until it is mended with this
              first; {formatRate(step.withoutChecks, settings.currency)} without any check.
            </>
          }
        >
          {saves > 0 ? `Saves ${formatRate(saves, settings.currency)} on average.` : 'It saves nothing on average.'}
        </Why>
      </p>
      {check.cautions.map((caution) => (
        <Caution key={caution}>{caution}</Caution>
      ))}
      {limits.map((limit) => (
        <ReadingField key={limit.id} {...props} limit={limit} />
      ))}
      <ul className="flex flex-col gap-1.5">
        {step.outcomes.map((outcome, index) => {
          const text = check.outcomes.find(({ id }) => id === outcome.outcomeId)?.text ?? outcome.outcomeId;
          return (
            <li key={outcome.outcomeId}>
              <button
                type="button"
                className="flex min-h-11 w-full flex-wrap items-center justify-between gap-x-3 rounded-sm border-[1.5px] border-edge bg-ground px-3 py-1.5 text-left"
                onClick={() => void saw(outcome.outcomeId, text)}
                {...(proposed && index === 0 ? DO_NEXT : {})}
              >
                <span className="font-semibold">{text}</span>
                <span className="text-sm text-soft">
                  {formatPercent(outcome.probability)} likely → {names.cause(outcome.leadsTo)}{' '}
                  {formatPercent(outcome.leadProbability)}
                </span>
              </button>
            </li>
          );
        })}
        <li>
          <Button onClick={() => void saw(null, null)}>Not sure</Button>
        </li>
      </ul>
    </div>
  );
}
