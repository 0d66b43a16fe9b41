export { bowingPath } from './bowing.js';
export { clarinetPath } from './clarinet.js';
export { handNotes, type HandNote } from './hand-notes.js';
export type { HandChoice, HandPath, HandPin } from './hand-path.js';
export { handSolverOf, valvesOf, type HandSolver } from './instrument.js';
export { rollAdvice, rollDivision, ROLL_SPEEDS, type RollAdvice } from './rolls.js';
export { slidePath, slidePlaces, type SlidePlace } from './slide.js';
export { stickingPath, type StickingWish } from './sticking.js';
export { valveChoices, valvePath, type ValveChoice, type ValveInstrument } from './valves.js';
