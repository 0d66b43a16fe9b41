export { DRUMS, midiFile, noteEvents, programOf, trackFile, type MidiWish } from './midi-file.js';
export { SNARE } from './programs.data.js';
