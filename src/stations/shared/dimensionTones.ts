/** How a dimension's verdict is marked. */
export const DIMENSION_TONES = {
  fits: 'sound',
  'fits-with-work': 'doubt',
  'does-not-fit': 'stop',
  unknown: 'soft',
} as const;
