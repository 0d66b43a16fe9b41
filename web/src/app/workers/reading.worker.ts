/// <reference lib="webworker" />
import { noteFigures } from '@vivid-cue/core/cues';
import { suggestPassages } from '@vivid-cue/core/passages';
import {
  beatOf,
  compareEditions,
  engravedNotes,
  findingsOf,
  measureFacts,
  measurePrints,
  readMusic,
  soloLine,
} from '@vivid-cue/core/reading';
import { readMusicFile } from '@vivid-cue/core/paper';
import { digestScore, renumbered, scoreText, type Score } from '@vivid-cue/core/score';
import type {
  CompareRequest,
  EditionReading,
  OutlineRequest,
  ReadRequest,
  ScoreOutline,
  ScoreReading,
  WorkerNews,
} from '../data/score-reader';

function tell(news: WorkerNews<object>): void {
  postMessage(news);
}

/** So many measures or findings make one piece of a result. */
const PIECE_LENGTH = 100;

function tellResult(result: object): void {
  const pieces = Object.entries(result).flatMap(([key, value]) =>
    (Array.isArray(value) ? slices(value) : [value]).map((part: unknown) => ({ [key]: part })),
  );
  pieces.forEach((piece, n) => tell({ piece, isLast: n === pieces.length - 1 }));
}

/** A list in pieces; an empty one is a piece too. */
function slices(list: readonly unknown[]): unknown[][] {
  return Array.from({ length: Math.max(1, Math.ceil(list.length / PIECE_LENGTH)) }, (_, n) =>
    list.slice(n * PIECE_LENGTH, (n + 1) * PIECE_LENGTH),
  );
}

/** Refuses with the reader's own sentence. */
class Refused extends Error {}

function scoreOf(
  bytes: ArrayBuffer,
  { partId, instrument }: { readonly partId: string | null; readonly instrument: string | null },
): Score {
  const read = readMusicFile(new Uint8Array(bytes), { partId, instrument });
  if (read.ok) return read.value;
  throw new Refused(read.issues[0]?.message ?? 'This file cannot be read.');
}

function read({
  bytes,
  partId,
  instrument,
  quarterBpm,
  unit,
  numbering,
  runs,
  ornamentRules,
}: ReadRequest): ScoreReading {
  tell({ step: 'opening' });
  const score = renumbered(scoreOf(bytes, { partId, instrument: null }), numbering);
  const line = soloLine(score);
  const first = score.measures.find(({ implicit }) => !implicit) ?? score.measures[0];
  const bpm = quarterBpm === null || !first ? null : quarterBpm / beatOf(first.meter);
  const reading = readMusic(score, { instrument, bpm, unit, asked: runs }, (step) => tell({ step }));
  tell({ step: 'findings' });
  return {
    reading,
    findings: findingsOf(score, line, { reading, ornamentRules, asked: runs }),
    prints: measurePrints(score, line),
    facts: measureFacts(score, line, { reading, bpm }),
    engraved: engravedNotes(score, line),
    figures: noteFigures(line),
    suggestions: (runs.length > 0 ? runs : [{ fromIndex: 0, endIndex: score.measures.length }]).flatMap(
      (range) => suggestPassages(score, line, { reading, range }),
    ),
  };
}

function compare({ own, other, instrument }: CompareRequest): EditionReading {
  tell({ step: 'opening' });
  const score = renumbered(scoreOf(own.bytes, { partId: own.partId, instrument: null }), own.numbering);
  const second = scoreOf(other, { partId: null, instrument });
  tell({ step: 'repeats' });
  return {
    differences: compareEditions(score, second),
    title: second.title,
    partId: second.partId,
    engraved: engravedNotes(second, soloLine(second)),
    musicXml: scoreText(new Uint8Array(other)),
  };
}

function outline({ bytes, instrument }: OutlineRequest): ScoreOutline {
  return { measures: digestScore(scoreOf(bytes, { partId: null, instrument })).measures };
}

function answered(request: ReadRequest | CompareRequest | OutlineRequest): object {
  if (request.kind === 'read') return read(request);
  return request.kind === 'compare' ? compare(request) : outline(request);
}

addEventListener('message', ({ data }: MessageEvent<ReadRequest | CompareRequest | OutlineRequest>) => {
  try {
    tellResult(answered(data));
  } catch (error) {
    tell({
      failure:
        error instanceof Refused
          ? error.message
          : 'The score could not be read; its measures can still be worked with.',
    });
  }
});
