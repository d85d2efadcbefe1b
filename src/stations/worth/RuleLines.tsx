import type { Worth } from '@/core/worth';
import { Mark } from '@/ui';
import { formatNumber, formatPercent } from '@/words';

/** What the house rules say, beside what was computed. */
export function RuleLines({ worth }: { worth: Worth; currency: string }) {
  return (
    <ul className="mt-1 flex flex-col gap-0.5">
      {worth.rules.map((rule) => (
        <li key={rule.id}>
          {rule.id === 'share-of-new'
            ? `House rule “below ${formatPercent(rule.threshold)} of a new one”: it is ${formatNumber(rule.actual * 100)} %. `
            : `House rule “nothing over ${formatNumber(rule.threshold)} years”: it is ${formatNumber(rule.actual, 1)}. `}
          <Mark tone={rule.saysRepair === worth.repair ? 'sound' : 'doubt'}>
            {rule.saysRepair ? 'says repair' : 'says replace'}
            {rule.saysRepair === worth.repair ? '' : ': the rule disagrees'}
          </Mark>
        </li>
      ))}
    </ul>
  );
}
