'use client';

type PictureInputProps = {
  ref: React.Ref<HTMLInputElement>;
  label: string;
  capture?: boolean;
  onPicture: (picture: File | undefined) => void;
};

/** The hidden file input that a button opens; `capture`: the camera, where there is one. */
export function PictureInput({ ref, label, capture, onPicture }: PictureInputProps) {
  return (
    <input
      ref={ref}
      type="file"
      accept="image/*"
      {...(capture ? { capture: 'environment' } : {})}
      tabIndex={-1}
      aria-label={label}
      className="sr-only"
      onChange={(event) => {
        onPicture(event.target.files?.[0]);
        event.target.value = '';
      }}
    />
  );
}
