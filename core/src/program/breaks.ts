import { tempoText, unitGlyph, type TempoMark } from '../music/index.js';
import type { Deadline, SheetChangeNotice, SheetPart } from '../sheet/model.js';

/** A part of a revision: its own key stays the same from revision to revision. */
export interface RevisedPart {
  readonly originId: string;
  readonly part: SheetPart;
}

/** Two revisions laid side by side. */
export interface RevisionDifference {
  readonly changes: readonly (SheetChangeNotice & { readonly originId: string | null })[];
  readonly added: readonly string[];
  readonly removed: readonly string[];
}

const FIELDS: readonly (keyof SheetPart)[] = [
  ...([
    'label',
    'kind',
    'title',
    'measures',
    'tempo',
    'key',
    'octaves',
    'noteValue',
    'range',
    'articulation',
  ] as const),
  ...(['memory', 'repeats', 'accompaniment', 'maxSeconds', 'minSeconds', 'points'] as const),
];
const SOURCE_FIELDS = ['composer', 'book', 'number', 'page', 'edition'] as const;

/**
 * What differs between two revisions, field by field.
 * Shape:  parts are matched by their origin, dates by what they are for
 */
export function diffRevisions(
  before: { readonly parts: readonly RevisedPart[]; readonly deadlines: readonly Deadline[] },
  after: { readonly parts: readonly RevisedPart[]; readonly deadlines: readonly Deadline[] },
): RevisionDifference {
  const known = new Map(before.parts.map((revised) => [revised.originId, revised.part]));
  const changes = after.parts.flatMap(({ originId, part }) => {
    const old = known.get(originId);
    return old ? partChanges(old, part).map((change) => ({ ...change, originId })) : [];
  });
  const stays = new Set(after.parts.map(({ originId }) => originId));
  return {
    changes: [...changes, ...dateChanges(before.deadlines, after.deadlines)],
    added: after.parts.filter(({ originId }) => !known.has(originId)).map(({ part }) => part.label),
    removed: before.parts.filter(({ originId }) => !stays.has(originId)).map(({ part }) => part.label),
  };
}

function partChanges(old: SheetPart, part: SheetPart): SheetChangeNotice[] {
  const isSame = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
  return [
    ...FIELDS.filter((field) => !isSame(old[field], part[field])).map((field) => ({
      part: part.label,
      field,
      old: old[field],
      new: part[field],
    })),
    ...SOURCE_FIELDS.filter((field) => old.source[field] !== part.source[field]).map((field) => ({
      part: part.label,
      field,
      old: old.source[field],
      new: part.source[field],
    })),
  ];
}

function dateChanges(before: readonly Deadline[], after: readonly Deadline[]): RevisionDifference['changes'] {
  return after.flatMap((deadline) => {
    const old = before.find(({ what }) => what === deadline.what);
    return (['date', 'time'] as const)
      .filter((field) => (old?.[field] ?? null) !== deadline[field])
      .map((field) => ({
        part: `deadlines[${deadline.what}]`,
        field,
        old: old?.[field] ?? null,
        new: deadline[field],
        originId: null,
      }));
  });
}

/** A tempo mark in one line: "♩=88–96", "at least ♩=60", "Vivace". */
export function markText({ beatUnit, bpmMin, bpmMax, bound, words }: TempoMark): string {
  const low = bpmMin ?? bpmMax;
  if (low === null) return words ?? (bound === 'none' ? 'no tempo' : '');
  const unit = beatUnit === null ? '?=' : `${unitGlyph(beatUnit)}=`;
  const number = beatUnit === null ? `${unit}${low}` : tempoText(low, beatUnit);
  const text =
    {
      min: `at least ${number}`,
      max: `at most ${number}`,
      about: `about ${number}`,
      range: `${number}–${bpmMax}`,
    }[bound as string] ?? number;
  return words === null ? text : `${words}, ${text}`;
}

/** A passage as the moving of a program needs it. Shape: half-open measure indexes. */
export interface TrackedPassage {
  readonly name: string;
  readonly fromIndex: number;
  readonly endIndex: number;
}

/**
 * What a new revision breaks in one part of one student's preparation.
 * Shape:  one sentence each; empty where nothing breaks
 * Units:  measure indexes, half-open; beats of the unit per minute
 */
export function breaksOf({
  before,
  after,
  spanText,
  passages,
  tempo,
}: {
  readonly before: { readonly fromIndex: number; readonly endIndex: number } | null;
  readonly after: { readonly fromIndex: number; readonly endIndex: number } | null;
  /** First and last measure index, both included, in words. */
  readonly spanText: (first: number, last: number) => string;
  readonly passages: readonly TrackedPassage[];
  readonly tempo: { readonly old: TempoMark; readonly now: TempoMark; readonly ownTarget: boolean } | null;
}): string[] {
  const found: string[] = [];
  if (before && after) {
    if (after.fromIndex < before.fromIndex)
      found.push(grown(spanText, after.fromIndex, Math.min(before.fromIndex, after.endIndex), passages));
    if (after.endIndex > before.endIndex)
      found.push(grown(spanText, Math.max(before.endIndex, after.fromIndex), after.endIndex, passages));
    const outside = passages.filter(
      ({ fromIndex, endIndex }) => fromIndex < after.fromIndex || endIndex > after.endIndex,
    );
    if (outside.length > 0)
      found.push(
        `${outside.map(({ name }) => name).join(', ')} ${outside.length === 1 ? 'is' : 'are'} no longer inside what is asked.`,
      );
  }
  if (tempo && JSON.stringify(tempo.old) !== JSON.stringify(tempo.now))
    found.push(
      `The tempo moves from ${markText(tempo.old)} to ${markText(tempo.now)}${tempo.ownTarget ? '; the student’s own target stays' : '; the target moves along'}.`,
    );
  return found;
}

function grown(
  spanText: (first: number, last: number) => string,
  from: number,
  end: number,
  passages: readonly TrackedPassage[],
): string {
  const bare = Array.from({ length: end - from }, (_, n) => from + n).filter(
    (index) => !passages.some(({ fromIndex, endIndex }) => index >= fromIndex && index < endIndex),
  ).length;
  const isOne = end - from === 1;
  const cover =
    bare === 0
      ? 'passages cover them already'
      : bare === end - from
        ? `no passage covers ${isOne ? 'it' : 'them'}`
        : `no passage covers ${bare} of them`;
  return `${spanText(from, end - 1)} ${isOne ? 'is' : 'are'} new: ${cover}.`;
}
