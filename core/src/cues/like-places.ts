import type { SoloLine } from '../reading/index.js';
import type { Span } from '../score/index.js';
import type { CueKind } from '../cue-kinds/index.js';

/** The notes of a piece, each as a mark of what is played. Shape: by measure index, in the order of their ordinals */
export type NoteFigures = readonly (readonly string[])[];

/** Where a cue stands. Shape: half-open measure indexes; `note` from 1 in the first of them, null for the measures */
export interface CuePlace extends Span {
  readonly note: number | null;
}

/** A cue as far as two of them are compared. */
export interface SignedCue extends CuePlace {
  readonly kind: CueKind;
  readonly sign: string;
}

/** The same notes with different signs of one kind. Shape: at least two places, in the order of the music */
export interface TwoWays<Cue extends SignedCue> {
  readonly kind: CueKind;
  readonly cues: readonly Cue[];
}

/** So many notes on either side must be the same too (our own knee: a turn and its way out). */
const REACH = 3;
/** A figure of fewer pitches than this comes everywhere and says nothing (our own knee). */
const LEAST_PITCHES = 3;

/** The notes of a line as marks: pitch, length, whether it is slurred into. */
export function noteFigures({ played }: Pick<SoloLine, 'played'>): NoteFigures {
  return played.map((notes) =>
    notes.map(({ midi, length, isSlurredInto }) =>
      [midi ?? 'x', length.toFixed(3), isSlurredInto ? 's' : 't'].join(' '),
    ),
  );
}

/**
 * Where the same notes come again: a cue is copied there.
 * Shape:  without the cue's own place; a note is like another in a measure of the same notes, or with the same three notes
 *         on either side; measures are like others with the same notes
 */
export function likePlaces(figures: NoteFigures, place: CuePlace): CuePlace[] {
  const { fromIndex, endIndex, note } = place;
  if (note === null) {
    const own = wholeOf(figures, fromIndex, endIndex);
    return figures.flatMap((_, at) => {
      const span = { fromIndex: at, endIndex: at + endIndex - fromIndex, note: null };
      const isOther = at >= endIndex || span.endIndex <= fromIndex;
      return own !== null && isOther && wholeOf(figures, at, span.endIndex) === own ? [span] : [];
    });
  }
  const own = keysOf(figures, fromIndex, note);
  return figures.flatMap((notes, at) =>
    notes.flatMap((_, n) => {
      const isOwn = at === fromIndex && n + 1 === note;
      const isLike = !isOwn && keysOf(figures, at, n + 1).some((key) => own.includes(key));
      return isLike ? [{ fromIndex: at, endIndex: at + 1, note: n + 1 }] : [];
    }),
  );
}

/**
 * Cues that say one thing at some notes and another where the same notes come again.
 * Shape:  one entry for each set of like notes; cues without a sign or a note say too little to disagree
 */
export function cuedTwoWays<Cue extends SignedCue>(
  figures: NoteFigures,
  cues: readonly Cue[],
): TwoWays<Cue>[] {
  const signed = cues
    .filter(({ sign, note }) => sign !== '' && note !== null)
    .sort((a, b) => a.fromIndex - b.fromIndex || (a.note ?? 0) - (b.note ?? 0));
  const done = new Set<Cue>();
  return signed.flatMap((cue) => {
    if (done.has(cue)) return [];
    const own = keysOf(figures, cue.fromIndex, cue.note ?? 0);
    const alike = signed.filter(
      (one) =>
        one.kind === cue.kind &&
        keysOf(figures, one.fromIndex, one.note ?? 0).some((key) => own.includes(key)),
    );
    for (const one of alike) done.add(one);
    return new Set(alike.map(({ sign }) => sign)).size > 1 ? [{ kind: cue.kind, cues: alike }] : [];
  });
}

/** All notes of some measures as one text. Shape: null where there is none, or where the piece ends before */
function wholeOf(figures: NoteFigures, fromIndex: number, endIndex: number): string | null {
  const own = figures.slice(fromIndex, endIndex);
  return own.length < endIndex - fromIndex || own.flat().length === 0
    ? null
    : own.map((notes) => notes.join()).join('|');
}

/** What a note is known by: its place in a measure of such notes, and the notes around it where they tell enough. */
function keysOf(figures: NoteFigures, index: number, note: number): string[] {
  const own = figures[index];
  if (own?.[note - 1] === undefined) return [];
  const around: string[] = [];
  for (let step = -REACH; step <= REACH; step += 1) around.push(noteAt(figures, index, note - 1 + step));
  const pitches = new Set(around.flatMap((mark) => (mark === '' ? [] : mark.split(' ')[0])));
  const inMeasure = `measure ${note} ${own.join()}`;
  return pitches.size < LEAST_PITCHES || pitches.has('x') ? [inMeasure] : [inMeasure, around.join()];
}

/** A note counted from the beginning of a measure, over bar lines to either side. Shape: "" beyond the piece */
function noteAt(figures: NoteFigures, index: number, n: number): string {
  let [at, left] = [index, n];
  while (left < 0 && at > 0) {
    at -= 1;
    left += figures[at]?.length ?? 0;
  }
  for (let own = figures[at]; own && left >= own.length; own = figures[at]) {
    left -= own.length;
    at += 1;
  }
  return figures[at]?.[left] ?? '';
}
