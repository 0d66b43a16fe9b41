export { COUNT_WORDS } from './count-words.js';
export { capital, countBy, groupBy, roundTo, upperMedian } from './collect.js';
export { hashText } from './hash.js';
export { plainSigns } from './plain.js';
export { fail, ok, type Issue, type Result } from './result.js';
export { remembered, rememberedFor } from './remember.js';
export { ExternalError, InvariantError, present } from './errors.js';
export { normalDraw, normalDraws, seededRandom, type Random } from './random.js';
