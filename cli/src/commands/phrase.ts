import { askTempo } from '@vivid-cue/core/music';
import { readScalePhrase, readSpanPhrase } from '@vivid-cue/core/sheet';
import { CommandError, readArgs } from '../command-error.js';
import { readText } from '../read-text.js';

const READERS = {
  tempo: (phrase: string): unknown => {
    const read = askTempo(phrase);
    return 'mark' in read ? read.mark : { question: read.question, candidates: read.candidates };
  },
  span: readSpanPhrase,
  scale: readScalePhrase,
} as const;

/** Longest input of a phrase command. Units: bytes (our own limit). */
const PHRASES_LIMIT = 4_000_000;

/**
 * `tempo "…"`, `span "…"`, `scale "…"`: one phrase; with `-` one a line on standard input.
 * Shape:  one JSON object, or one a line in the order of the lines; an empty line gives a question
 * Units:  see docs/formats.md
 * Errors: CommandError without a phrase
 * Source: docs/formats.md
 */
export function phraseCommand(
  kind: keyof typeof READERS,
): (args: readonly string[], folder: string) => string {
  return (args, folder) => {
    const { positionals } = readArgs(args, {});
    if (positionals.length === 0)
      throw new CommandError(`Give a phrase: vivid-cue ${kind} "…" --json, or - for one a line.`);
    const isMany = positionals.length === 1 && positionals[0] === '-';
    if (!isMany) return JSON.stringify(READERS[kind](positionals.join(' ')));
    const lines = readText(folder, '-', PHRASES_LIMIT)
      .replace(/^\ufeff/u, '')
      .split(/\r\n|\n|\r/u);
    if (lines.at(-1) === '') lines.pop();
    return lines.map((line) => JSON.stringify(READERS[kind](line))).join('\n');
  };
}
