import {
  addQuarters,
  COMMON_TIME,
  compareQuarters,
  laterOf,
  measureLength,
  quarters,
  subtractQuarters,
  ZERO,
  type Meter,
  type Quarters,
} from '../music/index.js';
import { applyAttributes, freshAttributes, readDuration, type PartAttributes } from './attributes-reader.js';
import {
  marksAtNote,
  marksIn,
  type DirectionMarks,
  type DynamicMark,
  type HairpinEnd,
} from './direction-marks.js';
import { printedOffset, signsIn, soundingOffset, tempoIn } from './direction-reader.js';
import { ScoreStop } from './issues.js';
import { SCORE_LIMITS } from './limits.js';
import type { ScoreNote, UnplayedNote } from './model.js';
import type { NavigationMap } from './navigation.js';
import { badTiming } from './number-text.js';
import { readNote } from './note-reader.js';
import type { TempoEvent } from './tempo-map.js';
import { child, childrenNamed, childText, type XmlNode } from './xml.js';

/** A measure as it stands in one part, before its place in the whole is known. */
export interface PartMeasure {
  readonly number: string;
  readonly implicit: boolean;
  readonly meter: Meter;
  readonly meterStated: boolean;
  readonly fifths: number;
  readonly length: Quarters;
  readonly rehearsal: string | null;
  readonly endsInDoubleBar: boolean;
  readonly clef: string | null;
}

/** Reads the measures of one part in document order. Errors: ScoreStop with score-timing or score-hostile. */
export class PartReader {
  readonly measures: PartMeasure[] = [];
  readonly notes: ScoreNote[] = [];
  readonly unplayed: UnplayedNote[] = [];
  readonly tempos: TempoEvent[] = [];
  private readonly dynamics: DynamicMark[] = [];
  private readonly hairpins: HairpinEnd[] = [];
  private readonly words: DirectionMarks['words'][number][] = [];
  private readonly attributes: PartAttributes = freshAttributes();
  private number = '';
  private implicit = false;
  private cursor: Quarters = ZERO;
  private lastOnset: Quarters = ZERO;
  private reached: Quarters = ZERO;
  private rehearsal: string | null = null;
  private endsInDoubleBar = false;

  constructor(
    readonly id: string,
    private readonly navigation: NavigationMap,
  ) {}

  /** Dynamics, hairpins and words, in the order of the music. */
  get marks(): DirectionMarks {
    return {
      dynamics: this.dynamics.toSorted(byPlace),
      hairpins: this.hairpins.toSorted(byPlace),
      words: this.words.toSorted(byPlace),
    };
  }

  /** The transposition of the first note: for most solo parts the only one. */
  get transposition(): PartAttributes['transposition'] {
    return this.notes[0]?.transposition ?? this.attributes.transposition;
  }

  /** Source: MusicXML 4.0, element measure. */
  startMeasure(attributes: Readonly<Record<string, string>>): void {
    if (this.measures.length >= SCORE_LIMITS.measures) {
      throw new ScoreStop(
        'score-hostile',
        '',
        `The file holds over ${SCORE_LIMITS.measures} measures, so it was not opened.`,
      );
    }
    this.number = (attributes['number'] ?? '').trim().slice(0, 16) || String(this.measures.length + 1);
    this.implicit = attributes['implicit'] === 'yes';
    this.cursor = ZERO;
    this.lastOnset = ZERO;
    this.reached = ZERO;
    this.rehearsal = null;
    this.endsInDoubleBar = false;
  }

  /** Takes one child of the measure; elements it does not know are passed over. */
  take(node: XmlNode): void {
    switch (node.name) {
      case 'attributes':
        return applyAttributes(node, this.attributes, this.number);
      case 'note':
        return this.takeNote(node);
      case 'backup':
        return this.move(subtractQuarters(this.cursor, readDuration(node, this.attributes, this.number)));
      case 'forward':
        return this.move(addQuarters(this.cursor, readDuration(node, this.attributes, this.number)));
      case 'direction':
      case 'sound':
        return this.takeDirection(node);
      case 'barline':
        this.endsInDoubleBar ||= isDoubleBar(node);
        return this.navigation.addBarline(node, this.index);
    }
  }

  /** Closes the measure: it lasts as long as its longest voice, or its meter when it is empty. */
  endMeasure(): void {
    const meter = this.attributes.meter ?? COMMON_TIME;
    this.navigation.endMeasure(this.index);
    this.measures.push({
      number: this.number,
      implicit: this.implicit,
      meter,
      meterStated: this.attributes.meter !== null,
      fifths: this.attributes.fifths,
      length: this.reached.num > 0 ? this.reached : measureLength(meter),
      rehearsal: this.rehearsal,
      endsInDoubleBar: this.endsInDoubleBar,
      clef: this.attributes.clef,
    });
  }

  private get index(): number {
    return this.measures.length;
  }

  private move(to: Quarters): void {
    if (to.num < 0) badTiming(this.number, 'the file goes back to before the bar line');
    this.cursor = to;
    this.reached = laterOf(this.reached, to);
  }

  private takeNote(node: XmlNode): void {
    if (this.notes.length + this.unplayed.length >= SCORE_LIMITS.notes) {
      throw new ScoreStop(
        'score-hostile',
        '',
        `A part holds over ${SCORE_LIMITS.notes} notes, so it was not opened.`,
      );
    }
    const isGrace = child(node, 'grace') !== undefined;
    const isChord = child(node, 'chord') !== undefined;
    const length = isGrace ? ZERO : this.noteLength(node);
    const onset = isChord ? this.lastOnset : this.cursor;
    const { transposition } = this.attributes;
    const place = { measureIndex: this.index, measureNumber: this.number, onset, length, transposition };
    const note = readNote(node, place);
    if (isPlayed(node)) this.notes.push(note);
    else this.unplayed.push({ note, before: this.notes.length });
    this.keepMarks(marksAtNote(node, this.index, onset));
    if (isGrace || isChord) return;
    this.lastOnset = this.cursor;
    this.move(addQuarters(this.cursor, length));
  }

  private noteLength(node: XmlNode): Quarters {
    const isMeasureRest = child(node, 'rest')?.attributes['measure'] === 'yes';
    if (isMeasureRest && childText(node, 'duration') === null)
      return measureLength(this.attributes.meter ?? COMMON_TIME);
    return readDuration(node, this.attributes, this.number);
  }

  /** The cursor moved by so many divisions, not to before the bar line. */
  private shifted(offset: Quarters | null): Quarters {
    if (!offset) return this.cursor;
    const divisions = this.attributes.divisions ?? quarters(1);
    const moved = addQuarters(this.cursor, quarters(offset.num * divisions.den, offset.den * divisions.num));
    return moved.num < 0 ? ZERO : moved;
  }

  private keepMarks({ dynamics, hairpins, words }: DirectionMarks): void {
    this.dynamics.push(...dynamics);
    this.hairpins.push(...hairpins);
    this.words.push(...words);
  }

  private takeDirection(node: XmlNode): void {
    const signs = signsIn(node);
    this.keepMarks(marksIn(node, this.index, this.shifted(printedOffset(node))));
    this.navigation.addSigns(signs, this.index);
    this.rehearsal ??= signs.rehearsal;
    const mark = tempoIn(node);
    if (!mark) return;
    this.tempos.push({
      partId: this.id,
      measureIndex: this.index,
      offset: this.shifted(soundingOffset(node)),
      mark,
    });
  }
}

/** A thin double bar at the right of its measure. Source: MusicXML 4.0, element bar-style. */
function isDoubleBar(node: XmlNode): boolean {
  return (
    (node.attributes['location'] ?? 'right') === 'right' && childText(node, 'bar-style') === 'light-light'
  );
}

/** Cue notes are another player's, hidden ones are there for playback only; a hidden rest is silence all the same. */
function isPlayed(node: XmlNode): boolean {
  const isHidden = node.attributes['print-object'] === 'no' && child(node, 'rest') === undefined;
  return child(node, 'cue') === undefined && !isHidden;
}

type Place = Pick<DynamicMark, 'measureIndex' | 'onset'>;

function byPlace(a: Place, b: Place): number {
  return a.measureIndex - b.measureIndex || compareQuarters(a.onset, b.onset);
}

/** What the part list says of one part. */
export interface PartListing {
  readonly id: string;
  readonly name: string;
}

/**
 * One entry of the part list.
 * Shape:  the instrument's own name where the part has none
 * Source: MusicXML 4.0, element score-part
 */
export function readPartListing(node: XmlNode): PartListing {
  const id = node.attributes['id'] ?? '';
  const instruments = childrenNamed(node, 'score-instrument').map((found) =>
    childText(found, 'instrument-name'),
  );
  const name = childText(node, 'part-name') ?? instruments.find((found) => found !== null) ?? id;
  return { id, name: name.replace(/\s+/gu, ' ') };
}
