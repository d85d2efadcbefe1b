/** Changes when a closed ticket does: what was learned from them is then out of date. */
export const CLOSED_VERSION = 'closedVersion';
/** Changes whenever what the shop's own layer of the catalogue follows from does. */
export const OWN_VERSION = 'ownVersion';
/** Another value whenever something on the shelf changes. */
export const STOCK_VERSION = 'stockVersion';
