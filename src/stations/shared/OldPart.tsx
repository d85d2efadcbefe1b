'use client';
import { useRef } from 'react';
import type { PricedAnswer } from '@/core/case';
import { LIKELY, type OldCandidate, type OldNumber } from '@/core/fit';
import { note, TEXT_LIMITS } from '@/core/ticket';
import { Button, FileInput, Mark, NumberText, Why } from '@/ui';
import { formatPercent, oldNumberWords } from '@/words';
import { CommitField } from './CommitField';
import type { StationProps } from './StationProps';
import { usePictureText } from './usePictureText';

type Props = Pick<StationProps, 'state' | 'ask'> & { answer: Pick<PricedAnswer, 'roleId' | 'roleName' | 'old'> };

/** What is printed on the old part, typed or photographed: evidence of which number this machine takes. */
export function OldPart({ state, ask, answer }: Props) {
  const { roleId, roleName, old } = answer;
  const file = useRef<HTMLInputElement>(null);
  const read = (text: string) => ask(note({ type: 'old-number-read', roleId, text: text.slice(0, TEXT_LIMITS.note) }));
  const picture = usePictureText((text) => void read(text));
  const committed = state.oldNumbers[roleId]?.text ?? '';
  return (
    <section aria-label={`The old ${roleName}`} className="flex flex-col gap-1.5 border-t border-line pt-2">
      <div className="flex flex-wrap items-end gap-2.5">
        <CommitField
          label={`Number on the old ${roleName}`}
          className="w-full sm:w-80"
          mono
          autoComplete="off"
          spellCheck={false}
          maxLength={TEXT_LIMITS.note}
          draftKey={`${state.ticketId} old-number ${roleId}`}
          committed={committed}
          commit={read}
          commitOnRest={false}
        />
        <Button onClick={() => file.current?.click()}>Photograph the old part</Button>
        <FileInput
          ref={file}
          accept="image/*"
          capture
          label={`Picture of the old ${roleName}’s label`}
          onFile={(picked) => void picture.read(picked)}
        />
      </div>
      <div aria-live="polite" className="flex flex-col gap-1.5 text-[15px]">
        {picture.share !== null ? `reading the picture, ${formatPercent(picture.share)}` : picture.why}
        {old ? <Verdict old={old} take={(number) => void read(number)} /> : null}
      </div>
    </section>
  );
}

const WORTH_A_LOOK = 0.02;
const MOST_SHOWN = 3;
const SURE = 0.95;

function Verdict({ old, take }: { old: OldNumber; take: (number: string) => void }) {
  const { tone, text } = oldNumberWords(old);
  const [lead] = old.candidates;
  const settled = lead !== undefined && lead.probability >= SURE && lead.differences.length === 0;
  const shown = settled ? [] : old.candidates.filter(({ probability }) => probability >= WORTH_A_LOOK);
  return (
    <>
      <p>
        <Mark tone={tone}>{text}</Mark>
      </p>
      {shown.length > 0 ? (
        <ul className="flex flex-wrap gap-2">
          {shown.slice(0, MOST_SHOWN).map((candidate) => (
            <li key={candidate.part.id}>
              <Button onClick={() => take(candidate.part.partNumber)}>
                It is&nbsp;
                <NumberText text={candidate.part.partNumber} marked={placesOf(candidate)} />
              </Button>
            </li>
          ))}
        </ul>
      ) : null}
      {old.unread < LIKELY ? (
        <p className="text-sm text-soft">
          <Why
            label="How sure the number on the old part is"
            because="How likely such a text is as each number that the lists lead to from this machine, misread or not; as another listed number; and as one that is in no list. All of these sum to 100 %."
          >
            {[
              ...old.candidates
                .slice(0, MOST_SHOWN)
                .filter(({ probability }) => probability >= WORTH_A_LOOK)
                .map(({ part, probability }) => `${part.partNumber} ${formatPercent(probability)}`),
              `in no list ${formatPercent(old.unknown)}`,
            ].join(' · ')}
          </Why>
        </p>
      ) : null}
    </>
  );
}

const placesOf = ({ differences }: OldCandidate): number[] =>
  differences.flatMap(({ index, listed }) => (listed === '' ? [] : [index]));
