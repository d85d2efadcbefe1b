/** A picture in grey, one byte a pixel, row by row. */
export type GreyImage = { width: number; height: number; grey: Uint8Array };

/** ITU-R BT.601 luma of RGBA pixels. */
export function toGrey(rgba: ArrayLike<number>, width: number, height: number): GreyImage {
  const grey = new Uint8Array(width * height);
  for (let index = 0; index < grey.length; index += 1)
    grey[index] = Math.round(
      0.299 * (rgba[index * 4] ?? 0) + 0.587 * (rgba[index * 4 + 1] ?? 0) + 0.114 * (rgba[index * 4 + 2] ?? 0),
    );
  return { width, height, grey };
}

/** Half a window's side, as a share of the picture's width: wider than a letter, narrower than a shadow. */
const WINDOW_SHARE = 0.035;
/** Below this local contrast (grey levels) it is noise that would be drawn out. */
const LEAST_CONTRAST = 5;

/**
 * Evens out light and draws out contrast, for reading: each pixel by its window's mean and standard deviation (from integral images), so that shadow,
 * dim light and pale print come out alike. Dark on light stays dark on light. O(pixels), whatever the window.
 */
export function evenOut(image: GreyImage): GreyImage {
  const { width, height, grey } = image;
  const sums = new Float64Array((width + 1) * (height + 1));
  const squares = new Float64Array((width + 1) * (height + 1));
  for (let y = 0; y < height; y += 1) {
    let [sum, square] = [0, 0];
    for (let x = 0; x < width; x += 1) {
      const value = grey[y * width + x] ?? 0;
      sum += value;
      square += value * value;
      const index = (y + 1) * (width + 1) + x + 1;
      sums[index] = (sums[index - width - 1] ?? 0) + sum;
      squares[index] = (squares[index - width - 1] ?? 0) + square;
    }
  }
  const reach = Math.max(4, Math.round(width * WINDOW_SHARE));
  const even = new Uint8Array(grey.length);
  for (let y = 0; y < height; y += 1) {
    const [top, bottom] = [Math.max(0, y - reach), Math.min(height, y + reach + 1)];
    for (let x = 0; x < width; x += 1) {
      const [left, right] = [Math.max(0, x - reach), Math.min(width, x + reach + 1)];
      const corners = [
        bottom * (width + 1) + right,
        top * (width + 1) + right,
        bottom * (width + 1) + left,
        top * (width + 1) + left,
      ];
      const within = (table: Float64Array) =>
        (table[corners[0] ?? 0] ?? 0) -
        (table[corners[1] ?? 0] ?? 0) -
        (table[corners[2] ?? 0] ?? 0) +
        (table[corners[3] ?? 0] ?? 0);
      const count = (bottom - top) * (right - left);
      const mean = within(sums) / count;
      const deviation = Math.sqrt(Math.max(0, within(squares) / count - mean * mean));
      const value = ((grey[y * width + x] ?? 0) - mean) / Math.max(LEAST_CONTRAST, deviation);
      // The plate itself is the lighter part of a window with print: it goes near white.
      even[y * width + x] = Math.max(0, Math.min(255, Math.round(200 + value * 62)));
    }
  }
  return { width, height, grey: even };
}
