export { answerOrder, voidOrder, type KeyState } from './answerOrder';
export { faultOf, SLOW_MS, type Fault } from './faults';
export { market } from './market';
export { shopIdSchema, withState, type SupplierState } from './state';
