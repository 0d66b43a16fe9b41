export { breathCues, handCues, type SettledCue } from './settled-cues.js';
