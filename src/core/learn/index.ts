export { causeFactor, learnFrom, nothingLearned, timeFactor, type ClosedTicket, type Learned } from './learnFrom';
