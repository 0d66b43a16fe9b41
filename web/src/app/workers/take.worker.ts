/// <reference lib="webworker" />
import type { Bpm } from '@vivid-cue/core/music';
import { readMusicFile } from '@vivid-cue/core/paper';
import { wholePace } from '@vivid-cue/core/reading';
import { hasKnownNotes, inRuns, type Score } from '@vivid-cue/core/score';
import { readTake, toldTake } from '@vivid-cue/core/takes';
import type { TakeNews, TakeQuestion } from '../data/take-reader';

/** Progress is told when so much more is done. */
const STEP = 0.01;

function tell(news: TakeNews): void {
  postMessage(news);
}

function scoreOf({ score, partId, numbers }: TakeQuestion): Score | string {
  const read = readMusicFile(new Uint8Array(score), { partId });
  if (!read.ok) return read.issues[0]?.message ?? 'This music cannot be read.';
  const measures = read.value.measures.map((measure, n) => ({
    ...measure,
    number: numbers[n] ?? measure.number,
  }));
  return { ...read.value, measures };
}

/** A tempo in the beats of the score. */
function beatsOf(score: Score, quarterBpm: TakeQuestion['quarterBpm']): Bpm | null {
  if (quarterBpm === null) return null;
  return quarterBpm / (wholePace(score, 60)?.beatQuarters ?? 1);
}

function answer(question: TakeQuestion): TakeNews {
  const score = scoreOf(question);
  if (typeof score === 'string') return { failure: score, hasNoNotes: true };
  const { samples, rate, spans, withRepeats, quarterBpm } = question;
  const asked = score.measures.filter((_, n) => spans.length === 0 || inRuns(spans, n));
  if (!asked.every(hasKnownNotes))
    return {
      failure:
        'The notes of this part are on paper only: listen, tap what slipped, and tap the downbeats for its pulse.',
      hasNoNotes: true,
    };
  let told = 0;
  const read = readTake({ samples, rate }, score, {
    ...{ spans, withRepeats, bpm: beatsOf(score, quarterBpm) },
    tell: (done) => {
      if (done - told < STEP) return;
      told = done;
      tell({ progress: done });
    },
  });
  if (read.ok) return { told: toldTake(read.value) };
  return { failure: read.issues[0]?.message ?? 'This take cannot be read.', hasNoNotes: false };
}

addEventListener('message', ({ data }: MessageEvent<TakeQuestion>) => {
  try {
    tell(answer(data));
  } catch {
    tell({ failure: 'This take could not be read; listen to it without numbers.', hasNoNotes: false });
  }
});
