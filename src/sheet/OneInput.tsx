'use client';
import { useRouter } from 'next/navigation';
import { Camera } from 'lucide-react';
import { useId, useRef, useState, type KeyboardEvent } from 'react';
import { cx, FileInput, Key, notice, NumberText } from '@/ui';
import { readingWords, troubleWords, type InputWords } from '@/words';
import { actionsFor, plainActions, type InputAction } from './inputActions';
import { useOpenTicket } from './openTicket';
import { useBadges } from './useBadges';
import { useInputReadings } from './useInputReadings';
import { usePictureText } from '@/stations/shared/usePictureText';

type Choice = InputWords & { action: InputAction };

/** Takes anything that can be typed or pasted, says what it takes it for, and what Enter will do. */
export function OneInput() {
  const router = useRouter();
  const open = useOpenTicket();
  const badges = useBadges();
  const [text, setText] = useState('');
  /** What the camera read; typed over, it is a person's text. */
  const [seen, setSeen] = useState<{ text: string; sure: number } | null>(null);
  const [place, setPlace] = useState(0);
  const [busy, setBusy] = useState(false);
  const listId = useId();
  const file = useRef<HTMLInputElement>(null);
  const picture = usePictureText((read, sure) => {
    setSeen({ text: read, sure });
    setText(read);
    setPlace(0);
    document.querySelector<HTMLInputElement>('#one-input')?.focus();
  });
  const sure = seen?.text === text ? seen.sure : undefined;
  const { readings, line, of, failed } = useInputReadings(text, sure);
  const role = (open?.assessment?.kind === 'weighed' && open.assessment.part.parts?.main) || null;
  const settled = text.trim() !== '' && of === text;
  const ticket = open?.state ?? null;
  const found: Choice[] = readings.flatMap((reading) =>
    actionsFor(reading, { text, line, sure, ticket, badges, role }).map((action) => ({
      ...readingWords(reading),
      action,
    })),
  );
  const plain = plainActions(text.trim(), line, ticket, role).filter(
    ({ action: { id } }) => !found.some((choice) => choice.action.id === id),
  );
  const choices: Choice[] = settled ? [...found, ...plain.map((choice) => ({ ...choice, detail: '' }))] : [];
  const lead = choices[Math.min(place, choices.length - 1)];

  const act = async (choice: Choice) => {
    setBusy(true);
    try {
      const path = await choice.action.run();
      await picture.keepWith(path);
      setText('');
      setPlace(0);
      if (path) router.push(path);
      else notice(`Noted: ${choice.action.noted ?? choice.what}`);
      document.querySelector<HTMLInputElement>('#one-input')?.blur();
    } catch (error) {
      notice(`${troubleWords(error)} The line is kept.`);
    } finally {
      setBusy(false);
    }
  };

  const keyed = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      setPlace((index) => Math.max(0, Math.min(choices.length - 1, index + (event.key === 'ArrowDown' ? 1 : -1))));
    } else if (event.key === 'Escape') {
      picture.forget();
      if (text) setText('');
      else event.currentTarget.blur();
    } else if (event.key === 'Enter' && lead && !busy) {
      event.preventDefault();
      void act(lead);
    }
  };

  return (
    <div
      className="relative order-3 w-full md:order-2 md:min-w-0 md:flex-1"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        void picture.read(event.dataTransfer.files[0]);
      }}
    >
      <div className="flex h-11 items-center gap-3 rounded-sm border-[1.5px] border-ink bg-sheet px-3 has-[#one-input:focus-visible]:outline-3 has-[#one-input:focus-visible]:outline-mark">
        <Key>/</Key>
        <input
          id="one-input"
          role="combobox"
          aria-label="Type, paste or scan anything"
          aria-expanded={choices.length > 0}
          aria-controls={listId}
          aria-activedescendant={lead ? `${listId}-${lead.action.id}` : undefined}
          autoComplete="off"
          spellCheck={false}
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setPlace(0);
          }}
          onKeyDown={keyed}
          onPaste={(event) => {
            if (event.clipboardData.files[0]) {
              event.preventDefault();
              void picture.read(event.clipboardData.files[0]);
              return;
            }
            // A plate's text has several lines; an input would glue them together.
            const pasted = event.clipboardData.getData('text');
            if (!pasted.includes('\n')) return;
            event.preventDefault();
            setText(pasted.replace(/\s*\n\s*/g, ' ; ').trim());
          }}
          placeholder="a plate, part, serial, code, bearing size, ticket …"
          className="h-full min-w-0 flex-1 bg-transparent font-mono text-[17px] focus-visible:outline-none! placeholder:font-sans placeholder:text-base placeholder:text-soft"
        />
        <span className="hidden max-w-[45%] truncate text-sm text-soft lg:inline" aria-live="polite">
          {picture.share !== null
            ? `reading the picture, ${Math.round(picture.share * 100)} %`
            : (picture.why ?? (failed ? `Not looked up: ${failed}` : null))}
        </span>
        <span className="sr-only" aria-live="polite">
          {lead ? `${lead.what} · Enter ${lead.action.does}` : ''}
        </span>
        <button
          type="button"
          aria-label="Photograph or choose a picture of a plate or a code"
          onClick={() => file.current?.click()}
          className="-mr-3 flex size-11 shrink-0 items-center justify-center"
        >
          <Camera aria-hidden size={20} />
        </button>
      </div>
      <FileInput
        ref={file}
        accept="image/*"
        label="Picture for the one input"
        onFile={(picked) => void picture.read(picked)}
      />
      <ul
        id={listId}
        role="listbox"
        aria-label="What this could be"
        className={cx(
          'absolute inset-x-0 top-full z-30 border-[1.5px] border-t-0 border-ink bg-sheet',
          choices.length === 0 && 'hidden',
        )}
      >
        {choices.map((choice, index) => (
          <li
            key={choice.action.id}
            id={`${listId}-${choice.action.id}`}
            role="option"
            aria-selected={index === Math.min(place, choices.length - 1)}
            onPointerDown={(event) => event.preventDefault()}
            onClick={() => void act(choice)}
            className={cx(
              'flex min-h-11 cursor-pointer flex-wrap items-center justify-between gap-x-4 px-3 py-1.5',
              index === place ? 'bg-mark-wash' : '',
            )}
          >
            <span>
              <strong className={cx('font-semibold', /\d/.test(choice.what) && 'font-mono')}>
                {choice.number ? (
                  <>
                    {choice.number.before}
                    <NumberText text={choice.number.text} marked={choice.number.marked} />
                  </>
                ) : (
                  choice.what
                )}
              </strong>{' '}
              <span className="text-soft">{choice.detail}</span>
            </span>
            <span className="text-sm text-soft">{choice.action.does}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}
