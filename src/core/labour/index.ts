export { chooseWay, type Way } from './chooseWay';
export type { PlannedOperation } from './operation';
export { mergeQuantities, planWork, type WorkModifiers, type WorkPlan, type WorkStep } from './planWork';
