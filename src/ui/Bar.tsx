import { cx } from './cx';

/** A probability or a share as a bar; the figure stands beside it in words, so the bar is decoration. */
export function Bar({ share, tone = 'ink' }: { share: number; tone?: 'ink' | 'mark' | 'soft' }) {
  const fill = { ink: 'bg-ink', mark: 'bg-mark', soft: 'bg-edge' }[tone];
  return (
    <span aria-hidden className="block h-1.5 w-full overflow-hidden rounded-full bg-well">
      <span
        className={cx('moves block h-full rounded-full', fill)}
        style={{ width: `${Math.max(0, Math.min(1, share)) * 100}%` }}
      />
    </span>
  );
}

export function Progress({ done, total, label }: { done: number; total: number; label: string }) {
  const share = total > 0 ? done / total : 0;
  return (
    <div
      role="progressbar"
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(share * 100)}
      className="flex flex-col gap-1.5"
    >
      <span className="text-sm text-soft">{label}</span>
      <Bar share={share} tone="mark" />
    </div>
  );
}
