import { useId, useRef, useState } from 'react';
import { cx } from './cx';

type Props = {
  label: string;
  value: string;
  onChange: (value: string) => void;
  /** Shown while nothing is chosen. */
  empty: string;
  options: readonly { value: string; text: string }[];
  className?: string;
};

/**
 * A list of which each choice does something, with nothing chosen afterwards. With the keys a closed list changes with every letter and arrow on the way to what is meant: what it comes to rest on
 * is done with Enter, or when the list is left; what is picked with the hand is done at once.
 */
export function ActingSelect({
  onChoose,
  ...rest
}: Omit<Props, 'value' | 'onChange'> & { onChoose: (value: string) => void }) {
  const [at, setAt] = useState('');
  const byKeys = useRef(false);
  const choose = (value: string) => {
    setAt('');
    if (value) onChoose(value);
  };
  return (
    <div
      onPointerDown={() => (byKeys.current = false)}
      onKeyDown={(event) => {
        byKeys.current = true;
        if (event.key !== 'Enter' || !at) return;
        event.preventDefault();
        choose(at);
      }}
      onBlur={() => choose(at)}
    >
      <Select {...rest} value={at} onChange={(value) => (byKeys.current ? setAt(value) : choose(value))} />
    </div>
  );
}

/** A labelled choice from a list, 44 px high. The device's own control: it works with gloves, keys and readers. */
export function Select({ label, value, onChange, empty, options, className }: Props) {
  const id = useId();
  return (
    <div className={cx('flex flex-col gap-1', className)}>
      <label htmlFor={id} className="text-sm text-soft">
        {label}
      </label>
      <select
        id={id}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        className="min-h-11 rounded-sm border-[1.5px] border-edge bg-sheet px-2 text-base text-ink"
      >
        <option value="">{empty}</option>
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.text}
          </option>
        ))}
      </select>
    </div>
  );
}
