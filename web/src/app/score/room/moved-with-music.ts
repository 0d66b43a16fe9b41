import type { ScoreRoomView } from '@vivid-cue/contract';

/** How many passages and cues have other numbers than before. */
export function movedWithMusic(before: ScoreRoomView, after: ScoreRoomView): number {
  const places = ({ passages, cues }: ScoreRoomView): Map<string, string> =>
    new Map([...passages, ...cues].map(({ id, from, to }) => [id, `${from}–${to}`]));
  const known = places(before);
  return [...places(after)].filter(([id, place]) => known.has(id) && known.get(id) !== place).length;
}
