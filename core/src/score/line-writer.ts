import {
  addQuarters,
  alterInKey,
  beatUnitOf,
  compareQuarters,
  isCompound,
  quarterBpm,
  quarters,
  scaleQuarters,
  subtractQuarters,
  toNumber,
  unitLength,
  ZERO,
  type BeatUnit,
  type Bpm,
  type Meter,
  type Pitch,
  type Quarters,
  type Transposition,
} from '../music/index.js';
import { xmlText } from './xml-text.js';

/**
 * A note, a chord or a rest to be written.
 * Shape:  `pitches` empty for a rest and for an unpitched stroke; `isTied` to the next note of the line
 * Units:  `length` in quarters
 */
export interface NoteToWrite {
  readonly pitches: readonly Pitch[];
  readonly isRest: boolean;
  readonly length: Quarters;
  readonly isTied: boolean;
  readonly slurStarts: number;
  readonly slurStops: number;
  readonly articulations: readonly string[];
}

/** A measure to be written. Shape: `words` stand above its first note */
export interface MeasureToWrite {
  readonly number: string;
  readonly meter: Meter;
  readonly fifths: number;
  readonly words: string | null;
  readonly notes: readonly NoteToWrite[];
}

/** One line of music to be written. Shape: `clef` as a measure names it; at least one measure */
export interface LineToWrite {
  readonly title: string;
  readonly instrument: string;
  readonly transposition: Transposition;
  readonly clef: string | null;
  readonly tempo: { readonly bpm: Bpm; readonly unit: BeatUnit } | null;
  readonly measures: readonly MeasureToWrite[];
}

/** Divisions of a quarter: every tuplet up to nine and every value down to a 128th comes out whole. */
const DIVISIONS = 10_080;
const VALUES: readonly (readonly [name: string, quarters: number])[] = [
  ['breve', 8],
  ['whole', 4],
  ['half', 2],
  ['quarter', 1],
  ['eighth', 1 / 2],
  ['16th', 1 / 4],
  ['32nd', 1 / 8],
  ['64th', 1 / 16],
  ['128th', 1 / 32],
  ['256th', 1 / 64],
];
/** A note with dots lasts so many times its value. */
const DOTS = [1, 3 / 2, 7 / 4] as const;
/** How many notes stand in the time of how many, by the odd number in the length. Source: common practice. */
const TUPLETS: Readonly<Record<number, readonly [actual: number, normal: number]>> = {
  3: [3, 2],
  5: [5, 4],
  7: [7, 4],
  9: [9, 8],
};
const ACCIDENTALS: Readonly<Record<number, string>> = {
  [-2]: 'flat-flat',
  [-1]: 'flat',
  0: 'natural',
  1: 'sharp',
  2: 'double-sharp',
};
const CLEFS: Readonly<Record<string, string>> = {
  treble: '<sign>G</sign><line>2</line>',
  bass: '<sign>F</sign><line>4</line>',
  alto: '<sign>C</sign><line>3</line>',
  tenor: '<sign>C</sign><line>4</line>',
  soprano: '<sign>C</sign><line>1</line>',
  percussion: '<sign>percussion</sign>',
};

/** A part of a note that one sign can write. */
interface Piece {
  readonly note: NoteToWrite;
  readonly length: Quarters;
  readonly type: string;
  readonly dots: number;
  readonly tuplet: readonly [number, number] | null;
  readonly isFirst: boolean;
  readonly isLast: boolean;
  readonly at: Quarters;
}

/**
 * A line of music as a score that is read, engraved and sounded like any other.
 * Shape:  a partwise document of one part; lengths that no single note has are tied together; accidentals, beams and
 *         tuplets are written out
 * Units:  10,080 divisions a quarter
 * Source: MusicXML 4.0
 */
export function lineAsMusicXml(line: LineToWrite): string {
  const part = line.measures.map((measure, n) =>
    measureXml(measure, {
      before: line.measures[n - 1] ?? null,
      isTiedInto: line.measures[n - 1]?.notes.at(-1)?.isTied ?? false,
      head: n === 0 ? headOf(line) : null,
      isLast: n === line.measures.length - 1,
    }),
  );
  return `<?xml version="1.0" encoding="UTF-8"?>\n<score-partwise version="4.0"><work><work-title>${xmlText(line.title)}</work-title></work><part-list><score-part id="P1"><part-name>${xmlText(line.instrument)}</part-name></score-part></part-list><part id="P1">\n${part.join('\n')}\n</part></score-partwise>\n`;
}

/** What stands only in the first measure. */
interface Head {
  readonly clef: string;
  readonly tempo: string;
  readonly transpose: string;
}

function headOf({ clef, tempo, transposition }: LineToWrite): Head {
  return {
    clef: clefXml(clef ?? 'treble'),
    transpose: transposeXml(transposition),
    tempo: tempo === null ? '' : tempoXml(tempo.bpm, tempo.unit),
  };
}

/** How a part sounds other than it is written. Shape: "" where it does not */
export function transposeXml({ diatonic, chromatic, octaveChange }: Transposition): string {
  if (diatonic === 0 && chromatic === 0 && octaveChange === 0) return '';
  const octave = octaveChange === 0 ? '' : `<octave-change>${octaveChange}</octave-change>`;
  return `<transpose><diatonic>${diatonic}</diatonic><chromatic>${chromatic}</chromatic>${octave}</transpose>`;
}

/** The way back from a clef's name: "bass", "treble clef an octave down". */
function clefXml(name: string): string {
  const [sign = ''] = name.split(' ');
  const octave = name.endsWith('octave down') ? -1 : name.endsWith('octave up') ? 1 : 0;
  const change = octave === 0 ? '' : `<clef-octave-change>${octave}</clef-octave-change>`;
  return `<clef>${CLEFS[sign] ?? CLEFS['treble'] ?? ''}${change}</clef>`;
}

/** A tempo mark that is seen and heard. Units: beats of the unit a minute */
export function tempoXml(bpm: Bpm, unit: BeatUnit): string {
  const plain = unit.replace(/^(?:double-)?dotted-/u, '');
  const name = { sixteenth: '16th', 'thirty-second': '32nd', 'sixty-fourth': '64th' }[plain] ?? plain;
  const dots = unit.startsWith('double-') ? 2 : unit.startsWith('dotted-') ? 1 : 0;
  return `<direction placement="above"><direction-type><metronome><beat-unit>${name}</beat-unit>${'<beat-unit-dot/>'.repeat(dots)}<per-minute>${Math.round(bpm * 100) / 100}</per-minute></metronome></direction-type><sound tempo="${quarterBpm(bpm, unit)}"/></direction>`;
}

interface MeasureAround {
  readonly before: MeasureToWrite | null;
  readonly isTiedInto: boolean;
  readonly head: Head | null;
  readonly isLast: boolean;
}

function measureXml(measure: MeasureToWrite, { before, isTiedInto, head, isLast }: MeasureAround): string {
  const pieces = piecesOf(measure.notes);
  const signs = new Map<string, number>();
  const beams = beamsOf(pieces, measure.meter);
  const tuplets = tupletEnds(pieces);
  let isTied = isTiedInto;
  const notes = pieces.map((piece, n) => {
    const ties = {
      stop: !piece.note.isRest && (piece.isFirst ? isTied : true),
      start: !piece.note.isRest && (!piece.isLast || piece.note.isTied),
    };
    isTied = ties.start;
    return noteXml(piece, {
      ties,
      beam: beams[n] ?? '',
      tuplet: tuplets[n] ?? '',
      sign: (pitch) => (ties.stop ? '' : accidental(pitch, measure.fifths, signs)),
    });
  });
  const end = isLast ? '<barline location="right"><bar-style>light-heavy</bar-style></barline>' : '';
  const words =
    measure.words === null
      ? ''
      : `<direction placement="above"><direction-type><words>${xmlText(measure.words)}</words></direction-type></direction>`;
  return `<measure number="${xmlText(measure.number)}">${attributesXml(measure, before, head)}${head?.tempo ?? ''}${words}${notes.join('')}${end}</measure>`;
}

function attributesXml(
  { meter, fifths }: MeasureToWrite,
  before: MeasureToWrite | null,
  head: Head | null,
): string {
  const key = before?.fifths === fifths ? '' : `<key><fifths>${fifths}</fifths></key>`;
  const isSame =
    before !== null &&
    before.meter.beatType === meter.beatType &&
    before.meter.groups.join() === meter.groups.join();
  const time = isSame
    ? ''
    : `<time><beats>${meter.groups.join('+')}</beats><beat-type>${meter.beatType}</beat-type></time>`;
  const divisions = head === null ? '' : `<divisions>${DIVISIONS}</divisions>`;
  const inside = `${divisions}${key}${time}${head?.clef ?? ''}${head?.transpose ?? ''}`;
  return inside === '' ? '' : `<attributes>${inside}</attributes>`;
}

/** Notes cut into what single signs can write, with their place in the measure. */
function piecesOf(notes: readonly NoteToWrite[]): Piece[] {
  const pieces: Piece[] = [];
  let at = ZERO;
  for (const note of notes) {
    const values = note.isRest ? restsOf(note.length, at) : valuesOf(note.length);
    values.forEach((value, n) => {
      pieces.push({ ...value, note, at, isFirst: n === 0, isLast: n === values.length - 1 });
      at = addQuarters(at, value.length);
    });
  }
  return pieces;
}

type Value = Pick<Piece, 'length' | 'type' | 'dots' | 'tuplet'>;

/** The signs that write a length, the longest first. */
function valuesOf(length: Quarters): Value[] {
  let odd = length.den;
  while (odd % 2 === 0) odd /= 2;
  const tuplet = TUPLETS[odd] ?? null;
  const [actual, normal] = tuplet ?? [1, 1];
  let left = scaleQuarters(length, actual, normal);
  const values: Value[] = [];
  while (toNumber(left) > 1e-9) {
    const [type, value, dots] = longestIn(toNumber(left));
    const written = quarters(Math.round(value * 256), 256);
    values.push({ type, dots, tuplet, length: scaleQuarters(written, normal, actual) });
    left = subtractQuarters(left, written);
    if (values.length > 8) break;
  }
  return values;
}

/** The rests that write a length: each begins where a value of its kind may. Source: common practice. */
function restsOf(length: Quarters, from: Quarters): Value[] {
  const [plain] = valuesOf(length);
  if (!plain || plain.tuplet !== null) return valuesOf(length);
  const rests: Value[] = [];
  let [at, left] = [toNumber(from), toNumber(length)];
  for (const [type, value] of [...VALUES, ...VALUES, ...VALUES]) {
    while (value <= left + 1e-9 && Math.abs(at / value - Math.round(at / value)) < 1e-9) {
      rests.push({ type, dots: 0, tuplet: null, length: quarters(Math.round(value * 64), 64) });
      at += value;
      left -= value;
    }
  }
  return left < 1e-9 ? rests : valuesOf(length);
}

function longestIn(length: number): readonly [type: string, quarters: number, dots: number] {
  for (const [type, value] of VALUES)
    for (let dots = 2; dots >= 0; dots -= 1) {
      const whole = value * (DOTS[dots] ?? 1);
      if (whole <= length + 1e-9 && Math.round(whole * 256) === whole * 256) return [type, whole, dots];
    }
  return ['256th', 1 / 256, 0];
}

interface NoteMarks {
  readonly ties: { readonly start: boolean; readonly stop: boolean };
  readonly beam: string;
  readonly tuplet: string;
  readonly sign: (pitch: Pitch) => string;
}

function noteXml(piece: Piece, { ties, beam, tuplet, sign }: NoteMarks): string {
  const { note, length, type, dots } = piece;
  const modified = piece.tuplet
    ? `<time-modification><actual-notes>${piece.tuplet[0]}</actual-notes><normal-notes>${piece.tuplet[1]}</normal-notes></time-modification>`
    : '';
  const kinds = (['stop', 'start'] as const).filter((kind) => ties[kind]);
  const tie = kinds.map((kind) => `<tie type="${kind}"/>`).join('');
  const sounds = note.isRest ? ['<rest/>'] : note.pitches.length === 0 ? [UNPITCHED] : note.pitches;
  return sounds
    .map((sound, n) => {
      const xml = typeof sound === 'string' ? sound : pitchXml(sound);
      const accidentalXml = typeof sound === 'string' ? '' : sign(sound);
      const notations = [
        ...kinds.map((kind) => `<tied type="${kind}"/>`),
        ...(n === 0 ? [slursXml(piece), tuplet, articulationsXml(piece)] : []),
      ].join('');
      return `<note>${n > 0 ? '<chord/>' : ''}${xml}<duration>${Math.round(toNumber(length) * DIVISIONS)}</duration>${tie}<voice>1</voice><type>${type}</type>${'<dot/>'.repeat(dots)}${accidentalXml}${modified}${beam}${notations === '' ? '' : `<notations>${notations}</notations>`}</note>`;
    })
    .join('');
}

/** A stroke stands on the middle line. */
const UNPITCHED = '<unpitched><display-step>B</display-step><display-octave>4</display-octave></unpitched>';

function pitchXml({ step, alter, octave }: Pitch): string {
  return `<pitch><step>${step}</step>${alter === 0 ? '' : `<alter>${alter}</alter>`}<octave>${octave}</octave></pitch>`;
}

function slursXml({ note, isFirst, isLast }: Piece): string {
  const numbered = (count: number, type: string): string =>
    Array.from({ length: count }, (_, n) => `<slur type="${type}" number="${n + 1}"/>`).join('');
  return `${isLast ? numbered(note.slurStops, 'stop') : ''}${isFirst ? numbered(note.slurStarts, 'start') : ''}`;
}

function articulationsXml({ note, isFirst }: Piece): string {
  if (!isFirst || note.articulations.length === 0) return '';
  return `<articulations>${note.articulations.map((name) => `<${name.replace(' ', '-')}/>`).join('')}</articulations>`;
}

/** The sign before a note, where its measure and key do not say it already. */
function accidental({ step, alter, octave }: Pitch, fifths: number, signs: Map<string, number>): string {
  const place = `${step}${octave}`;
  const held = signs.get(place) ?? alterInKey(step, fifths);
  signs.set(place, alter);
  return held === alter ? '' : `<accidental>${ACCIDENTALS[alter] ?? 'natural'}</accidental>`;
}

/** Notes shorter than a quarter within one beat are beamed. Source: common practice. */
function beamsOf(pieces: readonly Piece[], meter: Meter): string[] {
  const beat = isCompound(meter) || meter.beatType < 8 ? unitLength(beatUnitOf(meter)) : quarters(1, 2);
  const beatOf = ({ at }: Piece): number => Math.floor(toNumber(at) / toNumber(beat) + 1e-9);
  const isBeamed = (piece: Piece | undefined): piece is Piece =>
    piece !== undefined && !piece.note.isRest && /eighth|\d/u.test(piece.type);
  return pieces.map((piece, n) => {
    if (!isBeamed(piece)) return '';
    const [before, after] = [pieces[n - 1], pieces[n + 1]];
    const joinsBefore = isBeamed(before) && beatOf(before) === beatOf(piece);
    const joinsAfter = isBeamed(after) && beatOf(after) === beatOf(piece);
    const kind = joinsBefore ? (joinsAfter ? 'continue' : 'end') : joinsAfter ? 'begin' : '';
    return kind === '' ? '' : `<beam number="1">${kind}</beam>`;
  });
}

/** Where tuplets begin and end: a group is whole when its time is one that needs none. */
function tupletEnds(pieces: readonly Piece[]): string[] {
  const ends = pieces.map(() => '');
  let from: number | null = null;
  let filled = ZERO;
  pieces.forEach(({ tuplet, length }, n) => {
    if (tuplet === null) {
      from = null;
      return;
    }
    if (from === null) [from, filled] = [n, ZERO];
    filled = addQuarters(filled, length);
    const isWhole = (filled.den & (filled.den - 1)) === 0;
    if (!isWhole) return;
    if (from !== n && compareQuarters(filled, ZERO) > 0) {
      ends[from] = '<tuplet type="start" bracket="no"/>';
      ends[n] = '<tuplet type="stop"/>';
    }
    from = null;
  });
  return ends;
}
