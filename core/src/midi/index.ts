export { midiFile, type MidiWish } from './midi-file.js';
