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
/** So it is below this share of the print's own contrast: the grain of a photograph, where nothing is printed. */
const LEAST_SHARE = 0.3;

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
  const means = new Float32Array(grey.length);
  const deviations = new Float32Array(grey.length);
  for (let y = 0; y < height; y += 1) {
    const [top, bottom] = [Math.max(0, y - reach), Math.min(height, y + reach + 1)];
    for (let x = 0; x < width; x += 1) {
      const [left, right] = [Math.max(0, x - reach), Math.min(width, x + reach + 1)];
      const [a, b] = [bottom * (width + 1) + right, top * (width + 1) + right];
      const [c, d] = [bottom * (width + 1) + left, top * (width + 1) + left];
      const count = (bottom - top) * (right - left);
      const mean = ((sums[a] ?? 0) - (sums[b] ?? 0) - (sums[c] ?? 0) + (sums[d] ?? 0)) / count;
      const square = ((squares[a] ?? 0) - (squares[b] ?? 0) - (squares[c] ?? 0) + (squares[d] ?? 0)) / count;
      means[y * width + x] = mean;
      deviations[y * width + x] = Math.sqrt(Math.max(0, square - mean * mean));
    }
  }
  const least = Math.max(LEAST_CONTRAST, LEAST_SHARE * strongContrast(deviations));
  const even = new Uint8Array(grey.length);
  for (let index = 0; index < grey.length; index += 1) {
    const value = ((grey[index] ?? 0) - (means[index] ?? 0)) / Math.max(least, deviations[index] ?? 0);
    // The plate itself is the lighter part of a window with print: it goes near white.
    even[index] = Math.max(0, Math.min(255, Math.round(200 + value * 62)));
  }
  return { width, height, grey: even };
}

/** The deviation that only one window in twenty exceeds: that of print, where there is any. O(pixels). */
function strongContrast(deviations: Float32Array): number {
  const counts = new Uint32Array(129);
  for (const deviation of deviations) {
    const bin = Math.min(128, Math.round(deviation));
    counts[bin] = (counts[bin] ?? 0) + 1;
  }
  let above = deviations.length / 20;
  for (let bin = 128; bin > 0; bin -= 1) {
    above -= counts[bin] ?? 0;
    if (above < 0) return bin;
  }
  return 0;
}
