import type * as Sending from './sending';

/** Loaded when it is asked for first, just after a page stands: nothing of it is needed to show one. */
export const sendWaitingOrders: typeof Sending.sendWaitingOrders = async (...given) =>
  (await import('./sending')).sendWaitingOrders(...given);
