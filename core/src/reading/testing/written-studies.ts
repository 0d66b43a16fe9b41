import { readScore, type Score } from '../../score/index.js';
import { bytesOf, measure, partwise } from '../../score/testing/music-xml.js';

/** Divisions of a quarter in written studies. */
const DIVISIONS = 24;
const VALUES: Readonly<Record<string, readonly [type: string, divisions: number]>> = {
  w: ['whole', 96],
  h: ['half', 48],
  q: ['quarter', 24],
  e: ['eighth', 12],
  s: ['16th', 6],
};
const ACCIDENTALS: Readonly<Record<string, string>> = { '#': 'sharp', b: 'flat', n: 'natural' };
const ARTICULATIONS: ReadonlySet<string> = new Set([
  'staccato',
  'tenuto',
  'accent',
  'strong-accent',
  'breath-mark',
]);
const ORNAMENTS: ReadonlySet<string> = new Set(['trill-mark', 'turn', 'mordent']);

/**
 * A note in the short hand of written studies: pitch, value, then signs, "F#5 e. !# staccato (".
 * Shape:  pitch `r` is a rest and `x` a stroke; values w h q e s with dots; `!#` prints the sign; `(` `)` slur, `t(` `t)`
 *         tie, `3:2` tuplet, `beam-begin` …, `grace` and `slashed-grace`, `fermata`, `roll`, articulations and ornaments
 *         by their MusicXML names
 * Units:  DIVISIONS
 * Errors: throws at a token it does not know
 * Source: MusicXML 4.0, element note
 */
function noteOf(token: string): string {
  const [pitch = '', value = '', ...signs] = token.trim().split(/\s+/u);
  const [type, divisions] = VALUES[value[0] ?? ''] ?? ['', 0];
  const [dots, is] = [value.length - 1, (sign: string): boolean => signs.includes(sign)];
  const tuplet = signs.map((sign) => /^(\d):(\d)$/u.exec(sign)).find((match) => match !== null);
  const [actual, normal] = [Number(tuplet?.[1] ?? 1), Number(tuplet?.[2] ?? 1)];
  const duration = (divisions * (2 - 0.5 ** dots) * normal) / actual;
  if (!Number.isInteger(duration) || duration === 0) throw new Error(`no length: ${token}`);
  const isGrace = is('grace') || is('slashed-grace');
  const accidental = signs.find((sign) => sign.startsWith('!'));
  const beam = signs.find((sign) => sign.startsWith('beam-'));
  const within = (names: ReadonlySet<string>): string =>
    signs.map((sign) => (names.has(sign) ? `<${sign}/>` : '')).join('');
  const [articulations, ornaments] = [
    within(ARTICULATIONS),
    within(ORNAMENTS) + (is('roll') ? '<tremolo type="single">3</tremolo>' : ''),
  ];
  const notations =
    (is('t)') ? '<tied type="stop"/>' : '') +
    (is('t(') ? '<tied type="start"/>' : '') +
    (is(')') ? '<slur type="stop" number="1"/>' : '') +
    (is('(') ? '<slur type="start" number="1"/>' : '') +
    (is('fermata') ? '<fermata/>' : '') +
    (ornaments === '' ? '' : `<ornaments>${ornaments}</ornaments>`) +
    (articulations === '' ? '' : `<articulations>${articulations}</articulations>`);
  return (
    '<note>' +
    (isGrace ? `<grace${is('slashed-grace') ? ' slash="yes"' : ''}/>` : '') +
    pitchOf(pitch) +
    (isGrace ? '' : `<duration>${duration}</duration>`) +
    (is('t)') ? '<tie type="stop"/>' : '') +
    (is('t(') ? '<tie type="start"/>' : '') +
    `<type>${type}</type>${'<dot/>'.repeat(dots)}` +
    (accidental ? `<accidental>${ACCIDENTALS[accidental.slice(1)] ?? ''}</accidental>` : '') +
    (tuplet
      ? `<time-modification><actual-notes>${actual}</actual-notes><normal-notes>${normal}</normal-notes></time-modification>`
      : '') +
    (beam ? `<beam number="1">${beam.slice('beam-'.length)}</beam>` : '') +
    (notations === '' ? '' : `<notations>${notations}</notations>`) +
    '</note>'
  );
}

function pitchOf(pitch: string): string {
  if (pitch === 'r') return '<rest/>';
  if (pitch === 'x')
    return '<unpitched><display-step>C</display-step><display-octave>5</display-octave></unpitched>';
  const [, step = '', sign = '', octave = ''] = /^([A-G])([#bn]?)(\d)$/u.exec(pitch) ?? [];
  if (step === '') throw new Error(`no pitch: ${pitch}`);
  const alter = sign === '#' ? 1 : sign === 'b' ? -1 : 0;
  return `<pitch><step>${step}</step><alter>${alter}</alter><octave>${octave}</octave></pitch>`;
}

/** A direction of a written study: "mf", "crescendo", "stop", "[A]" for a rehearsal mark. */
function directionOf(word: string): string {
  const inside = /^\[/u.test(word)
    ? `<rehearsal>${word.slice(1, -1)}</rehearsal>`
    : word === 'crescendo' || word === 'diminuendo' || word === 'stop'
      ? `<wedge type="${word}"/>`
      : `<dynamics><${word}/></dynamics>`;
  return `<direction><direction-type>${inside}</direction-type></direction>`;
}

/** What stands before the first note. Shape: the tempo counts `unit`; `transpose` in letters and semitones. */
export interface WrittenHead {
  readonly instrument: string;
  readonly fifths: number;
  readonly meter: string;
  readonly bpm: number;
  readonly unit?: 'quarter' | 'dotted quarter';
  readonly transpose?: readonly [diatonic: number, chromatic: number];
}

/**
 * A study that is written by hand, in the short hand of noteOf, read by the MusicXML reader.
 * Shape:  a measure is a line of notes with ";" between them; "{mf}", "{crescendo}", "{stop}", "{[A]}" and "{2/4}" stand
 *         where the direction or meter does; measures are numbered from 1
 * Errors: throws where the reader refuses it
 * Source: MusicXML 4.0
 */
export function writtenStudy(
  { instrument, fifths, meter, bpm, unit = 'quarter', transpose }: WrittenHead,
  lines: readonly string[],
): Score {
  const moved = transpose
    ? `<transpose><diatonic>${transpose[0]}</diatonic><chromatic>${transpose[1]}</chromatic></transpose>`
    : '';
  const dot = unit === 'quarter' ? '' : '<beat-unit-dot/>';
  const start =
    `<attributes><divisions>${DIVISIONS}</divisions><key><fifths>${fifths}</fifths></key>${timeOf(meter)}${moved}</attributes>` +
    `<direction><direction-type><metronome><beat-unit>quarter</beat-unit>${dot}<per-minute>${bpm}</per-minute></metronome></direction-type></direction>`;
  const measures = lines.map((line, n) =>
    measure(String(n + 1), (n === 0 ? start : '') + itemsOf(line).join('')),
  );
  const xml = partwise({ P1: { name: instrument, measures: measures.join('') } });
  const read = readScore(bytesOf(xml), { partId: null });
  if (!read.ok) throw new Error(read.issues.map(({ message }) => message).join(' '));
  return read.value;
}

function itemsOf(line: string): string[] {
  return line
    .split(/(\{[^}]+\})|;/u)
    .filter((item): item is string => item !== undefined && item.trim() !== '')
    .map((item) => {
      if (!item.startsWith('{')) return noteOf(item);
      const word = item.slice(1, -1);
      return word.includes('/') ? `<attributes>${timeOf(word)}</attributes>` : directionOf(word);
    });
}

function timeOf(meter: string): string {
  const [beats = '', beatType = ''] = meter.split('/');
  return `<time><beats>${beats}</beats><beat-type>${beatType}</beat-type></time>`;
}
