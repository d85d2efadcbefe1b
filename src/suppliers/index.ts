export { answerOrder, voidOrder, type KeyState } from './answerOrder';
export { faultOf, SLOW_MS, type Fault } from './faults';
export { market } from './market';
export { refusalOf } from './acceptable';
export { keySchema, lookAtState, shopIdSchema, SupplierState, withState } from './state';
