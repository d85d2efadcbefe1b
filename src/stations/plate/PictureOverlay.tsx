'use client';
import { useState } from 'react';
import { sureness, type SeenLine } from '@/core/identify';
import { Why } from '@/ui';
import { formatPercent } from '@/words';
import type { ReadPicture } from './usePicture';

/** Below this the reader itself is not sure of a line. */
const UNSURE = 0.7;
const LENS = { width: 560, height: 88 };
/** A line much higher than the others has something else in its box: it is written no larger than this times the middle one. */
const TALLEST = 1.6;

/** No wider than the screen leaves room for. */
const lensWidth = () => Math.min(LENS.width, window.innerWidth - 40);

const percent = (value: number, of: number) => `${(100 * value) / of}%`;

type Props = { picture: ReadPicture; onChange: (line: number, text: string) => void };

/** The picture with what was read lying over it, line by line, to be corrected in place; the line in work is shown large above. */
export function PictureOverlay({ picture, onChange }: Props) {
  const [focused, setFocused] = useState<number | null>(null);
  const { url, width, height, lines, codes } = picture;
  const line = focused === null ? undefined : lines[focused];
  const heights = lines.map((seen) => seen.height).sort((a, b) => a - b);
  const tallest = TALLEST * (heights[heights.length >> 1] ?? 0);
  return (
    <div className="flex flex-col gap-2">
      <Lens picture={picture} line={line} />
      <p className="text-sm text-soft">
        <Why
          label="How sure the reader is of the text"
          because="Its own figure, line by line, each line counted by its characters; a line that you correct and a code count as sure. The less sure it is, the more is left to “not in the catalogue” and to a number that could not be read."
        >
          The reader is {formatPercent(sureness(lines, codes))} sure of this text.
        </Why>
      </p>
      <div className="overflow-x-auto" role="region" aria-label="Picture with the text that was read" tabIndex={0}>
        <div
          className="relative max-w-2xl min-w-[36rem] [container-type:inline-size]"
          style={{ aspectRatio: `${width} / ${height}` }}
        >
          {/* eslint-disable-next-line @next/next/no-img-element -- a picture from this machine, not from a server */}
          <img src={url} alt="The plate as photographed" className="absolute inset-0 h-full w-full" />
          {codes.map((code) => (
            <span
              key={`${code.kind} ${code.text}`}
              className="absolute border-[3px] border-mark bg-sheet/90 px-1 font-mono text-[13px] leading-tight break-all text-ink"
              style={{
                left: percent(code.left, width),
                top: percent(code.top, height),
                width: percent(code.width, width),
                minHeight: percent(code.height, height),
              }}
            >
              {code.text}
            </span>
          ))}
          {lines.map((seen, index) => (
            <input
              key={`${seen.left} ${seen.top}`}
              aria-label={`Line ${index + 1} of the plate${seen.confidence < UNSURE ? ', read with doubt' : ''}`}
              value={seen.text}
              autoComplete="off"
              spellCheck={false}
              onFocus={() => setFocused(index)}
              onChange={(event) => onChange(index, event.target.value)}
              className={`absolute rounded-xs border-[1.5px] bg-sheet/90 px-1 font-mono text-ink ${seen.confidence < UNSURE ? 'border-dashed border-doubt' : 'border-edge'}`}
              style={placeOf(seen, width, height, tallest)}
            />
          ))}
        </div>
      </div>
    </div>
  );
}

/** Over its line, a little larger, with the letters as large as the print. */
function placeOf({ left, top, width, height: seen }: SeenLine, of: number, high: number, tallest: number) {
  const height = Math.min(seen, tallest);
  const margin = height * 0.12;
  return {
    left: percent(left - margin, of),
    top: percent(top + (seen - height) / 2 - margin, high),
    width: percent(Math.max(width, height * 4) + margin * 4, of),
    height: percent(height + margin * 2, high),
    fontSize: `${(100 * height * 0.78) / of}cqw`,
  };
}

/** The line in work, cut out of the picture and enlarged. */
function Lens({ picture, line }: { picture: ReadPicture; line: SeenLine | undefined }) {
  if (!line)
    return (
      <p className="text-sm text-soft">
        What was read lies over the picture. Tap a line to see it large and to correct it; one with a dashed edge was
        read with doubt.
      </p>
    );
  const size = { width: lensWidth(), height: LENS.height };
  const scale = Math.min(size.width / (line.width * 1.1), size.height / (line.height * 1.7));
  return (
    <div
      role="img"
      aria-label={`The line “${line.text}”, enlarged`}
      className="max-w-full border-[1.5px] border-ink"
      style={{
        ...size,
        backgroundImage: `url(${picture.url})`,
        backgroundSize: `${picture.width * scale}px ${picture.height * scale}px`,
        backgroundPosition: `${size.width / 2 - (line.left + line.width / 2) * scale}px ${size.height / 2 - (line.top + line.height / 2) * scale}px`,
      }}
    />
  );
}
