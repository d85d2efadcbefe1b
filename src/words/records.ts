import type { Calibration, Records, Share } from '@/core/learn';
import { formatNumber, formatPercent, plural } from './format';

/** "87 % of 180 machines; surely between 82 % and 91 %." */
export const shareWords = ({ share, low, high, of }: Share): string =>
  `${formatPercent(share)} of ${plural(of, 'machine')}; surely between ${formatPercent(low)} and ${formatPercent(high)}`;

export const minutesWords = ({ ratio, of }: NonNullable<Records['minutes']>): string => {
  const by = formatPercent(Math.abs(ratio - 1));
  const said =
    Math.abs(ratio - 1) < 0.005
      ? 'as long as the list says'
      : `${by} ${ratio > 1 ? 'longer' : 'shorter'} than the list says`;
  return `${said}, over ${plural(of, 'job')}`;
};

export const daysWords = ({ median, ninety, of }: NonNullable<Records['days']>): string =>
  `half within ${formatNumber(median, 1)} days, nine in ten within ${formatNumber(ninety, 1)}, of ${plural(of, 'machine')}`;

/** "Said 80 to 95 %, on average 88 %: true in 91 % of 34." */
export const calibrationWords = ({ from, to, meanSaid, is }: Calibration): string =>
  `Said ${formatPercent(from)} to ${formatPercent(to)}, on average ${formatPercent(meanSaid)}: true in ${formatPercent(is.share)} of ${is.of} (surely between ${formatPercent(is.low)} and ${formatPercent(is.high)})`;
