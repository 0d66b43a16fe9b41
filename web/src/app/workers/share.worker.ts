import { withCues } from '@vivid-cue/core/cues';
import { handPaceAt } from '@vivid-cue/core/hands';
import { midiFile } from '@vivid-cue/core/midi';
import { readMusicFile } from '@vivid-cue/core/paper';
import type { ShareAnswer, ShareQuestion } from '../data/sharer';

/** Refuses with the reader's own sentence. */
function answered(question: ShareQuestion): Omit<ShareAnswer, 'id' | 'failure'> {
  const bytes = new Uint8Array(question.bytes);
  if (question.kind === 'score') {
    const written = withCues(bytes, question);
    if (!written.ok) throw new Error(written.issues[0]?.message);
    return { musicXml: written.value, midi: null };
  }
  const read = readMusicFile(bytes, { partId: question.partId });
  if (!read.ok) throw new Error(read.issues[0]?.message);
  const { span, instrument, title, quarterBpm } = question;
  const pace = handPaceAt(read.value, quarterBpm);
  const midi = midiFile(read.value, { span, pace, instrument, title });
  return { musicXml: null, midi: midi.slice().buffer };
}

addEventListener('message', ({ data }: MessageEvent<ShareQuestion>) => {
  const { id } = data;
  try {
    postMessage({ id, failure: null, ...answered(data) } satisfies ShareAnswer);
  } catch (error) {
    const failure = error instanceof Error ? error.message : 'The file could not be made.';
    postMessage({ id, failure, musicXml: null, midi: null } satisfies ShareAnswer);
  }
});
