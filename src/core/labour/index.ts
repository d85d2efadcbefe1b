export { chooseWay, type Way } from './chooseWay';
export { sameStep, type PlannedOperation, type Step } from './operation';
export { mergeQuantities, planWork, type WorkModifiers, type WorkPlan, type WorkStep } from './planWork';
export {
  inWorkingOrder,
  jobsOnTheWay,
  refitOrder,
  stripOrder,
  type OrderedPlan,
  type RefitNeeds,
  type RefusedOrder,
} from './workOrder';
export { BENCH_MINUTES_A_DAY, queueOf, readyDate, type WorkingWeek } from './readyDate';
