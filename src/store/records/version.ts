/** The version that records are written in: that of the last migration. Apart from them, so that a page loads the old versions only when it meets one. */
export const RECORD_VERSION = 14;
