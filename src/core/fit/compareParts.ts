import type { RoleProperty } from '../catalogue';

export type PartProperties = Readonly<Record<string, string | number | undefined>>;

export type DimensionVerdict = {
  property: string;
  label: string;
  kind: 'dimension' | 'rating';
  unit: string;
  old: string | null;
  candidate: string | null;
  verdict: 'fits' | 'fits-with-work' | 'does-not-fit' | 'unknown';
  reason:
    | 'within-tolerance'
    | 'same'
    | 'workaround'
    | 'out-of-tolerance'
    | 'rating-breached'
    | 'different'
    | 'old-not-measured'
    | 'candidate-not-listed';
  work: { what: string; minutes: number; leaves: string | null } | null;
};

export type FitVerdict = {
  verdict: 'drops-in' | 'fits-with-work' | 'does-not-fit' | 'measure-first';
  dimensions: DimensionVerdict[];
  workMinutes: number;
};

const text = (value: string | number | undefined): string | null =>
  value === undefined || value === '' ? null : String(value);

function judge(
  property: RoleProperty,
  old: string | null,
  candidate: string | null,
): Pick<DimensionVerdict, 'verdict' | 'reason' | 'work'> {
  if (candidate === null) return { verdict: 'unknown', reason: 'candidate-not-listed', work: null };
  if (old === null) return { verdict: 'unknown', reason: 'old-not-measured', work: null };
  if (property.rule === 'same') {
    const same = old.toLowerCase() === candidate.toLowerCase();
    if (same) return { verdict: 'fits', reason: 'same', work: null };
    return (
      workaround(property, true) ?? {
        verdict: 'does-not-fit',
        reason: property.kind === 'rating' ? 'rating-breached' : 'different',
        work: null,
      }
    );
  }
  const difference = Number(candidate) - Number(old);
  if (!Number.isFinite(difference)) return { verdict: 'unknown', reason: 'candidate-not-listed', work: null };
  const low =
    property.rule === 'at-least' ? -property.below : property.rule === 'at-most' ? -Infinity : -property.below;
  const high = property.rule === 'at-least' ? Infinity : property.above;
  if (difference >= low - 1e-9 && difference <= high + 1e-9)
    return { verdict: 'fits', reason: 'within-tolerance', work: null };
  const reachable = difference >= -property.workBelow - 1e-9 && difference <= property.workAbove + 1e-9;
  return (
    workaround(property, reachable) ?? {
      verdict: 'does-not-fit',
      reason: property.kind === 'rating' ? 'rating-breached' : 'out-of-tolerance',
      work: null,
    }
  );
}

/** A rating is never worked around. */
function workaround(
  property: RoleProperty,
  reachable: boolean,
): Pick<DimensionVerdict, 'verdict' | 'reason' | 'work'> | null {
  if (property.kind === 'rating' || !property.workaround || !reachable) return null;
  return {
    verdict: 'fits-with-work',
    reason: 'workaround',
    work: { what: property.workaround, minutes: property.workMinutes, leaves: property.leaves ?? null },
  };
}

/**
 * Will this part do in place of the old one? Judged property by property that matters for the role: dimensions within tolerance, ratings that must hold,
 * known workarounds. One breach decides; one unknown asks to measure first. O(properties).
 */
export function compareParts(
  role: readonly RoleProperty[],
  old: PartProperties,
  candidate: PartProperties,
): FitVerdict {
  const dimensions = role.map((property): DimensionVerdict => {
    const was = text(old[property.property]);
    const is = text(candidate[property.property]);
    return {
      property: property.property,
      label: property.label,
      kind: property.kind,
      unit: property.unit,
      old: was,
      candidate: is,
      ...judge(property, was, is),
    };
  });
  const some = (verdict: DimensionVerdict['verdict']) => dimensions.some((dimension) => dimension.verdict === verdict);
  const verdict = some('does-not-fit')
    ? 'does-not-fit'
    : dimensions.length === 0 || some('unknown')
      ? 'measure-first'
      : some('fits-with-work')
        ? 'fits-with-work'
        : 'drops-in';
  return {
    verdict,
    dimensions,
    workMinutes: dimensions.reduce((sum, dimension) => sum + (dimension.work?.minutes ?? 0), 0),
  };
}
