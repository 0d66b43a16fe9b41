import { resolve } from 'node:path';
import { ABC_LIMIT, abcToMusicXml, isAbc } from '@vivid-cue/core/abc';
import { readScore, type Score } from '@vivid-cue/core/score';
import { CommandError } from './command-error.js';
import { readBytes } from './read-bytes.js';

/**
 * One part of a score file, named from the folder the command was called in.
 * Shape:  the part that readScore chooses where `part` is undefined
 * Units:  none
 * Errors: CommandError for a file that is not there, else with the reader's sentences
 * Source: none
 */
export function readScoreFile(folder: string, file: string, part: string | undefined): Score {
  const read = readScore(asMusicXml(readBytes(resolve(folder, file), file)), { partId: part ?? null });
  if (!read.ok) throw new CommandError(read.issues.map(({ message }) => message).join(' '));
  return read.value;
}

/** ABC notation is turned into MusicXML first; everything else stays as it is. */
function asMusicXml(bytes: Uint8Array): Uint8Array {
  const text = new TextDecoder().decode(bytes.subarray(0, ABC_LIMIT + 1));
  if (!isAbc(text)) return bytes;
  const xml = abcToMusicXml(text);
  if (!xml.ok) throw new CommandError(xml.issues.map(({ message }) => message).join(' '));
  return new TextEncoder().encode(xml.value);
}
