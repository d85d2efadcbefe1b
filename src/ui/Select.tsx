import { useId } from 'react';
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
