'use client';
import type { RoleId } from '@/core/units';
import { useState } from 'react';
import type { PricedAnswer } from '@/core/case';
import { bearingByDesignation, judgeSeats, type Bearing, type SeatVerdict, type Tool } from '@/core/measure';
import { Button, Field, Mark, NumberText, Select } from '@/ui';
import { seatWords, suffixWords } from '@/words';
import { note } from '@/core/ticket';
import type { PartProps } from './PartProps';

type Place = { roleId: RoleId; number: string; bearing: Bearing };

/** The bearings that a job would take: parts whose number is a standard designation. */
export function bearingsOf(answers: readonly (PricedAnswer | null)[]): Place[] {
  return answers.flatMap((answer) => {
    for (const candidate of answer?.candidates ?? [])
      for (const { part } of candidate.parts) {
        const bearing = bearingByDesignation(part.partNumber);
        if (answer && bearing) return [{ roleId: answer.roleId, number: part.partNumber, bearing }];
      }
    return [];
  });
}

const toNumber = (text: string): number | undefined => {
  const number = Number(text.replace(',', '.'));
  return text.trim() !== '' && Number.isFinite(number) && number >= 0 && number < 500 ? number : undefined;
};

/** Before bearings are ordered: what they run on and in. Worn seats mean another part. */
export function SeatCheck({ places, lore, ask }: Pick<PartProps, 'lore' | 'ask'> & { places: readonly Place[] }) {
  const [tool, setTool] = useState<Tool>('caliper');
  const [sizes, setSizes] = useState<Record<string, string>>({});
  const size = (key: string) => toNumber(sizes[key] ?? '');
  const field = (key: string, label: string) => (
    <Field
      label={label}
      unit="mm"
      inputMode="decimal"
      value={sizes[key] ?? ''}
      onChange={(event) => setSizes({ ...sizes, [key]: event.target.value })}
    />
  );
  const nameOf = (roleId: RoleId) => lore.roles.find(({ id }) => id === roleId)?.name ?? roleId;
  const judged = places.map(({ roleId, bearing }, index): { roleId: RoleId; verdicts: SeatVerdict[] } => ({
    roleId,
    verdicts: judgeSeats(
      bearing,
      {
        journalMm: size(`${roleId} journal`),
        housingMm: size(`${roleId} housing`),
        // There is one seal: its track is judged once.
        lipTrackMm: index === 0 ? size('track') : undefined,
      },
      tool,
    ),
  }));
  const lines = judged.flatMap(({ roleId, verdicts }) =>
    verdicts.map((verdict) => ({
      verdict,
      roleName: nameOf(roleId),
      text: `${nameOf(roleId)}: ${seatWords(verdict)}`,
    })),
  );
  return (
    <section aria-label="Seats of the bearings" className="flex flex-col gap-2.5 border-t border-line pt-2.5">
      <h3 className="font-semibold">Seats first: worn ones mean a spider or a tub, not a bearing</h3>
      <Select
        label="Measured with"
        value={tool}
        empty="choose"
        className="max-w-60"
        options={[
          { value: 'caliper', text: 'caliper, ± 0.03 mm' },
          { value: 'micrometer', text: 'micrometer, ± 0.005 mm' },
        ]}
        onChange={(value) => setTool(value === 'micrometer' ? 'micrometer' : 'caliper')}
      />
      {places.map(({ roleId, number, bearing }) => (
        <div key={roleId} className="grid items-end gap-2.5 sm:grid-cols-3">
          <p className="text-[15px]">
            <strong>{nameOf(roleId)}</strong>: <NumberText text={number} />
            <br />
            {bearing.bore} × {bearing.outside} × {bearing.width} mm
            <span className="block text-sm text-soft">{suffixWords(number)}</span>
          </p>
          {field(`${roleId} journal`, `Shaft journal (${nameOf(roleId)})`)}
          {field(`${roleId} housing`, `Bore of its seat (${nameOf(roleId)})`)}
        </div>
      ))}
      <div className="max-w-60">{field('track', 'Depth of the seal lip’s track')}</div>
      <div aria-live="polite" className="flex flex-col gap-1 text-[15px]">
        {lines.map(({ verdict, text }) => (
          <Mark key={text} tone={verdict.verdict === 'worn' ? 'stop' : verdict.verdict === 'sound' ? 'sound' : 'doubt'}>
            {text}
          </Mark>
        ))}
      </div>
      {lines.length > 0 ? (
        <Button
          className="self-start"
          onClick={() =>
            void ask(
              note({
                type: 'seats-judged',
                seats: lines.map(({ verdict: { seat, verdict, limitMm, instead }, roleName }) => ({
                  roleName,
                  seat,
                  verdict,
                  limitMm,
                  instead,
                })),
              }),
            )
          }
        >
          Note it on the ticket
        </Button>
      ) : null}
    </section>
  );
}
