'use client';
import { useState } from 'react';
import { CommitField } from '../shared/CommitField';
import { plateEvent } from '../shared/plateEvent';
import { WhoPays } from '../shared/WhoPays';
import { Question } from '../shared/Station';
import type { Weighed } from '@/core/case';
import { isSettled, note, noteCustomer, TEXT_LIMITS, type Fact } from '@/core/ticket';
import { isDay, type ModelId } from '@/core/units';
import { DO_NEXT, type StationProps } from '../shared/StationProps';
import { Button, Mark, NumberText, Why } from '@/ui';
import {
  isNoPlate,
  mayBeUnlisted,
  nameLine,
  NO_PLATE,
  toCompare,
  unlistedModel,
  type PlateCandidate,
  type ToCompare,
} from '@/core/identify';
import { ageWords, candidateWords, compareWords, formatPercent, listOf, serialProblemWords } from '@/words';
import { KindOfMachine } from './KindOfMachine';
import { Relatives } from './Relatives';
import { PlatePicture } from './PlatePicture';
import { useKnownCustomers } from './useKnownCustomers';
import { useKeptReading, usePlateReading, useSerialIn, type ReadPlate } from './usePlateReading';

/** Known once the machine is. */
type Known = { [name in 'machine' | 'age' | 'payers' | 'lore' | 'next']?: Weighed[name] | undefined };
export type PlateProps = StationProps & Known & { badges: ReadonlyMap<string, string> };

export function PlateLine({ state, machine, age }: Pick<PlateProps, 'state' | 'machine' | 'age'>) {
  if (!state.plate)
    return (
      <span className="text-soft">
        {state.plateNotListed === null ? (
          'not read yet'
        ) : (
          <>
            <NumberText text={state.plateNotListed} className="mr-2 text-[17px] font-semibold text-ink" />
            <Mark tone="doubt">in no catalogue</Mark> {age ? `· ${ageWords(age)}` : ''}
            {machine?.designs[0] ? ` · ${machine.designs[0].design.name}` : ''}
          </>
        )}
      </span>
    );
  return (
    <>
      <NumberText text={state.plate.modelNumber} className="mr-2 text-[17px] font-semibold" />
      {state.plate.confirmed ? (
        <Mark tone="sound">confirmed</Mark>
      ) : (
        <Mark tone={state.plate.probability >= 0.95 ? 'sound' : 'doubt'}>
          {formatPercent(state.plate.probability)} sure
        </Mark>
      )}{' '}
      · <strong>{age ? ageWords(age) : 'age not known'}</strong>
      {machine ? ` · ${machine.platform.description}` : ''}
    </>
  );
}

const serialNoted = (serial: string): Fact => ({ type: 'serial-noted', serial });

export function PlateStation({ state, settings, machine, age, payers, lore, next, ask, badges, at }: PlateProps) {
  const [typed, setTyped] = useState('');
  /** What the camera read, as it stands after correction. Typing comes before it. */
  const [{ seen, sure }, setSeen] = useState<{ seen: string; sure?: number }>({ seen: '' });
  // What was read once is shown as it was noted; only another text is read anew.
  const readAnew = usePlateReading(
    typed || seen || (state.plate ? '' : (state.plateNotListed ?? '')),
    typed ? undefined : sure,
  );
  const kept = useKeptReading(state.plate);
  const read = typed || seen ? readAnew : (kept ?? readAnew);
  const text = typed || seen || (state.plate?.text ?? state.plateNotListed ?? '');
  /** A number that the page may go on with as not listed: what stands there now, or what is noted and still in doubt. */
  const inDoubt = typed || nameLine(seen || (kept ? text : ''));
  const makers = new Map(read?.models.map(({ id, makerId }) => [id, makerId]));
  const [first] = read?.models ?? [];
  const serial = useSerialIn(seen, state.plate?.modelId ?? first?.id ?? null, at.today);
  const serialMaker = state.plate?.makerId ?? first?.makerId;
  const take = async (modelId: ModelId) => {
    const event = read
      ? plateEvent(
          text,
          read.reading,
          read.models,
          modelId,
          true,
          badges.get(read.models.find((model) => model.id === modelId)?.badgeId ?? '') ?? '',
        )
      : null;
    // What was read beside it and is written as this maker writes serials is noted with it.
    const fits = serial?.fits && serial.serial !== state.serial && makers.get(modelId) === serialMaker;
    const own = fits ? [serialNoted(serial.serial)] : [];
    if (event && !(await ask(note(event, ...own)))) return;
    setTyped('');
  };
  const field = (key: string) => `${state.ticketId} ${key}`;
  const asksAge = next?.doNext.kind === 'ask-age';
  const serialFirst =
    state.plate !== null && state.serial === null && !state.serialUnreadable && isSettled(state.plate);
  return (
    <div className="flex flex-col gap-3">
      {state.plate ? (
        <p>
          <NumberText text={state.plate.modelNumber} className="mr-3 text-2xl font-semibold" />
          {state.plate.badge} ·{' '}
          {state.plate.confirmed ? (
            <Mark tone="sound">confirmed on the plate</Mark>
          ) : (
            <Mark tone="doubt">{formatPercent(state.plate.probability)} sure: compare with the plate</Mark>
          )}
        </p>
      ) : (
        <Question
          title={
            state.plateNotListed
              ? isNoPlate(state.plateNotListed)
                ? 'Without a plate the work goes on by how it is built.'
                : `No catalogue lists ${state.plateNotListed}. The work goes on by how it is built.`
              : 'Which machine is it?'
          }
          why={
            state.plateNotListed
              ? 'Was it misread? Read it again below. A part is compared in the hand; its number comes from the old part or from a supplier.'
              : 'The full number with everything after the slash; a ? for a character that cannot be read.'
          }
        />
      )}
      {state.plate ? null : <Relatives state={state} ask={ask} />}
      {machine && machine.designs.length > 0 ? (
        <KindOfMachine ask={ask} state={state} machine={machine} isNext={!asksAge} />
      ) : null}
      <CommitField
        label={state.plate || state.plateNotListed ? 'Read again' : 'Model number on the plate'}
        draftKey={field('plate')}
        mono
        autoComplete="off"
        spellCheck={false}
        committed=""
        commitOnRest={false}
        onTyped={setTyped}
        commit={async () => undefined}
        {...(state.plate || state.plateNotListed ? {} : DO_NEXT)}
      />
      {read && others(read, state).length > 0 ? (
        <Candidates read={read} candidates={others(read, state)} onTake={take} />
      ) : null}
      {serial && serial.serial !== state.serial ? (
        <p className="flex flex-wrap items-center gap-x-3">
          <span>
            Serial number on the plate: <NumberText text={serial.serial} className="font-semibold" />{' '}
            {serial.fits ? '' : <Mark tone="doubt">not by the maker’s scheme: compare it</Mark>}
          </span>
          {state.plate || !serial.fits ? (
            <Button onClick={() => void ask(note(serialNoted(serial.serial)))}>Note it</Button>
          ) : (
            <span className="text-sm text-soft">noted with the number that you take</span>
          )}
        </p>
      ) : null}
      <PlatePicture
        ticketId={state.ticketId}
        moment={at}
        onText={(read, sureOfIt) => setSeen({ seen: read, sure: sureOfIt })}
      />
      {read && isUnread(read) ? (
        <Mark tone="doubt">
          {others(read, state).length > 0
            ? 'It can hardly be read: the number in it may be another one.'
            : 'No model number could be read in it.'}{' '}
          Photograph the plate again from closer by, or type what you see.
        </Mark>
      ) : null}
      {state.plate || state.plateNotListed || ((typed || seen) && !(read && isUnread(read))) ? null : (
        <Button
          tone="quiet"
          className="self-start"
          onClick={() => void ask(note({ type: 'plate-not-listed', text: NO_PLATE }))}
        >
          No plate, or not readable: go on by how it is built
        </Button>
      )}
      {read && inDoubt && (isUnread(read) ? typed : mayBeUnlisted(read.reading)) ? (
        <Button className="self-start" onClick={() => void ask(note({ type: 'plate-not-listed', text: inDoubt }))}>
          Go on: it is not in the catalogue
        </Button>
      ) : null}
      <div className="grid gap-3 sm:grid-cols-2">
        <CommitField
          label="Serial number"
          draftKey={field('serial')}
          mono
          autoComplete="off"
          spellCheck={false}
          committed={state.serial ?? ''}
          maxLength={TEXT_LIMITS.serial}
          {...(serialFirst ? DO_NEXT : {})}
          commit={(serial) => ask(note({ type: 'serial-noted', serial }))}
          note={<SerialNote age={age} hasPlate={state.plate !== null} hasSerial={state.serial !== null} />}
        />
        {state.plate && state.serial === null ? (
          state.serialUnreadable ? (
            <p className="self-center text-sm text-soft">
              No serial number that can be read: it is not asked for again.
            </p>
          ) : (
            <Button tone="quiet" className="self-center" onClick={() => void ask(note({ type: 'serial-unreadable' }))}>
              No serial number that can be read
            </Button>
          )
        ) : null}
        <CommitField
          label="Bought on (receipt)"
          type="date"
          draftKey={field('bought')}
          committed={state.boughtOn ?? ''}
          commit={(date) => (isDay(date) ? ask(note({ type: 'bought-on', date })) : Promise.resolve())}
          note="Settles the age better than the serial."
        />
        {state.boughtOn === null ? (
          <CommitField
            label="About how old, the owner says"
            unit="years"
            inputMode="decimal"
            autoComplete="off"
            draftKey={field('age')}
            committed={state.guessedYears === null ? '' : String(state.guessedYears)}
            commit={async (text) => {
              const years = Number(text.replace(',', '.'));
              if (text === '' || !(years >= 0 && years <= 60)) return false;
              return ask(note({ type: 'age-guessed', years }));
            }}
            note="0 to 60. Counted as unsure by a quarter."
            {...(asksAge && !serialFirst ? DO_NEXT : {})}
          />
        ) : null}
        {state.boughtOn === null && state.guessedYears === null ? (
          state.ageNotKnown ? (
            <p className="self-center text-sm text-soft">Nobody can say how old it is: it is not asked again.</p>
          ) : (
            <Button tone="quiet" className="self-center" onClick={() => void ask(note({ type: 'age-not-known' }))}>
              Nobody can say how old it is
            </Button>
          )
        ) : null}
      </div>
      {payers && lore ? <WhoPays {...{ state, settings, payers, lore, at }} /> : null}
      <CustomerFields state={state} ask={ask} field={field} />
    </div>
  );
}

function SerialNote({ age, hasPlate, hasSerial }: Pick<Known, 'age'> & { hasPlate: boolean; hasSerial: boolean }) {
  const serial = age?.serial;
  if (!hasPlate) return <>Gives the build date, once the model is known.</>;
  if (!hasSerial || !serial) return <>Gives the build date by the maker’s scheme.</>;
  if (serial.problems[0]) return <Mark tone="doubt">{serialProblemWords(serial.problems[0])}</Mark>;
  return (
    <>
      Built {serial.candidates.map((window) => `${window.builtFrom} to ${window.builtTo}`).join(', or ')}
      {serial.candidates.length > 1 ? ': the year letter repeats, the model’s years leave both open' : ''}
    </>
  );
}

/** The text holds no number that tells anything: what is likely is what was likely before. */
const isUnread = ({ reading }: ReadPlate): boolean => reading.unlisted > 0.5;

/** Below this a number is not worth a look. */
const WORTH_SHOWING = 0.002;

/** Without the number that is not listed and that this ticket itself taught. */
const others = ({ reading }: ReadPlate, { plateNotListed }: PlateProps['state']): PlateCandidate[] => {
  const own = plateNotListed === null ? null : unlistedModel(plateNotListed);
  return reading.candidates.filter(({ modelId }) => modelId !== own);
};

type CandidatesProps = {
  read: ReadPlate;
  candidates: readonly PlateCandidate[];
  onTake: (modelId: ModelId) => Promise<void>;
};

function Candidates({ read, candidates, onTake }: CandidatesProps) {
  const { unknown, taken } = read.reading;
  const compare = toCompare(taken, candidates);
  const lookAt = compare?.kind === 'character' ? [compare.position] : [];
  return (
    <div className="flex flex-col gap-2">
      {compare && (candidates[0]?.probability ?? 0) < 0.98 ? <WhereToLook compare={compare} /> : null}
      <ul className="grid gap-2 sm:grid-cols-2">
        {candidates
          .filter((candidate) => candidate.probability >= WORTH_SHOWING)
          .slice(0, 6)
          .map((candidate, index) => (
            <li key={candidate.modelId}>
              <button
                type="button"
                onClick={() => void onTake(candidate.modelId)}
                className="flex min-h-11 w-full flex-wrap items-baseline justify-between gap-x-3 rounded-sm border-[1.5px] border-edge bg-sheet px-3 py-2 text-left"
                {...(index === 0 ? DO_NEXT : {})}
              >
                <NumberText
                  text={candidate.modelNumber}
                  marked={[
                    ...candidate.differences
                      .filter((difference) => difference.listed !== '')
                      .map((difference) => difference.index),
                    ...(index === 0 ? lookAt : []),
                  ]}
                  className="text-lg font-semibold"
                />
                <span className="font-semibold">{formatPercent(candidate.probability)}</span>
                <span className="w-full text-sm text-soft">{candidateWords(candidate)} · take this one</span>
              </button>
            </li>
          ))}
      </ul>
      <p className="text-sm text-soft">
        <Why
          label="Not in the catalogue"
          because="How likely such a text is as a number that is not listed, against the listed ones misread. All candidates and this sum to 100 %."
        >
          Not in the catalogue: {formatPercent(unknown)}
        </Why>
      </p>
    </div>
  );
}

function WhereToLook({ compare }: { compare: ToCompare }) {
  return (
    <p className="text-[15px]">
      <Mark tone="doubt">Look again: {compareWords(compare)}</Mark>{' '}
      {compare.kind === 'character' ? (
        <span className="text-soft">
          <Why
            label="What another look settles"
            because={`Of all characters this one tells most about which of these numbers it is: ${compare.bits.toFixed(1)} bits.`}
          >
            It settles {compare.settles > 0.995 ? 'all' : formatPercent(compare.settles)} of the doubt between them.
          </Why>
        </span>
      ) : (
        <span className="text-soft">
          <Why
            label="Why an ending is asked for"
            because="Several listed numbers go on differently after what was read. Marks of country, colour or revision are often left off; the shares are those of the listed numbers."
          >
            {listOf(
              compare.endings
                .slice(0, 4)
                .map(({ ending, probability }) => `${ending || 'nothing'} ${formatPercent(probability)}`),
            )}
          </Why>
        </span>
      )}
    </p>
  );
}

function CustomerFields({
  state,
  ask,
  field,
}: Pick<StationProps, 'state' | 'ask'> & { field: (key: string) => string }) {
  const { customer } = state;
  const [typed, setTyped] = useState('');
  const known = useKnownCustomers(typed);
  /** Who is known by that name comes with telephone and place, where these are not noted yet. */
  const named = (name: string) => {
    const [one, another] = known.filter((customer) => customer.name.toLowerCase() === name.toLowerCase());
    return ask(one && !another ? noteCustomer({ name: one.name }, one) : noteCustomer({ name }));
  };
  return (
    <div className="grid gap-3 sm:grid-cols-3">
      <CommitField
        label="Customer"
        draftKey={field('name')}
        autoComplete="off"
        list={`${state.ticketId} customers`}
        committed={customer?.name ?? ''}
        maxLength={TEXT_LIMITS.name}
        onTyped={setTyped}
        commit={named}
      />
      <datalist id={`${state.ticketId} customers`}>
        {known.map(({ id, name, place }) => (
          <option key={id} value={name}>
            {place}
          </option>
        ))}
      </datalist>
      <CommitField
        label="Telephone"
        type="tel"
        draftKey={field('phone')}
        autoComplete="off"
        committed={customer?.phone ?? ''}
        maxLength={TEXT_LIMITS.phone}
        commit={(phone) => ask(noteCustomer({ phone }))}
      />
      <CommitField
        label="Where it stands"
        draftKey={field('place')}
        autoComplete="off"
        committed={customer?.place ?? ''}
        maxLength={TEXT_LIMITS.name}
        commit={(place) => ask(noteCustomer({ place }))}
      />
    </div>
  );
}
