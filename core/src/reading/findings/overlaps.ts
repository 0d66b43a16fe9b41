import type { FindingKind, RawFinding } from './finding.js';

/** A finding that another one already says. Shape: `by` says it, where `is` holds for the two. */
export interface Overlap {
  readonly drops: FindingKind;
  readonly by: FindingKind;
  readonly is: (dropped: RawFinding, says: RawFinding) => boolean;
  readonly why: string;
}

const isWithin = (dropped: RawFinding, says: RawFinding): boolean =>
  dropped.places.length > 0 && dropped.places.every((place) => says.places.includes(place));
const sharesNote = (dropped: RawFinding, says: RawFinding): boolean =>
  dropped.notes.some(({ index, note }) => says.notes.some((one) => one.index === index && one.note === note));
/** In a measure of the other or the next one. */
const follows = (dropped: RawFinding, says: RawFinding): boolean =>
  dropped.places.every((place) => says.places.includes(place) || says.places.includes(place - 1));
const letterOf = ({ detail }: RawFinding): string => /[A-G]/u.exec(detail)?.[0] ?? '';

/** Each fact once: which finding gives way to which (our own choice, common practice). */
export const OVERLAPS: readonly Overlap[] = [
  {
    drops: 'surprise',
    by: 'off-key',
    is: follows,
    why: 'the passage that leaves the key names all its signs, and what follows is the key again',
  },
  { drops: 'rare-note', by: 'off-key', is: isWithin, why: 'the passage names it with the others' },
  {
    drops: 'surprise',
    by: 'rare-note',
    is: (dropped, says) => letterOf(dropped) === letterOf(says) && follows(dropped, says),
    why: 'a note that stands once is natural before and after',
  },
  { drops: 'odd-one-out', by: 'return', is: sharesNote, why: 'the return says what is other in it' },
  { drops: 'tie', by: 'meter', is: isWithin, why: 'a hemiola is held over its bar line' },
  { drops: 'meter', by: 'fast-run', is: isWithin, why: 'the irregular group is the unequal one' },
  { drops: 'feel', by: 'change', is: isWithin, why: 'the change says which beat to feel' },
  { drops: 'held', by: 'tempo', is: isWithin, why: 'a hold lasts as long as it is held' },
  { drops: 'run', by: 'off-key', is: isWithin, why: 'the passage names the scale' },
];

/** The findings without those that others say. Shape: in their order. */
export function withoutOverlaps(all: readonly RawFinding[]): RawFinding[] {
  return all.filter(
    (one) =>
      !OVERLAPS.some(
        ({ drops, by, is }) => one.kind === drops && all.some((other) => other.kind === by && is(one, other)),
      ),
  );
}
