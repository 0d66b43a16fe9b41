import type { LineNote } from './solo-line.js';

/**
 * How a note is begun: its signs joined by "+", "slurred" under a slur, else "tongued".
 * Shape:  signs in alphabetical order
 */
export function articulationOf({ signs, isSlurredInto }: LineNote): string {
  if (signs.articulations.length > 0) return [...new Set(signs.articulations)].sort().join('+');
  return isSlurredInto || signs.slurStarts > 0 ? 'slurred' : 'tongued';
}
