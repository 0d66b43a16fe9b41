import {
  amendSheet,
  exchangedSheet,
  isErrataNotice,
  readErrata,
  readSheet,
  SHEET_TEXT_LIMIT,
  type StructuredSheet,
} from '@vivid-cue/core/sheet';
import { CommandError, readArgs } from '../command-error.js';
import { readText } from '../read-text.js';

/**
 * `sheet FILE.txt [--errata NOTICE.txt]`: the structure of a published sheet, amended where a notice is given.
 * Shape:  JSON text, see docs/formats.md; a notice alone gives its changes
 * Units:  see docs/formats.md
 * Errors: CommandError for a file that cannot be read, is too long or holds nothing
 * Source: docs/formats.md
 */
export function sheetCommand(args: readonly string[], folder: string): string {
  const { values, positionals } = readArgs(args, { errata: { type: 'string' } });
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0)
    throw new CommandError('Name one sheet: vivid-cue sheet FILE.txt [--errata NOTICE.txt] --json.');
  const text = readText(folder, file, SHEET_TEXT_LIMIT);
  if (text.trim() === '') throw new CommandError(`"${file}" is empty; put the published text in it.`);
  const notice = values.errata === undefined ? null : readText(folder, values.errata, SHEET_TEXT_LIMIT);
  const sheet = exchangedSheet(structure(text, notice));
  // The list that a part stands in is told by the choices.
  const parts = sheet.parts.map(({ list: _, ...part }) => part);
  return JSON.stringify({ ...sheet, parts }, null, 2);
}

function structure(text: string, notice: string | null): StructuredSheet {
  const { sheet } = readSheet(text);
  if (notice !== null) return amendSheet(sheet, readErrata(notice, sheet));
  if (!isErrataNotice(text)) return sheet;
  const errata = readErrata(text);
  const body =
    sheet.body?.replace(
      /^.*?\b(?:errat(?:um|a)|corrections?|amendments?|changes)\s+(?:to|for)\s+(?:the\s+)?/iu,
      '',
    ) ?? null;
  return {
    ...sheet,
    body,
    parts: [],
    deadlines: [],
    choices: [],
    notes: errata.notes,
    questions: errata.questions,
    amends: errata.amends,
    changes: errata.changes,
  };
}
