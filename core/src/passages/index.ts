export { fitAround, mergeNext, moveEnd, splitAt, startAnywhere, type NamedSpan } from './cutting.js';
export { seamsOf, suggestPassages, type SuggestedPassage } from './suggested-passages.js';
