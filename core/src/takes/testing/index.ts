export type { Manner } from './performer.js';
export { performed, PRACTICE_ROOM, type RehearsalWish } from './rehearsal.js';
