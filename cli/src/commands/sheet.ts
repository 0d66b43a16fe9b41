import {
  amendSheet,
  exchangedSheet,
  isErrataNotice,
  partsHolding,
  readErrata,
  readSheet,
  SHEET_TEXT_LIMIT,
  type StructuredSheet,
} from '@vivid-cue/core/sheet';
import { CommandError, readArgs } from '../command-error.js';
import { readText } from '../read-text.js';

/**
 * `sheet FILE.txt [--errata NOTICE.txt] [--instrument NAME]`: the structure of a published sheet, amended where a notice
 * is given, and only what holds for one instrument where it is named.
 * Shape:  JSON text, see docs/formats.md; a notice alone gives its changes
 * Units:  see docs/formats.md
 * Errors: CommandError for a file that cannot be read, is too long or holds nothing
 * Source: docs/formats.md
 */
export function sheetCommand(args: readonly string[], folder: string): string {
  const { values, positionals } = readArgs(args, {
    errata: { type: 'string' },
    instrument: { type: 'string' },
  });
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0)
    throw new CommandError(
      'Name one sheet: vivid-cue sheet FILE.txt [--errata NOTICE.txt] [--instrument NAME] --json.',
    );
  const text = readText(folder, file, SHEET_TEXT_LIMIT);
  if (text.trim() === '') throw new CommandError(`"${file}" is empty; put the published text in it.`);
  const notice = values.errata === undefined ? null : readText(folder, values.errata, SHEET_TEXT_LIMIT);
  const whole = structure(text, notice);
  const sheet = exchangedSheet(values.instrument === undefined ? whole : forPlayer(whole, values.instrument));
  // The list that a part stands in is told by the choices.
  const parts = sheet.parts.map(({ list: _, ...part }) => part);
  return JSON.stringify({ ...sheet, parts }, null, 2);
}

/** What of a sheet holds for one instrument: its parts, with the rules and questions that speak of them. */
function forPlayer(sheet: StructuredSheet, instrument: string): StructuredSheet {
  const parts = partsHolding(sheet.parts, { instrument, division: null });
  const gone = new Set(sheet.parts.filter((part) => !parts.includes(part)).map(({ id }) => id));
  const choices = sheet.choices.flatMap((choice) => {
    const of = choice.of.flatMap((one): (string | readonly string[])[] => {
      if (typeof one === 'string') return gone.has(one) ? [] : [one];
      const own = one.filter((id) => !gone.has(id));
      return own.length === 0 ? [] : [own];
    });
    return of.length === 0 ? [] : [{ ...choice, of }];
  });
  const questions = sheet.questions.filter(({ partId }) => partId === null || !gone.has(partId));
  return { ...sheet, parts, choices, questions };
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
