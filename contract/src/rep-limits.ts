/** Reps that waited go in one request (our own limit). */
export const MOST_REPS = 50;
