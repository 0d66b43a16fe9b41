import { drillScore, drillsOf, drillSound, type Drill } from '@vivid-cue/core/drills';
import { toNumber, quarterBpm } from '@vivid-cue/core/music';
import { readMusicFile } from '@vivid-cue/core/paper';
import { readMusic } from '@vivid-cue/core/reading';
import { hasKnownNotes, printedSpan, type Score, type Span } from '@vivid-cue/core/score';
import type { DrillAnswer, DrillQuestion, ShownDrill } from '../data/driller';

function scoreOf({ bytes, partId, numbers }: DrillQuestion): Score {
  const read = readMusicFile(new Uint8Array(bytes), { partId });
  if (!read.ok) throw new Error(read.issues[0]?.message ?? 'This music cannot be read.');
  const measures = read.value.measures.map((measure, n) => ({
    ...measure,
    number: numbers[n] ?? measure.number,
  }));
  return { ...read.value, measures };
}

function shown(drill: Drill, score: Score, { span, tempo }: DrillQuestion): ShownDrill {
  return {
    kind: drill.kind,
    title: drill.title,
    why: drill.why,
    how: drill.how,
    minutes: drill.minutes,
    turns: drill.spans.map((turn) => turnText(score, turn)),
    musicXml: drillScore(drill, score, { work: '', tempo, from: span }),
    measures: drill.measures.length,
    sound: drillSound(drill, score),
    bars: drill.measures.map(({ meter, notes }) => ({
      meter,
      quarters: notes.reduce((sum, { length }) => sum + toNumber(length), 0),
    })),
  };
}

function turnText({ measures }: Score, turn: Span): string {
  const { from, to } = printedSpan(measures, turn);
  return from === to ? from : `${from}–${to}`;
}

function answered(question: DrillQuestion): readonly ShownDrill[] {
  const score = scoreOf(question);
  const { span, tempo, flagged, instrument, seed } = question;
  const own = score.measures.slice(span.fromIndex, span.endIndex);
  const pairs = own.every(hasKnownNotes)
    ? readMusic(score, { instrument, bpm: null, asked: [span] }).awkwardPairs
    : [];
  const full = tempo && { ...tempo, quarterBpm: quarterBpm(tempo.bpm, tempo.unit) };
  return drillsOf(score, span, { flagged, pairs, tempo: full, seed }).map((drill) =>
    shown(drill, score, question),
  );
}

addEventListener('message', ({ data }: MessageEvent<DrillQuestion>) => {
  const { id } = data;
  try {
    postMessage({ id, drills: answered(data), failure: null } satisfies DrillAnswer);
  } catch (error) {
    const failure = error instanceof Error ? error.message : 'No drills could be made of this music.';
    postMessage({ id, drills: [], failure } satisfies DrillAnswer);
  }
});
