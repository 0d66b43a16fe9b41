import type { AskedMusic } from './follow/asked-notes.js';
import type { FollowedTake } from './follow/follow.js';
import { isOtherMusic } from './other-music.js';

// Bounds are our own, drawn from readings of right and wrong pairs; what is heard is set stroke by stroke.

const HOP = 0.01;
const MUSIC = { notes: Array.from({ length: 40 }, () => ({ isOrnamented: false })) } as unknown as AskedMusic;

interface TakeWish {
  /** How many notes of the music were found, one every half second, and how long each run between jumps is. */
  readonly found: number;
  readonly run?: number;
  /** Strokes that belong to none, after the last. */
  readonly after?: number;
  readonly fit?: number;
  readonly shift?: number;
  readonly isByStrokes?: boolean;
}

function takeOf({ found, run = 40, after = 0, fit = 0.9, ...rest }: TakeWish): FollowedTake {
  const frames = 50 * (found + after + 2);
  const flux = new Float32Array(frames);
  for (let n = 0; n < found + after; n += 1) flux[50 * (n + 1)] = 1;
  const notes = Array.from({ length: found }, (_, n) => ({
    ...{ asked: n, run: Math.floor(n / run), seconds: 0.5 * (n + 1), end: 0.5 * (n + 2), confidence: 0.9 },
  }));
  return {
    ...{ notes, heard: { flux, frames, hop: HOP }, fit, stray: 0.1, shift: 0, isByStrokes: false },
    ...rest,
  } as unknown as FollowedTake;
}

describe('other music', () => {
  it('is what goes on where only a part of the strokes asked was found, but talk after the end is not', () => {
    expect(isOtherMusic(MUSIC, takeOf({ found: 28, after: 11, isByStrokes: true }))).toBeTrue();
    expect(isOtherMusic(MUSIC, takeOf({ found: 40, after: 15, isByStrokes: true }))).toBeFalse();
    expect(isOtherMusic(MUSIC, takeOf({ found: 28, isByStrokes: true }))).toBeFalse();
  });

  it('is what fits in snatches, or half, at a pitch that is no octave from what is written', () => {
    const fourthUp = { found: 40, shift: 5 };
    expect(isOtherMusic(MUSIC, takeOf({ ...fourthUp, run: 4 }))).toBeTrue();
    expect(isOtherMusic(MUSIC, takeOf({ ...fourthUp, fit: 0.6 }))).toBeTrue();
    expect(isOtherMusic(MUSIC, takeOf(fourthUp)))
      .withContext('the whole of it in another key')
      .toBeFalse();
    expect(isOtherMusic(MUSIC, takeOf({ found: 40, shift: -12, run: 4 })))
      .withContext('an octave lower, measure by measure')
      .toBeFalse();
  });
});
