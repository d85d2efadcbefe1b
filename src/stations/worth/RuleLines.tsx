import type { Settings, Weighed } from '@/core/case';
import type { Worth } from '@/core/worth';
import { Folded, Mark, Why } from '@/ui';
import { formatPercent, formatYears, ruleWords } from '@/words';

type Props = { tips: NonNullable<Weighed['tips']>; worth: Worth; settings: Settings; ageYears: number };

/** What the house rules say, beside what was computed, and what going by each of them costs. */
export function RuleLines({ tips: { rules }, worth, settings, ageYears }: Props) {
  const against = rules.filter(({ saysRepair }) => saysRepair !== worth.repair).length;
  if (rules.length === 0) return null;
  return (
    <Folded
      title="What the house rules say"
      aside={against === 0 ? 'all agree' : `${against} of ${rules.length} disagree`}
    >
      <ul className="flex flex-col">
        {rules.map((rule) => (
          <li key={rule.id} className="flex flex-wrap justify-between gap-x-3 border-b border-line py-1.5 text-[15px]">
            <span className="min-w-0 flex-1 basis-80">
              {ruleWords(rule, settings.rules, settings.currency)}
              {rule.id === 'age-limit' ? `: it is ${formatYears(ageYears)}` : ''}.{' '}
              <span className="text-soft">
                <Why
                  label="What the rule costs"
                  because="What owning machines like a new one costs per year for ever when every repair is judged by this rule, against the best policy. Exact, by the same lives and prices."
                >
                  {rule.loss < 0.0005 ? 'Costs nothing' : `Costs ${formatPercent(rule.loss)} more a year`}
                </Why>{' '}
                over many machines.
              </span>
            </span>
            <Mark tone={rule.saysRepair === worth.repair ? 'sound' : 'doubt'}>
              {rule.saysRepair ? 'says repair' : 'says replace'}
              {rule.saysRepair === worth.repair ? '' : ': it disagrees'}
            </Mark>
          </li>
        ))}
      </ul>
    </Folded>
  );
}
