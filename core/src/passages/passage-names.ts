import type { Semitones } from '../music/index.js';
import { sourcesOf, type LineNote, type MusicReading, type SoloLine } from '../reading/index.js';
import { toldValueWords } from '../paper/index.js';
import { hasKnownNotes, type Score, type Span } from '../score/index.js';
import { valueNameOf } from './value-words.js';

/** A value, sign or place names a passage when so large a share of its notes has it (our own knee). */
const MAIN_SHARE = 0.6;

/** One measure alone comes back by chance. */
const FEWEST_SHARED = 2;

/** A line this much above or below the whole is called high or low. Units: semitones (our own knee). */
const FAR_SEMITONES = 4;

/** What can set a passage apart from the whole, with its name; the first that fits is taken. */
const CHARACTERS: readonly (readonly [name: string, is: (note: LineNote) => boolean])[] = [
  ...['triplets', 'thirty-seconds', 'sixteenths', 'eighths'].map(
    (value) => [`the ${value}`, (note: LineNote) => valueNameOf(note) === value] as const,
  ),
  ...['staccato', 'tenuto', 'accent'].map(
    (sign) => [`${sign} passage`, ({ signs }: LineNote) => signs.articulations.includes(sign)] as const,
  ),
];
const SLURRED = ({ isSlurredInto, signs }: LineNote): boolean => isSlurredInto || signs.slurStarts > 0;

/**
 * Gives passages the names by which a teacher would call them: "opening", "return of the opening", "the sixteenths",
 * "close". Passages are named in the order of the music.
 * Shape:  a name is lower case and unlike those given before; empty where nothing sets a passage apart but its measures
 * Source: common practice, no source
 */
export class PassageNamer {
  private readonly sources: ReadonlyMap<number, number>;
  private readonly usual: ReadonlySet<string>;
  private readonly middle: number | null;
  private readonly taken = new Map<string, number>();
  /** The name of the passage in which each measure lies. */
  private readonly owners = new Map<number, string>();

  constructor(
    private readonly score: Score,
    private readonly line: SoloLine,
    reading: MusicReading,
  ) {
    const all = line.played.flat();
    this.sources = sourcesOf(score, reading);
    this.usual = new Set(charactersOf(all));
    this.middle = mean(all);
  }

  name(span: Span, { isFirst, isLast }: { readonly isFirst: boolean; readonly isLast: boolean }): string {
    const candidates = [
      ...(isFirst ? ['opening'] : []),
      ...this.returnName(span),
      ...this.characterNames(span),
      ...this.markName(span),
      ...(isLast ? ['close'] : []),
    ];
    const name = candidates.find((one) => !this.taken.has(one)) ?? this.numbered(candidates[0] ?? '');
    if (name !== '') this.taken.set(name, 1);
    for (let index = span.fromIndex; index < span.endIndex; index += 1) this.owners.set(index, name);
    return name;
  }

  private numbered(name: string): string {
    if (name === '') return '';
    const count = (this.taken.get(name) ?? 1) + 1;
    this.taken.set(name, count);
    return `${name}, ${count}`;
  }

  /** Where most measures come back from earlier passages: the one that gives most gives the name. */
  private returnName({ fromIndex, endIndex }: Span): string[] {
    const shares = new Map<string, number>();
    let all = 0;
    for (let index = fromIndex; index < endIndex; index += 1) {
      const owner = this.owners.get(this.sources.get(index) ?? -1);
      if (owner === undefined) continue;
      all += 1;
      shares.set(owner, (shares.get(owner) ?? 0) + 1);
    }
    const [name = ''] = [...shares].sort((a, b) => b[1] - a[1])[0] ?? [];
    if (all < FEWEST_SHARED || all * 2 < endIndex - fromIndex || name === '' || name.startsWith('return'))
      return [];
    return [`return of ${name.startsWith('the ') ? '' : 'the '}${name}`];
  }

  private markName({ fromIndex }: Span): string[] {
    const mark = this.score.measures[fromIndex]?.rehearsal ?? null;
    return mark === null ? [] : [/^\d/u.test(mark) ? `figure ${mark}` : `letter ${mark}`];
  }

  /** What most of its notes are and most of the whole are not: value, articulation, register. */
  private characterNames({ fromIndex, endIndex }: Span): string[] {
    const notes = this.line.played.slice(fromIndex, endIndex).flat();
    const measures = this.score.measures.slice(fromIndex, endIndex);
    if (notes.length === 0 && !measures.every(hasKnownNotes)) return toldCharacters(measures);
    if (notes.length === 0) return ['the rests'];
    const own = charactersOf(notes).filter((name) => !this.usual.has(name));
    const [middle, height] = [this.middle, mean(notes)];
    if (middle === null || height === null || Math.abs(height - middle) < FAR_SEMITONES) return own;
    return [...own, height > middle ? 'high line' : 'low line'];
  }
}

/** What was told of measures whose notes are unknown. */
function toldCharacters(measures: Score['measures']): string[] {
  // Quarters set no passage apart.
  const values = measures.flatMap(({ toldNotes }) =>
    toldNotes === 1 ? [] : (toldValueWords(toldNotes) ?? []),
  );
  const [value] = values;
  return value !== undefined && values.length >= MAIN_SHARE * measures.length ? [`the ${value}`] : [];
}

function charactersOf(notes: readonly LineNote[]): string[] {
  const most = ([, is]: (typeof CHARACTERS)[number]): boolean =>
    notes.filter((note) => is(note)).length >= MAIN_SHARE * notes.length;
  return [...CHARACTERS, ['slurred line', SLURRED] as const].filter((one) => most(one)).map(([name]) => name);
}

function mean(notes: readonly { readonly midi: Semitones | null }[]): number | null {
  const known = notes.flatMap(({ midi }) => (midi === null ? [] : [midi]));
  return known.length === 0 ? null : known.reduce((sum, one) => sum + one, 0) / known.length;
}
