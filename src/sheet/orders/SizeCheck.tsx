'use client';
import type { PartId, TicketId } from '@/core/units';
import { useState } from 'react';
import { compareParts, type DimensionVerdict } from '@/core/fit';
import type { MeasuredSize } from '@/core/order';
import { DIMENSION_TONES } from '@/stations/shared/dimensionTones';
import { Field, Mark, notice } from '@/ui';
import { capital, listOf, sizeCheckWords, troubleWords } from '@/words';
import { ordersWorker, type PartSizes } from '@/workers';

/** misfit: what is out of tolerance, in words; null when nothing measured is. */
export type CheckedSizes = { measured: MeasuredSize[]; misfit: string | null };

/** The part in the hand against its number's listed sizes: a right label on a wrong part is found before it is fitted. */
export function SizeCheck({
  partId,
  number,
  ticketIds,
  onChange,
}: {
  partId: PartId;
  number: string;
  ticketIds: readonly TicketId[];
  onChange: (checked: CheckedSizes) => void;
}) {
  const [sizes, setSizes] = useState<PartSizes | null>(null);
  const [values, setValues] = useState<Record<string, string>>({});
  // Where the number has no size of its own, the old part's will do.
  const wanted: Record<string, string> = { ...sizes?.old, ...sizes?.listed };
  const known = (sizes?.properties ?? []).filter(({ property }) => wanted[property]);
  const compare = (entered: Record<string, string>) => compareParts(known, wanted, entered).dimensions;
  const enter = (property: string, text: string) => {
    const entered = { ...values, [property]: text.trim().replace(',', '.') };
    setValues(entered);
    const wrong = compare(entered).filter(({ verdict }) => verdict === 'does-not-fit' || verdict === 'fits-with-work');
    onChange({
      measured: known.flatMap(({ property: key, label, unit }) =>
        entered[key] ? [{ label, value: entered[key], unit }] : [],
      ),
      misfit: wrong.length
        ? capital(listOf(wrong.map((dimension) => `${dimension.label.toLowerCase()} ${sizeCheckWords(dimension)}`)))
        : null,
    });
  };
  const verdicts = new Map(compare(values).map((dimension) => [dimension.property, dimension]));
  return (
    <details
      className="w-full"
      onToggle={(event) => {
        if (!event.currentTarget.open || sizes) return;
        void ordersWorker
          .get()
          .sizes(partId, ticketIds)
          .then(setSizes)
          .catch((error: unknown) => notice(`The sizes could not be looked up: ${troubleWords(error)}.`));
      }}
    >
      <summary className="min-h-11 w-fit cursor-pointer content-center">Check its sizes, too</summary>
      {sizes && known.length === 0 ? (
        <p className="text-soft">
          No size is listed for {number} and the old part was not measured: lay them side by side.
        </p>
      ) : null}
      <ul className="flex flex-wrap gap-x-6 gap-y-2 pb-2">
        {known.map(({ property, label, unit, rule }) => (
          <li key={property} className="w-56">
            <Field
              label={`${label}, in the hand`}
              unit={unit}
              autoComplete="off"
              inputMode={rule === 'same' ? 'text' : 'decimal'}
              onChange={(event) => enter(property, event.target.value)}
              note={
                <SizeNote
                  wanted={`${sizes?.listed[property] === undefined ? 'old part' : 'listed'} ${wanted[property] ?? ''} ${unit}`}
                  verdict={verdicts.get(property)}
                />
              }
            />
          </li>
        ))}
      </ul>
    </details>
  );
}

function SizeNote({ wanted, verdict }: { wanted: string; verdict: DimensionVerdict | undefined }) {
  return (
    <>
      {wanted}
      {verdict?.candidate ? (
        <span className="block">
          <Mark tone={DIMENSION_TONES[verdict.verdict]}>{sizeCheckWords(verdict)}</Mark>
        </span>
      ) : null}
    </>
  );
}
