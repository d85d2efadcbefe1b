export { chooseWay, type Way } from './chooseWay';
export { mergeQuantities, planWork, type PlannedOperation, type WorkModifiers, type WorkPlan, type WorkStep } from './planWork';
