'use client';
import type { Tool } from '@/core/catalogue';

type Props = { tools: readonly Tool[]; lacking: readonly string[]; onChange: (lacking: string[]) => void };

/** Tools that not every shop has: ticked when it is here. */
export function ToolList({ tools, lacking, onChange }: Props) {
  return (
    <fieldset>
      <legend className="font-semibold">Which of these are in your shop?</legend>
      <p className="text-[15px] text-soft">
        A way round a tool that is missing is taken where there is one; else it is said before the machine is opened.
      </p>
      <div className="mt-1 grid gap-x-6 sm:grid-cols-2 lg:grid-cols-3">
        {tools.map(({ id, name }) => (
          <label key={id} className="flex min-h-11 items-center gap-2.5">
            <input
              type="checkbox"
              className="size-6 accent-mark"
              checked={!lacking.includes(id)}
              onChange={(event) =>
                onChange(event.target.checked ? lacking.filter((tool) => tool !== id) : [...lacking, id])
              }
            />
            {name}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
