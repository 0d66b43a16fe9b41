import { plainSigns, present } from '../base/index.js';
import { distinctTempos, questionOfMark, scanTempos, type TempoMark } from '../music/index.js';
import { CoverableText } from './found.js';
import { findArticulations, findKeys, findNoteValues, findOctaves, findRanges } from './find-scale.js';
import { findMemory } from './find-terms.js';
import type { ScaleNoteValue } from '../scale/index.js';
import type { PrintedRange } from './model.js';

/** What one line says of a scale; only what is stated. */
export interface ScaleFields {
  readonly key?: string;
  readonly keys?: readonly string[];
  readonly octaves?: number;
  readonly noteValue?: ScaleNoteValue;
  readonly tempo?: TempoMark;
  readonly range?: PrintedRange;
  readonly articulation?: string;
  readonly memory?: boolean;
}

/** The fields, or what to ask. */
export type ScaleReading =
  ScaleFields | { readonly question: string; readonly candidates: readonly unknown[] };

/**
 * Reads one line that asks for a scale: "B-flat major, two octaves, eighth notes at quarter = 80, slurred".
 * Shape:  only what is stated; two keys on one line come as `keys`
 * Units:  octaves; beats of the unit per minute
 * Errors: none; what cannot be read with confidence is a question
 * Source: docs/formats.md
 */
export function readScalePhrase(text: string): ScaleReading {
  const printed = text.replace(/\s+/gu, ' ').trim();
  const line = new CoverableText(printed, plainSigns(printed));
  const marks = takeTempos(line);
  const tempos = distinctTempos(marks);
  const ranges = line.take((plain) => findRanges(plain, printed));
  const lowest = ranges.length === 0 ? lowestOf(line.plain) : null;
  const keys = [...new Set(line.take(findKeys).flatMap(({ value }) => value.keys))];
  const octaves = line.take(findOctaves).flatMap(({ value }) => value);
  const values = line.take(findNoteValues).map(({ value }) => value);
  const memory = line.take(findMemory)[0]?.value;
  const articulation = line.take((plain) => findArticulations(plain, printed))[0]?.value;
  const [tempo] = tempos;
  const asked =
    (tempos.length > 1 && several(printed, 'tempo', tempos)) ||
    (tempo && questionOfMark(tempo, printed)) ||
    (new Set(octaves).size > 1 && several(printed, 'number of octaves', [...new Set(octaves)])) ||
    (new Set(values).size > 1 &&
      !/\band\b/iu.test(printed) &&
      several(printed, 'note value', [...new Set(values)])) ||
    openKey(printed);
  if (asked) return { question: asked.question, candidates: asked.candidates };
  if (/\bor\b/iu.test(printed) && keys.length > 1) return several(printed, 'key', keys);
  const fields: ScaleFields = {
    ...(keys.length === 1 && { key: present(keys[0]) }),
    ...(keys.length > 1 && { keys }),
    ...(octaves[0] !== undefined && { octaves: octaves[0] }),
    ...(values[0] !== undefined && { noteValue: [...new Set(values)].join(', ') as ScaleNoteValue }),
    ...(tempo && { tempo }),
    ...(ranges[0] && { range: ranges[0].value }),
    ...(lowest !== null && { range: { low: lowest, high: null } }),
    ...(articulation !== undefined && { articulation }),
    ...(memory !== undefined && { memory }),
  };
  if (Object.keys(fields).length > 0) return fields;
  return {
    question: `"${printed.slice(0, 80)}" does not say which scale. Which key, how many octaves, in which notes, how fast?`,
    candidates: [],
  };
}

/**
 * Takes the tempos out of a line about a scale, "at 120" included, which names no note.
 * Shape:  in order
 * Units:  beats of the unit per minute
 */
export function takeTempos(line: CoverableText): TempoMark[] {
  const found = scanTempos(line.plain);
  for (const one of found) line.cover(one);
  if (found.length > 0) return found.map(({ mark }) => mark);
  const bare = line.takeMatch(
    /\bat\s+(?:(?:about|least)\s+)?(\d{2,3})(?!\s*(?:points|p\.?m|a\.?m|%)|[:\d])/iu,
  );
  if (!bare) return [];
  const bpm = Number(bare[1]);
  return [{ beatUnit: null, bpmMin: bpm, bpmMax: bpm, bound: 'exact', words: null }];
}

/** "Chromatic scale from A", "on B♭": where it begins. */
function lowestOf(plain: string): string | null {
  if (!/chrom/iu.test(plain)) return null;
  const match =
    /\b(?:starting\s+on|beginning\s+on|from|on)\s+(?<low>(?:(?:low|middle|concert)\s+)?[A-G](?:[b#]|[- ](?:flat|sharp))?\d?)(?![\p{L}\d])/iu.exec(
      plain,
    );
  return match?.groups?.low ?? null;
}

/** A key that is left to the player, or one in two modes or forms. */
function openKey(
  printed: string,
): { readonly question: string; readonly candidates: readonly unknown[] } | null {
  if (/\bany\s+(?:major|minor)\b/iu.test(printed))
    return {
      question: `"${printed.slice(0, 80)}" leaves the key to the player. Which one is played?`,
      candidates: [],
    };
  if (
    /\bmajor\s+or\s+minor\b|\b(?:harmonic|melodic|natural)\s*(?:\/|or)\s*(?:harmonic|melodic|natural)\b/iu.test(
      printed,
    )
  )
    return {
      question: `"${printed.slice(0, 80)}" names more than one form of the scale. Which one is asked?`,
      candidates: [],
    };
  return null;
}

function several(
  printed: string,
  what: string,
  candidates: readonly unknown[],
): { readonly question: string; readonly candidates: readonly unknown[] } {
  return {
    question: `"${printed.slice(0, 80)}" can be read with more than one ${what}. Which one is asked?`,
    candidates,
  };
}
