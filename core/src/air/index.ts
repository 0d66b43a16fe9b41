export { bowStrokes, type BowStroke } from './bow.js';
export {
  breathPlan,
  waysToBreathe,
  type AirPin,
  type AirStretch,
  type AirWay,
  type AirWish,
  type BreathPlan,
  type PlannedBreath,
} from './breath-plan.js';
export { capacityFor, phraseSeconds, slowestBpm, usableAir, USABLE_SHARE } from './fit.js';
export { airAt, levels, USUAL_AIR, type MeasuredAir } from './levels.js';
export { placeText } from './place-words.js';
export { toldAirMusic, type BoxMark } from './told-air.js';
export { airMusic, placesAt, type AirMusic, type AirPlace, type PlaceKind } from './places.js';
