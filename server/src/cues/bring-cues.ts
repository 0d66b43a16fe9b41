import { v7 as newId } from 'uuid';
import { cueInputSchema, type CueInput } from '@vivid-cue/contract';
import type { FileCue } from '@vivid-cue/core/cues';
import type { ScoreDigest } from '@vivid-cue/core/score';
import type { Studio } from '../db/studio.js';
import { cuesOfScore } from './repository.js';
import { addCues } from './service.js';

/** So many cues are taken from a file (our own bound). */
const MOST_CUES = 500;

/**
 * Writes the cues that came with a file: those that stand there already are left as they are, and what no cue of ours
 * could be is passed over, for somebody else may have changed the file.
 */
export async function bringCues(
  studio: Studio,
  part: { readonly id: string; readonly studentId: string; readonly scoreId: string },
  {
    cues,
    digest,
    now,
  }: { readonly cues: readonly FileCue[]; readonly digest: ScoreDigest; readonly now: Date },
): Promise<void> {
  if (cues.length === 0) return;
  const all = await cuesOfScore(studio, part.scoreId, part.studentId);
  const known = all.filter(({ deleted_at: deletedAt }) => deletedAt === null);
  const there = new Set(
    known.map(({ kind, from_index: from, note, text }) => markOf(kind, from, { note, text })),
  );
  const fresh = cues
    .slice(0, MOST_CUES)
    .filter(({ kind, fromIndex, note, text }) => !there.has(markOf(kind, fromIndex, { note, text })))
    .map((cue) => inputOf(cue, digest))
    .filter((input) => cueInputSchema.isValidSync(input));
  await addCues(studio, part.id, { cues: fresh, now });
}

function markOf(
  kind: string,
  fromIndex: number,
  { note, text }: { readonly note: number | null; readonly text: string },
): string {
  return [kind, fromIndex, note ?? '', text].join(' ');
}

function inputOf(
  { fromIndex, endIndex, alternatives, ...cue }: FileCue,
  { measures }: ScoreDigest,
): CueInput {
  return {
    ...{ ...cue, id: newId(), findingKey: null, alternatives: [...alternatives] },
    ...{ from: measures[fromIndex]?.number ?? '', to: measures[endIndex - 1]?.number ?? '' },
  };
}
