import type { QuarterBpm } from '../../music/index.js';
import type { LineNote } from '../line/solo-line.js';

/** A burst is told from so many notes in a row. */
const BURST = 4;

/**
 * Notes a second where they come thickest: over one beat, or over four notes in a row, whichever is more; every panel
 * that speaks of notes a second means this.
 * Shape:  `notes` those that begin in a measure, `after` the next one, null at a rest or the end
 * Units:  quarters, quarters a minute; `beat` in quarters
 * Source: arithmetic; the windows are our own
 */
export function densest(
  notes: readonly LineNote[],
  {
    after,
    beat,
    quarterBpm,
  }: { readonly after: LineNote | null; readonly beat: number; readonly quarterBpm: QuarterBpm },
): number {
  return (Math.max(peak(notes, beat) / beat, burst(notes, after)) * quarterBpm) / 60;
}

/** The most notes that begin within any window of this length. */
export function peak(notes: readonly LineNote[], window: number): number {
  let most = 0;
  let first = 0;
  notes.forEach((note, n) => {
    while ((notes[first]?.start ?? 0) <= note.start - window + 1e-6) first += 1;
    most = Math.max(most, n - first + 1);
  });
  return most;
}

/** Notes a quarter over four notes in a row. */
function burst(notes: readonly LineNote[], after: LineNote | null): number {
  const starts = notes.map(({ start }) => start);
  const last = notes.at(-1);
  if (last) starts.push(after?.start ?? last.start + last.length);
  let most = 0;
  for (let n = 0; n + BURST < starts.length; n += 1) {
    const quarters = (starts[n + BURST] ?? 0) - (starts[n] ?? 0);
    if (quarters > 1e-6) most = Math.max(most, BURST / quarters);
  }
  return most;
}
