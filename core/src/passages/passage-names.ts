import { letterName, withSigns, type Semitones } from '../music/index.js';
import {
  isWritten,
  sourcesOf,
  type LineNote,
  type MusicReading,
  type SoloLine,
  type WrittenNote,
} from '../reading/index.js';
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
/** What a level is called. */
const LEVELS: Readonly<Record<string, string>> = {
  pp: 'pianissimo',
  p: 'piano',
  mp: 'mezzo-piano',
  mf: 'mezzo-forte',
  f: 'forte',
  ff: 'fortissimo',
};
const SLURRED = ({ isSlurredInto, signs }: LineNote): boolean => isSlurredInto || signs.slurStarts > 0;

/**
 * Gives passages the names by which a teacher would call them: "opening", "return of the opening", "the sixteenths",
 * "close". Passages are named in the order of the music.
 * Shape:  a name is lower case and unlike those given before; empty only where nothing is known of a passage but its
 *         measures
 * Source: common practice, no source
 */
export class PassageNamer {
  private readonly sources: ReadonlyMap<number, number>;
  private readonly usual: ReadonlySet<string>;
  private readonly middle: number | null;
  private readonly taken = new Set<string>();
  private readonly highest: number;
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
    this.highest = Math.max(...all.map(({ midi }) => midi ?? -Infinity));
  }

  name(span: Span, { isFirst, isLast }: { readonly isFirst: boolean; readonly isLast: boolean }): string {
    const candidates = [
      ...(isFirst ? ['opening'] : []),
      ...this.returnName(span),
      ...this.characterNames(span),
      ...this.markName(span),
      ...(isLast ? ['close'] : []),
      ...this.placeNames(span),
    ];
    const name = candidates.find((one) => !this.taken.has(one)) ?? '';
    if (name !== '') this.taken.add(name);
    for (let index = span.fromIndex; index < span.endIndex; index += 1) this.owners.set(index, name);
    return name;
  }

  /** By what happens in it: the highest note, a rest before it, a new key, the level at which it begins, where it goes. */
  private placeNames({ fromIndex, endIndex }: Span): string[] {
    const { measures, marks } = this.score;
    const notes = this.line.played.slice(fromIndex, endIndex).flat();
    const written = notes.filter(isWritten);
    const [first, last] = [written[0], written.at(-1)];
    const top = written.reduce<WrittenNote | null>((a, b) => (a && a.midi >= b.midi ? a : b), null);
    const value = charactersOf(notes).find((name) => name.startsWith('the '));
    const isAfterRest =
      notes[0] !== undefined &&
      this.line.rests.some((rest) => Math.abs(rest.start + rest.length - (notes[0]?.start ?? 0)) < 1e-6);
    const [here, before] = [measures[fromIndex], measures[fromIndex - 1]];
    const level = marks.dynamics.find(({ measureIndex }) => measureIndex === fromIndex)?.mark ?? '';
    const letter = (note: WrittenNote): string => withSigns(letterName(note.written));
    return [
      ...(top && top.midi === this.highest && notes.length > 1 ? [`the climb to ${letter(top)}`] : []),
      ...(isAfterRest ? [value ? `${value.slice(4)} after the rest` : 'after the rest'] : []),
      ...(here && before && here.fifths !== before.fifths ? ['in the new key'] : []),
      ...(LEVELS[level] ? [`the ${LEVELS[level]}`] : []),
      ...(top && last && top !== last && top.midi - last.midi >= FAR_SEMITONES
        ? [`down to ${letter(last)}`]
        : []),
      ...(first && top && top !== first && top.midi - first.midi >= FAR_SEMITONES
        ? [`up to ${letter(top)}`]
        : []),
      ...(first && last ? [`from ${letter(first)} to ${letter(last)}`] : []),
    ];
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
    // A name that stands for itself comes back as one.
    return /^(?:opening|close|the |letter|figure|[a-z]+ (?:line|passage)$)/u.test(name)
      ? [`return of ${name.startsWith('the ') ? '' : 'the '}${name}`, ...this.likeName(fromIndex, endIndex)]
      : this.likeName(fromIndex, endIndex);
  }

  /** "like 1–4": what it comes back to, measure by measure. */
  private likeName(fromIndex: number, endIndex: number): string[] {
    const sources = Array.from({ length: endIndex - fromIndex }, (_, n) =>
      this.sources.get(fromIndex + n),
    ).filter((one) => one !== undefined);
    const [first, last] = [sources[0], sources.at(-1)];
    if (first === undefined || last === undefined) return [];
    const number = (index: number): string => this.score.measures[index]?.number ?? '';
    return [first === last ? `like ${number(first)}` : `like ${number(first)}–${number(last)}`];
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
