import { quarterBpm, type BeatUnit } from '@vivid-cue/core/music';
import { soundClick } from '../ui/click-sound';

/** What is counted before a take. Units: beats of the unit a minute; quarters of a measure */
export interface CountIn {
  readonly measures: number;
  readonly bpm: number;
  readonly beatUnit: BeatUnit;
  readonly measureQuarters: number;
}

/** The first click comes so long after the press. Units: seconds */
const LEAD_SECONDS = 0.2;

/**
 * Counts in, and is done where the first note is due.
 * Shape:  a click a beat of the unit, the first of each measure higher
 */
export function countIn({ measures, bpm, beatUnit, measureQuarters }: CountIn): Promise<void> {
  const context = new AudioContext();
  const seconds = 60 / bpm;
  const beats = Math.max(1, Math.round(measureQuarters / (quarterBpm(1, beatUnit) || 1)));
  const from = context.currentTime + LEAD_SECONDS;
  for (let n = 0; n < measures * beats; n += 1)
    soundClick(context, { level: n % beats === 0 ? 2 : 1 }, from + n * seconds);
  return new Promise((done) => {
    setTimeout(
      () => {
        done();
        void context.close();
      },
      (LEAD_SECONDS + measures * beats * seconds) * 1000,
    );
  });
}
