export type { BarlineKind } from './barlines.js';
export { grayOf, type GrayImage } from './image.js';
export { PAGE_LIMITS } from './limits.js';
export {
  READ_LONG_SIDE,
  readPage,
  type PageBarline,
  type PageMeasure,
  type PageReading,
  type PageSystem,
} from './read-page.js';
