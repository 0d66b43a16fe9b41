export { breathCues, handCues, type SettledCue } from './settled-cues.js';
export { quickCues, type QuickCue } from './quick-cues.js';
export { dynamicCues, phraseShapes, shapeCues, type DynamicCue, type PhraseShape } from './dynamic-cues.js';
