import { parentPort } from 'node:worker_threads';
import { withoutAbc } from '@vivid-cue/core/abc';
import type { Issue } from '@vivid-cue/core/base';
import { cuesIn, withoutCues, type FileCue } from '@vivid-cue/core/cues';
import { followedSpan, followMusic, type FollowedMusic } from '@vivid-cue/core/reading';
import { readMusicFile, readPaper } from '@vivid-cue/core/paper';
import { renumbered, scoreText, type NumberRestart, type Score } from '@vivid-cue/core/score';
import type { StoredDigest } from '../practice/measure-map.js';
import { digested } from './digested.js';

/** A file to be read. Shape: `before` is the file that it takes the place of, with the instructor's own count there */
export interface ReadingWish {
  readonly bytes: Uint8Array;
  readonly partId: string | null;
  readonly instrument: string | null;
  readonly numbering: readonly NumberRestart[];
  readonly before: {
    readonly bytes: Uint8Array;
    readonly partId: string;
    readonly numbering: readonly NumberRestart[];
  } | null;
}

/** A file that was read. Shape: `file` is MusicXML, or music on paper as it came; `followed` null where nothing was followed into it */
export interface FileReading {
  readonly file: Uint8Array;
  readonly digest: StoredDigest;
  readonly numbering: readonly NumberRestart[];
  readonly followed: FollowedMusic | null;
  /** The pages that music on paper is shown on. */
  readonly pages: readonly string[];
  /** Cues that came with a file of ours. */
  readonly cues: readonly FileCue[];
}

/** What the worker answers. */
export type ReadingAnswer = { readonly reading: FileReading } | { readonly issues: readonly Issue[] };

function read({ bytes, partId, instrument, numbering, before }: ReadingWish): ReadingAnswer {
  // ABC notation is kept as MusicXML, so that it is engraved and read like every other score.
  const file = withoutAbc(bytes);
  if (!file.ok) return { issues: file.issues.map((issue) => ({ ...issue, where: 'file' })) };
  const whole = readMusicFile(file.value, { partId, instrument });
  if (!whole.ok) return { issues: whole.issues };
  const { cues, bare } = withCuesApart(file.value);
  const printed = cues.length === 0 ? whole : readMusicFile(bare, { partId, instrument });
  if (!printed.ok) return { issues: printed.issues };
  const followed = before && followedInto(before, printed.value);
  const own = followed ? carried(before.numbering, followed) : numbering;
  const reading = {
    file: bare,
    digest: digested(renumbered(printed.value, own)),
    numbering: own,
    followed,
    pages: pagesOf(file.value),
    cues,
  };
  return { reading };
}

/** The cues that a file of ours carries, and the file without them: they are kept as cues, and not printed a second time. */
function withCuesApart(file: Uint8Array): { readonly cues: readonly FileCue[]; readonly bare: Uint8Array } {
  if (readPaper(file).ok) return { cues: [], bare: file };
  const text = scoreText(file);
  const cues = cuesIn(text);
  return { cues, bare: cues.length === 0 ? file : new TextEncoder().encode(withoutCues(text)) };
}

/** The pages of music on paper. Shape: none of a digital score */
function pagesOf(bytes: Uint8Array): string[] {
  const paper = readPaper(bytes);
  return paper.ok ? paper.value.pages.map(({ picture }) => picture) : [];
}

/** Null where the file before cannot be read any more. */
function followedInto(
  { bytes, partId }: NonNullable<ReadingWish['before']>,
  score: Score,
): FollowedMusic | null {
  const known = readMusicFile(bytes, { partId });
  return known.ok ? followMusic(known.value, score) : null;
}

/** The instructor's own count goes on from the same music. */
function carried(numbering: readonly NumberRestart[], followed: FollowedMusic): NumberRestart[] {
  return numbering.flatMap(({ index, number }) => {
    const span = followedSpan(followed, { fromIndex: index, endIndex: index + 1 });
    return span ? [{ index: span.fromIndex, number }] : [];
  });
}

parentPort?.on('message', (wish: ReadingWish) => parentPort?.postMessage(read(wish)));
