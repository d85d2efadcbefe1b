import type { Ref } from 'react';

type Props = {
  ref: Ref<HTMLInputElement>;
  label: string;
  accept: string;
  /** The camera, where there is one. */
  capture?: boolean;
  onFile: (file: File | undefined) => void;
};

/** The hidden input that a button opens. The same file can be chosen again. */
export function FileInput({ ref, label, accept, capture, onFile }: Props) {
  return (
    <input
      ref={ref}
      type="file"
      accept={accept}
      {...(capture ? { capture: 'environment' } : {})}
      tabIndex={-1}
      aria-label={label}
      className="sr-only"
      onChange={(event) => {
        onFile(event.target.files?.[0]);
        event.target.value = '';
      }}
    />
  );
}
