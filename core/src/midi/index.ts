export { midiFile, programOf, type MidiWish } from './midi-file.js';
export { SNARE } from './programs.data.js';
