import { markText, type TempoMark } from '../music/index.js';
import { indexesOf, inSpan, runsOf, type Span } from '../score/index.js';
import {
  fieldOf,
  isSameField,
  PART_FIELDS,
  partName,
  type Deadline,
  type SheetChangeNotice,
  type SheetPart,
} from '../sheet/index.js';

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
    added: after.parts
      .filter(({ originId }) => !known.has(originId))
      .map(({ part }) =>
        partName(
          part,
          after.parts.map((one) => one.part),
        ),
      ),
    removed: before.parts
      .filter(({ originId }) => !stays.has(originId))
      .map(({ part }) =>
        partName(
          part,
          before.parts.map((one) => one.part),
        ),
      ),
  };
}

function partChanges(old: SheetPart, part: SheetPart): SheetChangeNotice[] {
  return PART_FIELDS.filter(
    (field) => !isSameField(field, fieldOf(old, field.name), fieldOf(part, field.name)),
  ).map(({ name }) => ({
    partId: part.id,
    part: part.label,
    field: name,
    old: fieldOf(old, name),
    new: fieldOf(part, name),
  }));
}

function dateChanges(before: readonly Deadline[], after: readonly Deadline[]): RevisionDifference['changes'] {
  return after.flatMap((deadline) => {
    const old = before.find(({ what }) => what === deadline.what);
    return (['date', 'time'] as const)
      .filter((field) => (old?.[field] ?? null) !== deadline[field])
      .map((field) => ({
        partId: null,
        part: `deadlines[${deadline.what}]`,
        field,
        old: old?.[field] ?? null,
        new: deadline[field],
        originId: null,
      }));
  });
}

/** A passage as the moving of a program needs it. */
export interface TrackedPassage extends Span {
  readonly name: string;
}

/** What a new revision may break in one part of one student's preparation. */
export interface PartMove {
  /** The runs asked before and now; null where the score does not hold them. */
  readonly before: readonly Span[] | null;
  readonly after: readonly Span[] | null;
  /** First and last measure index, both included, in words. */
  readonly spanText: (first: number, last: number) => string;
  readonly passages: readonly TrackedPassage[];
  readonly tempo: { readonly old: TempoMark; readonly now: TempoMark; readonly ownTarget: boolean } | null;
}

/**
 * What a new revision breaks in one part of one student's preparation.
 * Shape:  one sentence each; empty where nothing breaks
 * Units:  measure indexes, half-open; beats of the unit per minute
 */
export function breaksOf({ before, after, spanText, passages, tempo }: PartMove): string[] {
  const found: string[] = [];
  if (before && after) {
    const known = new Set(indexesOf(before));
    const asked = new Set(indexesOf(after));
    const fresh = [...asked].filter((index) => !known.has(index)).sort((a, b) => a - b);
    for (const run of runsOf(fresh)) found.push(grown(spanText, run, passages));
    const outside = passages.filter((passage) => indexesOf([passage]).some((index) => !asked.has(index)));
    if (outside.length > 0)
      found.push(
        `${outside.map(({ name }) => name).join(', ')} ${outside.length === 1 ? 'is' : 'are'} no longer inside what is asked.`,
      );
  }
  if (tempo && JSON.stringify(tempo.old) !== JSON.stringify(tempo.now))
    found.push(
      `The tempo moves from ${tempoName(tempo.old)} to ${tempoName(tempo.now)}${tempo.ownTarget ? '; the student’s own target stays' : '; the target moves along'}.`,
    );
  return found;
}

function tempoName(mark: TempoMark): string {
  return markText(mark) || 'no tempo';
}

function grown(
  spanText: (first: number, last: number) => string,
  { fromIndex, endIndex }: Span,
  passages: readonly TrackedPassage[],
): string {
  const length = endIndex - fromIndex;
  const bare = indexesOf([{ fromIndex, endIndex }]).filter(
    (index) => !passages.some((passage) => inSpan(passage, index)),
  ).length;
  const isOne = length === 1;
  const cover =
    bare === 0
      ? 'passages cover them already'
      : bare === length
        ? `no passage covers ${isOne ? 'it' : 'them'}`
        : `no passage covers ${bare} of them`;
  return `${spanText(fromIndex, endIndex - 1)} ${isOne ? 'is' : 'are'} new: ${cover}.`;
}
