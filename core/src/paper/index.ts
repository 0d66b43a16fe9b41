export { readToldLine, writeToldLine, type ToldReading } from './told-line.js';
export { toldOfScore } from './told-of-score.js';
export { scoreOfTold } from './told-score.js';
export type {
  ToldDensity,
  ToldEnding,
  ToldIssue,
  ToldMeter,
  ToldMusic,
  ToldRepeat,
  ToldValue,
} from './told.js';
