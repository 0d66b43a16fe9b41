import { hashText } from '../../base/index.js';
import { hasKnownNotes, indexesOf, measureIndexes, type Score, type Span } from '../../score/index.js';
import { articulationOf } from '../line/articulation.js';
import { FINDERS } from './finders.js';
import type { Finding, FindingKind, RawFinding } from './finding.js';
import { readOrnamentRule } from './ornament-rules.js';
import { withoutOverlaps } from './overlaps.js';
import { clipScore } from '../line/clip.js';
import type { MusicReading } from '../read-music.js';
import { soloLine, type SoloLine } from '../line/solo-line.js';

/**
 * What findings are made from.
 * Shape:  `ornamentRules` are sentences of the sheet; `asked` what is asked, as the reading was told, none for all
 */
export interface FindingsOptions {
  readonly reading: MusicReading;
  readonly ornamentRules?: readonly string[];
  readonly asked?: readonly Span[];
}

/**
 * Turns a reading into findings, the most important first, each fact once.
 * Shape:  equal importance in the order of the music; of measures whose notes are unknown nothing is claimed, nor of the
 *         whole piece where there are such
 */
export function findingsOf(score: Score, line: SoloLine, options: FindingsOptions): Finding[] {
  const prints = measurePrints(score, line);
  const taken = new Map<string, number>();
  return withoutOverlaps(allFindings(score, line, options))
    .map((raw, n) => ({ raw, n }))
    .sort((a, b) => b.raw.importance - a.raw.importance || firstOf(a.raw) - firstOf(b.raw) || a.n - b.n)
    .map(({ raw }) => {
      const { detail, ...shown } = raw;
      const key = `${raw.kind}:${hashText([detail, ...keyPlaces(raw).map((index) => prints[index] ?? '')].join('\n'))}`;
      const count = taken.get(key) ?? 0;
      taken.set(key, count + 1);
      return { ...shown, key, id: count === 0 ? key : `${key}~${count}` };
    });
}

/** All that could be told, also what another finding says; in the order of the finders. */
export function allFindings(
  score: Score,
  line: SoloLine,
  { reading, ornamentRules = [], asked = [] }: FindingsOptions,
): RawFinding[] {
  const indexes = measureIndexes(score.measures);
  const clipped = clipScore(score, asked);
  const from = {
    ...reading,
    asked,
    score: clipped,
    line: clipped === score ? line : soloLine(clipped),
    indexOf: (number: string) => indexes.get(number) ?? 0,
    ornamentRules: ornamentRules.map((text) => readOrnamentRule(text)),
  };
  return FINDERS.flatMap((find) => find(from)).filter(isKnown(score));
}

/** What meter and tempo tell, and what compares measures that are known. */
const WITHOUT_NOTES: ReadonlySet<FindingKind> = new Set(['meter', 'feel', 'deciding', 'change', 'tempo']);
/** What is said of a measure beside all others. */
const OF_THE_WHOLE: ReadonlySet<FindingKind> = new Set(['rare-note', 'dynamics', 'shows', 'range', 'breath']);

function isKnown({ measures }: Score): (finding: RawFinding) => boolean {
  const unknown = new Set(measures.filter((measure) => !hasKnownNotes(measure)).map(({ index }) => index));
  if (unknown.size === 0) return () => true;
  return ({ kind, places }) =>
    WITHOUT_NOTES.has(kind) ||
    (!OF_THE_WHOLE.has(kind) && places.length > 0 && !places.some((index) => unknown.has(index)));
}

/** A mark that an instructor set on a finding. Shape: `measure` is the printed number it stood at. */
export interface FindingMark {
  readonly key: string;
  readonly measure: string;
}

/**
 * Which mark belongs to which finding: the same thing in the same measures, though a corrected file may number them
 * otherwise. Of several alike the one with the same number is meant, then the next.
 * Shape:  by the finding's id; marks whose finding is gone are in none
 */
export function matchMarks<M extends FindingMark>(
  findings: readonly Finding[],
  marks: readonly M[],
  numberOf: (index: number) => string,
): ReadonlyMap<string, M> {
  const matched = new Map<string, M>();
  const free = new Set(marks);
  const take = (fits: (finding: Finding, mark: M) => boolean): void => {
    for (const finding of findings) {
      if (matched.has(finding.id)) continue;
      for (const mark of free) {
        if (mark.key !== finding.key || !fits(finding, mark)) continue;
        matched.set(finding.id, mark);
        free.delete(mark);
        break;
      }
    }
  };
  take((finding, mark) => numberOf(finding.places[0] ?? 0) === mark.measure);
  take(() => true);
  return matched;
}

function firstOf({ places }: RawFinding): number {
  return places[0] ?? -1;
}

/** What is the same finding as long as it says the same. */
const BY_TEXT: ReadonlySet<FindingKind> = new Set([
  'rhythm',
  'run',
  'shows',
  'dynamics',
  'feel',
  'change',
  'tempo',
  'breath',
  'range',
  'technique',
]);

/** The measures whose music decides whether a finding is still the same: of a rhythm or a scale, the text does. */
function keyPlaces({ kind, places, pair }: RawFinding): readonly number[] {
  if (BY_TEXT.has(kind)) return [];
  if (!pair) return places;
  return indexesOf([pair.a, pair.b]);
}

/**
 * The music of each measure as one short mark: pitches, places, lengths, articulation.
 * Shape:  16 hexadecimal digits a measure, equal for equal music
 */
export function measurePrints({ measures }: Pick<Score, 'measures'>, line: SoloLine): string[] {
  return measures.map(({ length }, index) =>
    hashText(
      [
        `${length.num}/${length.den}`,
        ...(line.byMeasure[index] ?? []).map((note) =>
          [
            note.midi ?? 'x',
            `${note.onset.num}/${note.onset.den}`,
            note.length.toFixed(4),
            articulationOf(note),
          ].join(' '),
        ),
      ].join('|'),
    ),
  );
}
