'use client';
import type { RoleId } from '@/core/units';
import { useState } from 'react';
import { Question } from '../shared/Station';
import { OldPart } from '../shared/OldPart';
import { ShakenNote } from '../shared/Shaken';
import { DO_NEXT } from '../shared/StationProps';
import {
  candidateKey,
  chosenKey,
  companionsOf,
  partsOf,
  picksToDecide,
  type PricedAnswer,
  type PricedCandidate,
} from '@/core/case';
import { note, chooseParts, keep } from '@/core/ticket';
import { Button, Mark, NumberText } from '@/ui';
import { crossProblemWords, formatMoney, formatNumber, listOf, wayWords } from '@/words';
import { Caliper } from './Caliper';
import { CandidateCard } from './CandidateCard';
import { Donors } from './Donors';
import { Enquiry } from './Enquiry';
import type { PartProps } from './PartProps';
import { bearingsOf, SeatCheck } from './SeatCheck';
import { TypedPart } from './TypedPart';
import { useNames } from './useNames';

const leadOf = ({ causes }: Pick<PartProps, 'causes'>) => causes.lead?.way.cause;

export function PartLine({ state, causes, part, next }: PartProps) {
  const { parts } = state.round;
  const cause = leadOf({ causes });
  if (parts.length > 0)
    return (
      <>
        {parts.slice(0, 4).map(({ requirementId, bought }) => (
          <NumberText key={requirementId} text={bought.partNumber} className="mr-3" />
        ))}
        {parts.length > 4 ? <span className="text-soft">and {parts.length - 4} more</span> : null}
        {next.shaken.some(({ decision }) => decision === 'part') ? <Mark tone="doubt">look again</Mark> : null}
      </>
    );
  const first = part.parts?.main?.candidates[0];
  if (!cause) return <span className="text-soft">not known yet</span>;
  if (!part.parts?.main && (part.parts?.companions.length ?? 0) === 0)
    return <span className="text-soft">{cause.name} needs no part</span>;
  return (
    <span className="text-soft">
      {first ? (
        <>
          would be <NumberText text={first.parts[0]?.part.partNumber ?? ''} />{' '}
          {first.sellingPrice ? `at ${formatMoney(first.sellingPrice)}` : 'not offered by anyone'}
        </>
      ) : (
        'no number is listed: ask the supplier with model and serial'
      )}
    </span>
  );
}

const SHOWN = 4;

export function PartStation(props: PartProps) {
  const { state, part, causes, offer, next, ask } = props;
  const names = useNames(props);
  const { parts } = part;
  const cause = leadOf(props);
  const chosen = chosenKey(state, cause ?? null);
  const [picked, setPicked] = useState<string | null>(null);
  if (!cause || !parts)
    return <Question title="Settle on a cause first" why="The part follows from model, cause, position and serial." />;
  const { main, companions } = parts;
  const shaken = <ShakenNote shaken={next.shaken} of="part" ask={ask} />;
  if (!main && companions.length === 0)
    return (
      <div className="flex flex-col gap-3">
        <Question
          title={`${wayWords(cause.name, causes.lead?.way.name)}: nothing to buy`}
          why="This cause needs no part. Go on to the offer."
        />
        {shaken}
        {next.rung === 'choose-part' || next.rung === 'part-again' ? (
          <Button tone="main" hint="d" onClick={() => void ask(chooseParts(cause.id, []))} {...DO_NEXT}>
            No part is needed
          </Button>
        ) : null}
      </div>
    );
  const wanted = picked ?? chosen;
  const selected = main?.candidates.find((candidate) => candidateKey(candidate) === wanted) ?? main?.candidates[0];
  const complete = offer?.quote.options[0]?.complete ?? true;
  const withIt = companionsOf(parts, selected);
  const picks = picksToDecide(parts, selected, part.kept);
  const bought = picks.filter(({ companion }) => companion).length;
  const take = async () => {
    if (await ask(chooseParts(cause.id, partsOf(picks, cause.id)))) setPicked(null);
  };
  const bearings = bearingsOf([main, ...companions]);
  const lead = main?.candidates[0];
  // The lists alone do not settle it: not listed, only for sisters, or open at a serial break.
  const asks =
    main !== null &&
    (!lead ||
      lead.reasons.some(({ kind }) => kind === 'fitted-to-sisters' || kind === 'serial-open') ||
      lead.sellingPrice === null);
  const nothing = main && main.candidates.length === 0;
  return (
    <div className="flex flex-col gap-3">
      <Question
        title={
          nothing
            ? 'No number is listed for this machine'
            : (main?.candidates.length ?? 0) > 1
              ? 'Which number? Compare old and new in the hand.'
              : 'This is the part'
        }
        why={`For ${cause.name.toLowerCase()}${causes.decided ? '' : ', the likeliest cause so far'}. Colour and the supplier’s label mean nothing; number, sizes and ratings do.`}
      />
      {shaken}
      {part.doubtMatters === false ? (
        <Mark tone="sound">
          The plate is still in doubt, but every model it may be takes this number: the doubt does not matter here.
        </Mark>
      ) : part.doubtMatters ? (
        <Mark tone="doubt">
          The plate is in doubt and its models take different numbers: read it again before ordering.
        </Mark>
      ) : null}
      {part.oldDiffers ? <OldDiffers ask={ask} /> : null}
      {main ? <OldPart key={main.roleId} {...props} answer={main} /> : null}
      <ul className="grid gap-2.5 xl:grid-cols-2">
        {main?.candidates.slice(0, SHOWN).map((candidate) => (
          <li key={candidate.position + candidateKey(candidate)}>
            <CandidateCard
              candidate={candidate}
              names={names}
              picked={candidate === selected}
              lead={main.candidates[0]}
              onPick={() => setPicked(candidateKey(candidate))}
            />
          </li>
        ))}
      </ul>
      {main?.problems.map((problem) => (
        <Mark key={JSON.stringify(problem)} tone="doubt">
          {crossProblemWords(problem, names.part)}
        </Mark>
      ))}
      {main && selected ? (
        <Caliper
          {...props}
          roleId={main.roleId}
          candidate={selected}
          key={`${main.roleId} ${candidateKey(selected)}`}
        />
      ) : null}
      {main ? <Donors {...props} answer={main} /> : null}
      {bearings.length > 0 ? <SeatCheck {...props} places={bearings} /> : null}
      {main && part.unsorted.length ? <Unsorted {...props} roleId={main.roleId} roleName={main.roleName} /> : null}
      {[main, ...companions].flatMap((answer) =>
        answer && (answer === main || answer.candidates.length === 0 || state.typed[answer.roleId])
          ? [
              <TypedPart
                key={answer.roleId}
                {...props}
                answer={answer}
                open={answer === main && answer.candidates.length === 0}
              />,
            ]
          : [],
      )}
      {asks ? <Enquiry {...props} /> : null}
      <Companions answers={withIt} kept={part.kept} kit={selected?.route === 'kit'} />
      {main ? <RoleNotes lore={props.lore} roleId={main.roleId} /> : null}
      <div className="flex flex-wrap gap-2.5">
        <Button tone="main" hint="d" onClick={() => void take()} {...DO_NEXT}>
          {nothing
            ? 'Go on without a number: its price is to be asked'
            : chosen && chosen === (selected ? candidateKey(selected) : '')
              ? 'Taken; take again at today’s price'
              : `Take ${listOf([selected ? 'this number' : '', bought ? `${bought} with it` : ''].filter(Boolean))}`}
        </Button>
      </div>
      {!complete ? (
        <p className="text-[15px] text-doubt">Some of these have no price: the offer says what is still to be asked.</p>
      ) : null}
    </div>
  );
}

/** The old part's number was read after the part was chosen, and does not lead to it. */
function OldDiffers({ ask }: Pick<PartProps, 'ask'>) {
  return (
    <div role="status" className="flex flex-col gap-2 border-l-4 border-doubt bg-well p-3">
      <p className="text-[15px]">
        <Mark tone="doubt">Look again.</Mark> Nothing leads from the number on the old part to the part that was chosen.
        Take another one below, or keep it once old and new are compared in the hand.
      </p>
      <Button className="self-start" onClick={() => void ask(keep('part'))} {...DO_NEXT}>
        It is the right part all the same: keep it
      </Button>
    </div>
  );
}

/** Numbers that a list names for this model and that nobody sorted: one of them may be this part. */
function Unsorted({ part, ask, roleId, roleName }: PartProps & { roleId: RoleId; roleName: string }) {
  const take = (partNumber: string) =>
    void ask(note({ type: 'part-typed', roleId, partNumber, piecePrice: null, days: null, supplierName: '' }));
  return (
    <div>
      <h3 className="font-semibold">Listed for this model, but nobody said as what</h3>
      <ul className="max-h-72 overflow-y-auto" tabIndex={0} aria-label="Numbers that are not sorted">
        {part.unsorted.map(({ partNumber, description }) => (
          <li key={partNumber} className="flex flex-wrap items-center justify-between gap-x-4 border-t border-line">
            <span>
              <NumberText text={partNumber} className="font-semibold" /> {description}
            </span>
            <Button tone="quiet" aria-label={`${partNumber} is the ${roleName}`} onClick={() => take(partNumber)}>
              This is the {roleName}
            </Button>
          </li>
        ))}
      </ul>
    </div>
  );
}

function Companions({
  answers,
  kept,
  kit,
}: {
  answers: readonly PricedAnswer[];
  kept: readonly RoleId[];
  kit: boolean;
}) {
  if (answers.length === 0)
    return kit ? <p className="text-[15px] text-soft">The kit brings everything that goes with it.</p> : null;
  const first = (answer: PricedAnswer): PricedCandidate | undefined => answer.candidates[0];
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-[15px]">
        <thead>
          <tr className="border-b border-line text-left text-sm text-soft">
            <th className="py-1 pr-3 font-normal">goes with it</th>
            <th className="py-1 pr-3 font-normal">sold today as</th>
            <th className="py-1 pr-3 text-right font-normal">pieces</th>
            <th className="py-1 text-right font-normal">price, net</th>
          </tr>
        </thead>
        <tbody>
          {answers.map((answer) => (
            <tr key={answer.roleId} className="border-b border-line">
              <td className="py-1.5 pr-3">{first(answer)?.part.description ?? answer.roleName}</td>
              <td className="py-1.5 pr-3">
                <NumberText
                  text={
                    first(answer)
                      ?.parts.map(({ part }) => part.partNumber)
                      .join(' + ') ?? 'not listed'
                  }
                />
              </td>
              <td className="py-1.5 pr-3 text-right">{first(answer)?.buy[0]?.quantity ?? 1}</td>
              <td className="py-1.5 text-right whitespace-nowrap">
                {kept.includes(answer.roleId)
                  ? 'kept here, charged by the piece'
                  : first(answer)?.sellingPrice
                    ? formatMoney(first(answer)?.sellingPrice ?? { amountMinor: 0, currency: 'XXX' })
                    : answer.usualPrice === null
                      ? 'ask'
                      : `usually about ${formatNumber(answer.usualPrice * answer.quantity, 2)}, to buy`}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function RoleNotes({ lore, roleId }: Pick<PartProps, 'lore'> & { roleId: RoleId }) {
  const role = lore.roles.find((entry) => entry.id === roleId);
  if (!role || (role.carryOver.length === 0 && role.prepare.length === 0)) return null;
  return (
    <p className="text-[15px]">
      {role.carryOver.length ? (
        <>
          <strong>Do not bin yet:</strong> {role.carryOver.join('; ')}.{' '}
        </>
      ) : null}
      {role.prepare.length ? (
        <>
          <strong>On the new one:</strong> {role.prepare.join('; ')}.
        </>
      ) : null}
    </p>
  );
}
