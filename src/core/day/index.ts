export { planDay, type Call, type Day, type DayTask, type OnTheWay } from './planDay';
