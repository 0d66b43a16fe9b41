export {
  indexesOf,
  inRuns,
  printedSpan,
  runsOf,
  inSpan,
  measureIndexes,
  parseSpan,
  resolveSpan,
  spanQuarters,
  withoutPickup,
  type Span,
  type NamedMeasure,
  type SpanCode,
  type SpanText,
} from './span.js';
export { runsPhrase, runsText, runText, spanInWords, spanPhrase, type NamedRun } from './span-text.js';
