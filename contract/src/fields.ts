import { number, object, string, type InferType, type StringSchema } from 'yup';
import { BEAT_UNITS, MAX_BPM, MIN_BPM, type BeatUnit, type TempoBound } from '@vivid-cue/core/music';

const UUID_V7 = /^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/u;

/** An identifier made by the client. Source: RFC 9562, UUID version 7. */
export const idField = string()
  .matches(UUID_V7, 'An identifier is a UUID of version 7.')
  .meta({ isId: true });

/** Signs that no line of text has: what ends a line, what ends a text, halves of letters. Source: Unicode, categories Cc, Cs */
const UNSEEN_SIGNS = /[\p{Cc}\p{Cs}\u2028\u2029]/u;

/** One line of text a person typed, in which something can be read. */
export function textField(label: string, maxLength: number): StringSchema {
  return string()
    .trim()
    .min(1, `${label} is missing.`)
    .max(maxLength, `${label} has at most ${maxLength} characters.`)
    .test('line', `${label} is one line; take line breaks and control characters out.`, (text) =>
      isLine(text),
    )
    .test(
      'readable',
      `${label} has no letter or figure that can be read.`,
      (text) => text == null || text === '' || /[\p{L}\p{N}]/u.test(text),
    );
}

/** Whether a text is one line that can be stored and shown. */
export function isLine(text: string | null | undefined): boolean {
  return text == null || !UNSEEN_SIGNS.test(text);
}

/** A tempo number. Units: beats per minute. */
export const bpmField = number()
  .typeError('A tempo is a number of beats a minute.')
  .min(MIN_BPM, `A tempo is at least ${MIN_BPM} beats a minute.`)
  .max(MAX_BPM, `A tempo is at most ${MAX_BPM} beats a minute.`);

/** A beat unit by its name in `core/music`. */
export const beatUnitField = string<BeatUnit>().oneOf(
  BEAT_UNITS,
  'Choose a note value such as quarter or dotted-quarter.',
);

/** How strictly a tempo binds. */
export const boundField = string<TempoBound>().oneOf([
  'exact',
  'about',
  'range',
  'min',
  'max',
  'words',
  'none',
]);

/** A printed measure number such as 9 or 22A. */
export const measureNumberField = string()
  .trim()
  .matches(/^\d{1,4}[A-Za-z]?$/u, 'A measure number is one such as 9 or 22A.');

/** One end of a run as a sheet names it: 9, 22A, start, end, K, K-6, E+4, figure 7, double bar. */
export const spanPointField = string()
  .trim()
  .max(20)
  .matches(
    /^(?:\d{1,4}[A-Za-z]?|(?:start|end|double bar|[A-Za-z]{1,2}|figure \d{1,3})(?:[+-]\d{1,3})?)$/u,
    'Name a measure: a printed number such as 9 or 22A, a mark such as K or K-6, start or end.',
  );

/** A tempo mark as a sheet states it. Shape: as TempoMark of core/music. */
export const tempoSchema = object({
  beatUnit: beatUnitField.nullable().defined(),
  bpmMin: bpmField.nullable().defined(),
  bpmMax: bpmField.nullable().defined(),
  bound: boundField.required(),
  words: string().trim().max(120).nullable().defined(),
})
  .exact()
  .test(
    'tempo-complete',
    'A tempo needs its number and its note value.',
    ({ beatUnit, bpmMin, bpmMax, bound }) => {
      if (bound === 'none' || bound === 'words') return bpmMin === null && bpmMax === null;
      const needsMin = bound !== 'max';
      const needsMax = bound !== 'min';
      return beatUnit !== null && needsMin === (bpmMin !== null) && needsMax === (bpmMax !== null);
    },
  )
  .test(
    'tempo-order',
    'The slower number comes first.',
    ({ bpmMin, bpmMax }) => bpmMin === null || bpmMax === null || bpmMin <= bpmMax,
  );

/** A tempo mark on the wire. */
export type TempoOnWire = InferType<typeof tempoSchema>;

/** Whether a text names an instant that exists: the parts of no other are the same when written again. */
function isInstant(text: string | undefined): boolean {
  const atMs = Date.parse(text ?? '');
  return atMs >= 0 && new Date(atMs).toISOString().slice(0, 19) === text?.slice(0, 19);
}

/** When something was played or said. */
export const instantField = string()
  .matches(/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{1,3})?Z$/u, 'An instant is written in UTC.')
  .test('instant', 'A rep was played at an instant that exists, after 1970.', (at) => isInstant(at))
  .required();

/** A day of the calendar that exists. */
export function dateField(): StringSchema {
  return string()
    .matches(/^\d{4}-\d\d-\d\d$/u, 'A day is written as 2026-11-29.')
    .test('date', 'This day is not in the calendar.', (date) => date == null || isDay(date));
}

function isDay(date: string): boolean {
  const atMs = Date.parse(`${date}T00:00:00Z`);
  return !Number.isNaN(atMs) && new Date(atMs).toISOString().slice(0, 10) === date;
}
