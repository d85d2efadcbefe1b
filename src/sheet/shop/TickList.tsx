'use client';

export const TOOLS_TEXT = {
  legend: 'Which of these are in your shop?',
  note: 'A way round a tool that is missing is taken where there is one; else it is said before the machine is opened.',
};

type Props = {
  legend: string;
  note: string;
  entries: readonly { id: string; name: string }[];
  lacking: readonly string[];
  onChange: (lacking: string[]) => void;
};

/** Things that not every shop has: ticked when it is here. */
export function TickList({ legend, note, entries, lacking, onChange }: Props) {
  return (
    <fieldset>
      <legend className="font-semibold">{legend}</legend>
      <p className="text-[15px] text-soft">{note}</p>
      <div className="mt-1 grid gap-x-6 sm:grid-cols-2 lg:grid-cols-3">
        {entries.map(({ id, name }) => (
          <label key={id} className="flex min-h-11 items-center gap-2.5">
            <input
              type="checkbox"
              className="size-6 accent-mark"
              checked={!lacking.includes(id)}
              onChange={(event) =>
                onChange(event.target.checked ? lacking.filter((one) => one !== id) : [...lacking, id])
              }
            />
            {name}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
