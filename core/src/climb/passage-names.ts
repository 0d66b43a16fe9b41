import type { Score, Span } from '../score/index.js';
import type { MusicReading, SoloLine } from '../reading/index.js';
import { valueNameOf } from './value-words.js';

/** What a name is chosen from. */
export interface NamedFrom {
  readonly span: Span;
  readonly reading: MusicReading;
  readonly taken: readonly string[];
  readonly isFirst: boolean;
  readonly isLast: boolean;
  readonly earlier: readonly Span[];
}

/** A value, sign or place names a passage when so large a share of its notes has it (our own knee). */
const MAIN_SHARE = 0.6;

/** One measure alone comes back by chance. */
const FEWEST_SHARED = 2;

/**
 * A name by which a teacher would call the passage: "opening", "return of the opening", "the sixteenths", "close".
 * Shape:  unlike all names taken, lower case; empty where nothing sets it apart but its measures
 * Units:  none
 * Errors: none
 * Source: common practice, no source
 */
export function passageName(score: Score, line: SoloLine, from: NamedFrom): string {
  const candidates = [
    ...(from.isFirst ? ['opening'] : []),
    ...returnNames(score, from),
    ...characterNames(line, from),
    ...markNames(score, from),
    ...(from.isLast ? ['close'] : []),
  ];
  const [first] = candidates;
  if (first === undefined) return '';
  return candidates.find((one) => !from.taken.includes(one)) ?? numbered(first, from.taken);
}

function numbered(name: string, taken: readonly string[]): string {
  for (let n = 2; ; n += 1) {
    const next = `${name}, ${n}`;
    if (!taken.includes(next)) return next;
  }
}

/** The earlier measure that each measure repeats, exactly or nearly. Shape: by measure index. */
export function sourcesOf(
  { measures }: Pick<Score, 'measures'>,
  { nearRepeats, exactRepeats }: MusicReading,
): ReadonlyMap<number, number> {
  const indexOf = new Map(measures.map(({ number }, index) => [number, index]));
  const sources = new Map<number, number>();
  for (const { a, b } of [...nearRepeats, ...exactRepeats]) {
    const [from = [], at = []] = [a, b].map((text) =>
      text.split('-').map((number) => indexOf.get(number) ?? 0),
    );
    const [start = 0, end = start] = at;
    for (let n = 0; n <= end - start; n += 1) sources.set(start + n, (from[0] ?? 0) + n);
  }
  return sources;
}

/** Where most measures of the span come back from earlier passages: the one it takes most from gives the name. */
function returnNames(score: Score, { span, reading, taken, earlier }: NamedFrom): string[] {
  const sources = sourcesOf(score, reading);
  const size = span.endIndex - span.fromIndex;
  const sharedWith = earlier.map(({ fromIndex, endIndex }) => {
    const own = Array.from({ length: size }, (_, n) => sources.get(span.fromIndex + n) ?? -1);
    return own.filter((source) => fromIndex <= source && source < endIndex).length;
  });
  const all = sharedWith.reduce((sum, shared) => sum + shared, 0);
  const most = Math.max(0, ...sharedWith);
  const name = taken[sharedWith.indexOf(most)];
  if (all < FEWEST_SHARED || all * 2 < size || name === undefined || name === '' || name.startsWith('return'))
    return [];
  return [`return of ${name.startsWith('the ') ? '' : 'the '}${name}`];
}

function markNames({ measures }: Score, { span }: NamedFrom): string[] {
  const mark = measures[span.fromIndex]?.rehearsal ?? null;
  return mark === null ? [] : [`letter ${mark}`.replace(/^letter (?=\d)/u, 'figure ')];
}

/** What most of its notes are: their value, their articulation, their register. */
function characterNames(line: SoloLine, { span }: NamedFrom): string[] {
  const notes = line.played.slice(span.fromIndex, span.endIndex).flat();
  const all = line.played.flat();
  if (notes.length === 0) return ['the rests'];
  const shareOf = (own: typeof notes, is: (note: (typeof notes)[number]) => boolean): number =>
    own.filter((note) => is(note)).length / Math.max(1, own.length);
  const found: string[] = [];
  for (const value of ['triplets', 'thirty-seconds', 'sixteenths', 'eighths'] as const) {
    const is = (note: (typeof notes)[number]): boolean => valueNameOf(note) === value;
    if (shareOf(notes, is) >= MAIN_SHARE && shareOf(all, is) < MAIN_SHARE) found.push(`the ${value}`);
  }
  for (const sign of ['staccato', 'tenuto', 'accent'] as const) {
    const is = (note: (typeof notes)[number]): boolean => note.signs.articulations.includes(sign);
    if (shareOf(notes, is) >= MAIN_SHARE && shareOf(all, is) < MAIN_SHARE) found.push(`${sign} passage`);
  }
  const middle = mean(all);
  const own = mean(notes);
  if (own !== null && middle !== null && own - middle >= 4) found.push('high line');
  if (own !== null && middle !== null && middle - own >= 4) found.push('low line');
  const isSlurred = (note: (typeof notes)[number]): boolean =>
    note.isSlurredInto || note.signs.slurStarts > 0;
  if (shareOf(notes, isSlurred) >= MAIN_SHARE && shareOf(all, isSlurred) < MAIN_SHARE)
    found.push('slurred line');
  return found;
}

function mean(notes: readonly { readonly midi: number | null }[]): number | null {
  const known = notes.flatMap(({ midi }) => (midi === null ? [] : [midi]));
  return known.length === 0 ? null : known.reduce((sum, one) => sum + one, 0) / known.length;
}
