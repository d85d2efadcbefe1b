import { useState } from 'react';
import type { SheetStep } from '@/core/bench';
import { clearStep, tickStep } from '@/core/ticket';
import { Button, Caution, cx, Mark } from '@/ui';
import { formatMinutes, formatMoment, listOf, stepBarWords } from '@/words';
import { DO_NEXT } from '../shared/StationProps';
import { AtTheSwap } from './AtTheSwap';
import { JointCard } from './JointCard';
import { RescueCard } from './RescueCard';
import { StepNotes } from './StepNotes';
import { Tick } from './Tick';
import type { BenchProps } from './BenchProps';

/** One step: a tick, and under it how it is done; open for the step that is next, for any other at a touch. */
export function StepRow({ step, isNext, ...props }: BenchProps & { step: SheetStep; isNext: boolean }) {
  const { ask, at } = props;
  const [touched, setTouched] = useState<boolean | null>(null);
  const open = touched ?? isNext;
  const tick = () =>
    ask(
      step.tickedAt ? clearStep(step.step, step.title) : tickStep(step.step, step.title, step.waitHours, step.barred),
    );
  return (
    <li className={cx('border-b border-line', isNext && 'bg-mark-wash')}>
      <div className="flex items-center">
        <Tick
          on={step.tickedAt !== null}
          disabled={step.barred !== null}
          onTick={() => void tick()}
          rest={{ 'data-testid': 'step', ...(isNext && step.barred?.kind !== 'count-first' ? DO_NEXT : {}) }}
        >
          {step.title}
          {step.people > 1 ? <strong> · {step.people} people</strong> : null}
          {step.tickedAt ? (
            <span className="text-sm">
              {' '}
              · {formatMoment(step.tickedAt, at.now, at.zone)}
              {step.by ? `, ${step.by}` : ''}
            </span>
          ) : null}
        </Tick>
        <span className="text-sm whitespace-nowrap text-soft">{formatMinutes(step.minutes)}</span>
        <Button
          tone="quiet"
          aria-expanded={open}
          aria-label={`How: ${step.title}`}
          onClick={() => setTouched(!open)}
          className="shrink-0"
        >
          {open ? 'Less' : 'How'}
        </Button>
      </div>
      {open ? <How {...props} step={step} /> : null}
    </li>
  );
}

function How({ step, ...props }: BenchProps & { step: SheetStep }) {
  const back = step.step.phase === 'refit';
  return (
    <div className="flex flex-col gap-2 px-2 pb-3 pl-12 text-[15px]">
      {step.barred ? <Mark tone="stop">Not yet: {stepBarWords(step.barred)}.</Mark> : null}
      {step.noReturn ? <Mark tone="stop">No way back: {step.noReturn}.</Mark> : null}
      {step.cautions.map((caution) => (
        <Caution key={caution}>{caution}</Caution>
      ))}
      <dl className="grid grid-cols-[auto_1fr] gap-x-3 gap-y-1">
        <Said name="How" text={step.how} />
        <Said name={back ? 'On before it closes' : 'Off first'} text={listOf(step.connections)} />
        <Said
          name="Screws"
          text={step.screws.map(({ count, what, hole }) => `${count} × ${what}${hole ? `: ${hole}` : ''}`).join('; ')}
        />
        <Said name="Sits" text={step.pose} />
        <Said name="Tight" text={step.tightness} />
        <Said name="Helps" text={step.help} />
        <Said name="Leave alone" text={step.leaveAlone} />
        <Said name="Look while here" text={step.look} />
        <Said name="Tools" text={listOf(step.tools)} />
      </dl>
      <JointCard {...props} step={step} />
      <AtTheSwap {...props} step={step} />
      <RescueCard {...props} step={step} />
      <StepNotes {...props} step={step} />
    </div>
  );
}

function Said({ name, text }: { name: string; text: string | null }) {
  if (!text) return null;
  return (
    <>
      <dt className="text-soft">{name}</dt>
      <dd>{text}</dd>
    </>
  );
}
