'use client';
import type { RoleId } from '@/core/units';
import type { PricedCandidate } from '@/core/case';
import type { RoleProperty } from '@/core/catalogue';
import { compareParts, type DimensionVerdict } from '@/core/fit';
import { Mark } from '@/ui';
import { dimensionWords, FIT_WORDS } from '@/words';
import { CommitField } from '../shared/CommitField';
import { note } from '@/core/ticket';
import type { PartProps } from './PartProps';
import { DIMENSION_TONES } from '../shared/dimensionTones';
import { PartDrawing } from './PartDrawing';

type Props = Pick<PartProps, 'state' | 'ask' | 'part'> & { roleId: RoleId; candidate: PricedCandidate };

const VERDICT_TONES = {
  'drops-in': 'sound',
  'fits-with-work': 'doubt',
  'does-not-fit': 'stop',
  'measure-first': 'soft',
} as const;

/** Old and new in the hand: what the caliper says about the old part, held against the number chosen, dimension by dimension. */
export function Caliper({ roleId, candidate, ...props }: Props) {
  const { part, state } = props;
  const role = part.roleProperties;
  if (role.length === 0 || candidate.buy.length > 1 || candidate.route === 'kit') return null;
  const listed = part.partProperties[candidate.listedPartId] ?? {};
  const measured = state.measured[roleId] ?? {};
  const is = part.partProperties[candidate.part.id] ?? {};
  const verdict = compareParts(role, { ...listed, ...measured }, is);
  return (
    <details className="border-t border-line" open={Object.keys(measured).length > 0 || candidate.comparison !== null}>
      <summary className="min-h-11 cursor-pointer content-center font-semibold">
        Compare with the old part: <Mark tone={VERDICT_TONES[verdict.verdict]}>{FIT_WORDS[verdict.verdict]}</Mark>
      </summary>
      <div className="grid gap-4 lg:grid-cols-[1fr_15rem]">
        <ul>
          {role.map((property, index) => (
            <Row
              key={property.property}
              {...props}
              property={property}
              listed={listed[property.property]}
              measured={measured[property.property]}
              verdict={verdict.dimensions[index]}
              roleId={roleId}
            />
          ))}
        </ul>
        <PartDrawing dimensions={verdict.dimensions} />
      </div>
    </details>
  );
}

type RowProps = Pick<PartProps, 'state' | 'ask'> & {
  roleId: RoleId;
  property: RoleProperty;
  listed: string | undefined;
  measured: string | undefined;
  verdict: DimensionVerdict | undefined;
};

function Row({ state, ask, roleId, property, listed, measured, verdict }: RowProps) {
  const measure = (value: string) =>
    ask(
      note({
        type: 'part-measured',
        roleId,
        property: property.property,
        label: property.label,
        value: value.replace(',', '.'),
      }),
    );
  return (
    <li className="grid grid-cols-[minmax(9rem,12rem)_1fr] items-end gap-x-4 border-b border-line py-1.5">
      <CommitField
        label={`${property.label}, old`}
        unit={property.unit}
        draftKey={`${state.ticketId} ${roleId} ${property.property}`}
        committed={measured ?? ''}
        commit={measure}
        inputMode={property.rule === 'same' ? 'text' : 'decimal'}
        autoComplete="off"
        placeholder={listed ?? ''}
      />
      <span className="pb-2 text-[15px]">
        new {verdict?.candidate ?? '?'} {property.unit}
        <br />
        {verdict ? <Mark tone={DIMENSION_TONES[verdict.verdict]}>{dimensionWords(verdict)}</Mark> : null}
      </span>
    </li>
  );
}
