import { fail, InvariantError, ok, type Result } from '../base/index.js';
import {
  addQuarters,
  compareQuarters,
  measureLength,
  meterText,
  quarters,
  subtractQuarters,
  toNumber,
  ZERO,
} from '../music/index.js';
import { choosePart } from './choose-part.js';
import { scoreText } from './container.js';
import { ScoreStop, type ScoreCode, type ScoreWarning } from './issues.js';
import { SCORE_LIMITS } from './limits.js';
import type { PartInfo, Score, ScoreMeasure, ScoreNote } from './model.js';
import { NavigationMap } from './navigation.js';
import { numberingWarnings } from './numbering.js';
import { PartReader, readPartListing, type PartListing, type PartMeasure } from './part-reader.js';
import { tempoMap } from './tempo-map.js';
import { unroll } from './unroll.js';
import { child, childText, streamXml, type XmlListener, type XmlNode } from './xml.js';

/** What the caller may choose: a part by its id, or the instrument to look for. */
export interface ReadScoreOptions {
  readonly partId?: string | null;
  readonly instrument?: string | null;
}

/**
 * Reads a MusicXML file, plain or packed, partwise or timewise, and chooses the part.
 * Shape:  a frozen Score; or exactly one issue
 * Units:  see Score
 * Errors: every ScoreCode, with the measure or line where it stands
 * Source: MusicXML 4.0 (W3C Music Notation Community Group final report)
 */
export function readScore(bytes: Uint8Array, options: ReadScoreOptions = {}): Result<Score, ScoreCode> {
  try {
    const document = new DocumentReader();
    streamXml(scoreText(bytes), document);
    return ok(Object.freeze(document.score(options)));
  } catch (error) {
    if (error instanceof ScoreStop) return fail(error.code, error.where, error.message);
    if (error instanceof InvariantError) {
      return fail(
        'score-timing',
        '',
        'The file divides time so finely that it cannot be counted exactly; export it again.',
      );
    }
    throw error;
  }
}

const PIECES = new Set([
  'note',
  'attributes',
  'direction',
  'barline',
  'backup',
  'forward',
  'sound',
  'score-part',
  'work',
  'movement-title',
  'credit',
]);

class DocumentReader implements XmlListener {
  readonly pieces = PIECES;
  private readonly listings: PartListing[] = [];
  private readonly readers = new Map<string, PartReader>();
  private readonly navigation = new NavigationMap();
  private root: string | null = null;
  private title: { work: string | null; movement: string | null; credit: string | null } = {
    work: null,
    movement: null,
    credit: null,
  };
  private current: PartReader | null = null;
  private measureAttributes: Readonly<Record<string, string>> | null = null;

  enter(name: string, attributes: Readonly<Record<string, string>>): void {
    if (this.root === null) this.startDocument(name);
    if (name === 'part') this.startPart(attributes['id'] ?? '');
    if (name === 'measure') {
      if (this.root === 'score-timewise') this.measureAttributes = attributes;
      else this.current?.startMeasure(attributes);
    }
  }

  leave(name: string): void {
    const endsMeasure = this.root === 'score-timewise' ? name === 'part' : name === 'measure';
    if (endsMeasure) this.current?.endMeasure();
    if (name === 'part') this.current = null;
  }

  piece(node: XmlNode): void {
    if (node.name === 'score-part') this.addListing(readPartListing(node));
    else if (node.name === 'work') this.title.work = childText(node, 'work-title');
    else if (node.name === 'movement-title') this.title.movement = node.text.trim() || null;
    else if (node.name === 'credit') this.readCredit(node);
    else this.current?.take(node);
  }

  /** The finished score with its chosen part. */
  score(options: ReadScoreOptions): Score {
    const parts = this.partInfos();
    const reader = this.readers.get(chosenId(parts, options));
    if (!reader || reader.measures.length === 0)
      throw new ScoreStop('score-no-notes', '', 'The chosen part holds no measures; choose another part.');
    const measures = placeMeasures(reader.measures, this.navigation);
    const { tempos, warnings: tempoWarnings } = tempoMap(
      [...this.readers.values()].flatMap((part) => part.tempos),
      measures,
      reader.id,
    );
    const { order, warnings: orderWarnings } = unroll(measures);
    return {
      title: this.title.work ?? this.title.movement ?? this.title.credit,
      parts,
      partId: reader.id,
      instrument: parts.find(({ id }) => id === reader.id)?.name ?? reader.id,
      transposition: reader.transposition,
      measures,
      notes: reader.notes,
      unplayed: reader.unplayed,
      tempos,
      marks: reader.marks,
      order,
      warnings: [
        ...numberingWarnings(measures),
        ...lengthWarnings(reader.measures, reader.notes),
        ...tempoWarnings,
        ...orderWarnings,
      ],
    };
  }

  private startDocument(name: string): void {
    this.root = name;
    if (name === 'score-partwise' || name === 'score-timewise') return;
    throw new ScoreStop(
      'score-not-music',
      '',
      `This file holds "${name.slice(0, 40)}", not a MusicXML score; choose a .musicxml, .xml or .mxl export.`,
    );
  }

  private startPart(id: string): void {
    const reader = this.readers.get(id) ?? new PartReader(id, this.navigation);
    if (!this.readers.has(id)) this.navigation.startPart();
    this.readers.set(id, reader);
    this.current = reader;
    if (this.readers.size > SCORE_LIMITS.parts)
      throw new ScoreStop(
        'score-hostile',
        '',
        `The file holds over ${SCORE_LIMITS.parts} parts, so it was not opened.`,
      );
    if (this.measureAttributes) reader.startMeasure(this.measureAttributes);
  }

  private addListing(listing: PartListing): void {
    if (this.listings.length < SCORE_LIMITS.parts) this.listings.push(listing);
  }

  private readCredit(node: XmlNode): void {
    if (this.title.credit === null && childText(node, 'credit-type') === 'title') {
      this.title.credit = child(node, 'credit-words')?.text.trim().slice(0, 200) || null;
    }
  }

  private partInfos(): PartInfo[] {
    const name = (id: string): string => this.listings.find((listing) => listing.id === id)?.name ?? id;
    return [...this.readers.values()].map(({ id, notes }) => ({
      id,
      name: name(id),
      noteCount: notes.reduce((count, note) => count + (note.isRest ? 0 : 1), 0),
    }));
  }
}

function chosenId(parts: readonly PartInfo[], options: ReadScoreOptions): string {
  const names = parts.map(({ id, name }) => `${id} (${name})`).join(', ');
  if (parts.length === 0)
    throw new ScoreStop('score-no-parts', '', 'The file holds no part with music; export the score again.');
  const wanted = options.partId ?? null;
  if (wanted !== null) {
    if (parts.some(({ id }) => id === wanted)) return wanted;
    throw new ScoreStop(
      'score-no-part',
      '',
      `The file has no part "${wanted.slice(0, 40)}"; it has ${names}.`,
    );
  }
  const chosen = choosePart(parts, options.instrument ?? null);
  if (!chosen) throw new ScoreStop('score-no-notes', '', `None of the file's parts (${names}) holds a note.`);
  return chosen.id;
}

function placeMeasures(found: readonly PartMeasure[], navigation: NavigationMap): ScoreMeasure[] {
  let start = ZERO;
  return found.map((measure, index) => {
    const { number, implicit, meter, fifths, length, rehearsal, endsInDoubleBar, clef } = measure;
    const placed = {
      index,
      number,
      implicit,
      meter,
      fifths,
      start,
      length,
      rehearsal,
      endsInDoubleBar,
      clef,
      navigation: navigation.at(index),
      source: 'score' as const,
      toldNotes: null,
    };
    start = addQuarters(start, length);
    return placed;
  });
}

/** Lengths this close (in quarters) are an exporter's rounding of tuplets, not a wrong measure. */
const ROUNDING_QUARTERS = quarters(1, 16);

function lengthWarnings(measures: readonly PartMeasure[], notes: readonly ScoreNote[]): ScoreWarning[] {
  const warnings: ScoreWarning[] = [];
  if (measures[0]?.meterStated === false) {
    warnings.push({
      code: 'meter-missing',
      where: `measure ${measures[0].number}`,
      message: 'The file begins without a time signature; 4/4 is assumed until one comes.',
    });
  }
  const filled = new Set(notes.map(({ measureIndex }) => measureIndex));
  measures.forEach(({ number, implicit, meter, length }, index) => {
    const over = subtractQuarters(length, measureLength(meter));
    if (implicit || !filled.has(index) || compareQuarters(over, ROUNDING_QUARTERS) <= 0) return;
    warnings.push({
      code: 'measure-length',
      where: `measure ${number}`,
      message: `Measure ${number} lasts ${toNumber(length)} quarter notes, more than ${meterText(meter)} holds.`,
    });
  });
  return warnings;
}
