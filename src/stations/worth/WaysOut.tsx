import { Why } from '@/ui';
import { cheaperStillWords, formatRate, outOfHundred, plural } from '@/words';
import type { WorthProps } from './WorthProps';

type Path = WorthProps['paths'][number];

/** Repair here, and every other way out that is known: what is paid now, when it washes again, what it comes to. */
export function WaysOut({ paths, worth, settings }: Pick<WorthProps, 'paths' | 'worth' | 'settings'>) {
  const { currency } = settings;
  if (paths.length < 2) return null;
  const best = Math.max(...paths.map(({ advantage }) => advantage));
  const still = worth ? cheaperStillWords(paths, worth.probabilityRepair) : null;
  return (
    <div className="overflow-x-auto">
      <table className="w-full min-w-[34rem] text-[15px]">
        <caption className="py-1 text-left text-sm text-soft">
          Ways out, side by side: the same lives, other prices
        </caption>
        <thead>
          <tr className="border-b border-line text-left text-sm text-soft">
            <th className="py-1 pr-3 font-normal">what</th>
            <th className="py-1 pr-3 text-right font-normal">costs</th>
            <th className="py-1 pr-3 text-right font-normal">washes in</th>
            <th className="py-1 pr-3 text-right font-normal">against a new one</th>
            <th className="py-1 text-right font-normal">cheapest in</th>
          </tr>
        </thead>
        <tbody>
          {paths.map((path) => (
            <tr key={path.id} className="border-b border-line">
              <td className="py-1.5 pr-3">
                <Why label={nameOf(path)} because={becauseOf(path, currency)}>
                  {path.advantage === best ? <strong>{nameOf(path)}</strong> : nameOf(path)}
                </Why>
              </td>
              <td className="py-1.5 pr-3 text-right whitespace-nowrap">{payWords(path, currency)}</td>
              <td className="py-1.5 pr-3 text-right whitespace-nowrap">{plural(Math.round(path.days), 'day')}</td>
              <td className="py-1.5 pr-3 text-right whitespace-nowrap">
                {path.owns === 'new'
                  ? '–'
                  : `${formatRate(Math.abs(path.advantage), currency)} ${path.advantage >= 0 ? 'cheaper' : 'dearer'}`}
              </td>
              <td className="py-1.5 text-right whitespace-nowrap">{outOfHundred(path.cheapest)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {still ? <p className="py-1.5 text-[15px]">{still}</p> : null}
    </div>
  );
}

const nameOf = ({ route }: Path): string => route?.name ?? 'Repair here';

function payWords({ pay, from, to }: Path, currency: string): string {
  return to - from > 1 ? `${formatRate(from, currency)} to ${formatRate(to, currency)}` : formatRate(pay, currency);
}

const WHAT_IT_IS: Record<NonNullable<Path['route']>['kind'], string> = {
  'maker-service': 'Its fee, its labour for the same minutes and its price of the parts, with tax.',
  'part-sold': 'The parts alone; where it does not go well at home, it is mended here after all.',
  'used-machine':
    'Its price, delivery and taking the old one away. What it hides is drawn: as worn as a machine of some years, more or less.',
  'new-machine': 'Its price, delivery and taking the old one away, and owning it on by the best policy.',
};

function becauseOf({ route, warrantyMonths, perYear }: Path, currency: string): string {
  const what = route
    ? WHAT_IT_IS[route.kind]
    : 'This shop’s offer; while the cause is open, each by its chance, 10 to 90 %.';
  const sure = route?.cure !== undefined && route.cure < 1 ? ` It works out in ${outOfHundred(route.cure)}.` : '';
  return `${what}${sure} Comes to ${formatRate(perYear, currency)} a year. Warranty: ${warrantyMonths ? plural(warrantyMonths, 'month') : 'none'}.`;
}
