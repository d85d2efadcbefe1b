'use client';
import { Question } from '../shared/Station';
import type { StationProps } from '../shared/StationProps';
import { WhyItFailed } from '../shared/WhyItFailed';
import { Mark } from '@/ui';
import { formatPercent, wayWords } from '@/words';
import { Along } from './Along';
import { Before } from './Before';
import { CauseList } from './CauseList';
import { CodeField, Complaint } from './Complaint';
import { FailingRun } from './FailingRun';
import type { FindingsProps } from './FindingsProps';
import { NextCheck, OtherWays } from './NextCheck';
import { Observed } from './Observed';

export function FindingsLine({ state, causes }: StationProps<'causes'>) {
  const way = causes.lead?.way;
  const cause = way?.cause;
  const found = [
    ...state.findings.filter((finding) => finding.answer === 'yes').map((finding) => finding.threeWords),
    ...state.codes.map((code) => code.code),
  ];
  if (found.length === 0 && !cause) return <span className="text-soft">nothing said yet</span>;
  return (
    <>
      {found.length ? `${found.join(' · ')} → ` : state.complaint ? `“${state.complaint}”, not weighed yet · ` : ''}
      <strong>{cause ? wayWords(cause.name, way?.name ?? null).toLowerCase() : 'no cause'}</strong>
      {cause ? (
        causes.decided ? (
          <>
            {' '}
            <Mark tone="sound">settled</Mark>
          </>
        ) : (
          `, ${formatPercent(causes.lead?.probability ?? 0)}`
        )
      ) : (
        ''
      )}
    </>
  );
}

/** Before the machine is known: what the customer says can be written down all the same. */
export function FindingsUnread(props: Pick<StationProps, 'state' | 'ask'>) {
  return (
    <div className="flex flex-col gap-4">
      <Complaint {...props} />
      <Question
        title="Read the plate first"
        why="The plain choices depend on the design of the machine. What the customer says can be written down now."
      />
    </div>
  );
}

/** What is said and seen at the left, what to do about it beside it; the rest folded below. */
export function FindingsStation(props: FindingsProps) {
  const settled = props.state.round.cause !== null;
  return (
    <div className="flex flex-col gap-3">
      <div className="grid items-start gap-x-5 gap-y-3 sm:grid-cols-[1fr_11rem]">
        <Complaint {...props} lore={props.lore} />
        <CodeField {...props} />
      </div>
      <div className="grid gap-x-5 gap-y-3 lg:grid-cols-2">
        <div className="min-w-0 lg:order-last">{settled ? <WhyItFailed {...props} /> : <NextCheck {...props} />}</div>
        <div className="min-w-0">
          <Observed {...props} />
        </div>
      </div>
      <div>
        <Before {...props} />
        <FailingRun {...props} />
        <Along {...props} />
      </div>
      <div className="grid gap-x-5 gap-y-3 border-t border-line pt-3 lg:grid-cols-2">
        <CauseList {...props} />
        <OtherWays {...props} />
      </div>
    </div>
  );
}
