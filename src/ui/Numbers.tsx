import { Fragment } from 'react';
import { cx } from './cx';

/** A model, part or serial number in the mono face, with the characters at `marked` (positions in the text) marked in place. */
export function NumberText({
  text,
  marked = [],
  className,
}: {
  text: string;
  marked?: readonly number[];
  className?: string;
}) {
  return (
    <span className={cx('font-mono whitespace-nowrap', className)}>
      {[...text].map((character, index) => (
        <Fragment key={index}>
          {marked.includes(index) ? <mark className="differs text-inherit">{character}</mark> : character}
        </Fragment>
      ))}
    </span>
  );
}
