import { letterAt } from '../music/index.js';
import { xmlText } from '../score/index.js';
import type { AbcElement, AbcPitch, AbcStaff } from './abc-elements.js';

/** Divisions of a quarter note: every tuplet up to nine and every value down to a 128th comes out whole. */
const DIVISIONS = 10_080;

const TYPES: readonly (readonly [string, number])[] = [
  ['breve', 2],
  ['whole', 1],
  ['half', 1 / 2],
  ['quarter', 1 / 4],
  ['eighth', 1 / 8],
  ['16th', 1 / 16],
  ['32nd', 1 / 32],
  ['64th', 1 / 64],
  ['128th', 1 / 128],
];
const ALTERS: Readonly<Record<string, readonly [alter: number, sign: string]>> = {
  sharp: [1, 'sharp'],
  flat: [-1, 'flat'],
  natural: [0, 'natural'],
  dblsharp: [2, 'double-sharp'],
  dblflat: [-2, 'flat-flat'],
};
const ARTICULATIONS: Readonly<Record<string, string>> = {
  staccato: 'staccato',
  accent: 'accent',
  tenuto: 'tenuto',
  wedge: 'staccatissimo',
  umarcato: 'strong-accent',
  marcato: 'strong-accent',
  breath: 'breath-mark',
};
const ORNAMENTS: Readonly<Record<string, string>> = {
  trill: 'trill-mark',
  turn: 'turn',
  lowermordent: 'mordent',
  mordent: 'mordent',
  uppermordent: 'inverted-mordent',
  pralltriller: 'inverted-mordent',
  irishroll: 'turn',
};
const TECHNIQUES: Readonly<Record<string, string>> = {
  downbow: 'down-bow',
  upbow: 'up-bow',
  '+': 'stopped',
  plus: 'stopped',
  open: 'open-string',
  snap: 'snap-pizzicato',
  thumb: 'thumb-position',
};
/** Signs of the way through the music, as MusicXML plays them. */
const SOUNDS: Readonly<Record<string, string>> = {
  segno: 'segno="1"',
  coda: 'coda="1"',
  fine: 'fine="yes"',
  'D.C.': 'dacapo="yes"',
  'D.S.': 'dalsegno="1"',
};
const DYNAMICS = /^(?:p{1,4}|mp|mf|f{1,4}|sfz)$/u;
const WEDGES: Readonly<Record<string, string>> = {
  'crescendo(': 'crescendo',
  '<(': 'crescendo',
  'diminuendo(': 'diminuendo',
  '>(': 'diminuendo',
  'crescendo)': 'stop',
  '<)': 'stop',
  'diminuendo)': 'stop',
  '>)': 'stop',
};
const STEP_ORDER = 'FCGDAEB';

/** Writes one voice as a part of MusicXML. Source: MusicXML 4.0. */
export class PartWriter {
  private readonly measures: string[] = [];
  private body = '';
  private filled = 0;
  private meterLength = 1;
  private key = new Map<string, number>();
  /** Accidentals of the measure so far, by letter: they hold in every octave (ABC 2.1, propagate-accidentals, from memory). */
  private signs = new Map<string, number>();
  private tuplet: { readonly actual: number; readonly normal: number } | null = null;
  private leftBar = '';
  private lastNumber = 0;
  private isUnpitched = false;
  private isInBeam = false;
  private keyText = '';

  start(staff: AbcStaff, tempo: AbcElement | null): void {
    const clef = clefXml(staff.clef?.type ?? 'treble');
    this.isUnpitched = isPercussion(staff);
    this.attributes([
      `<divisions>${DIVISIONS}</divisions>`,
      this.keyXml(staff.key ?? { el_type: 'key', accidentals: [] }),
      staff.meter ? this.meterXml(staff.meter) : '',
      clef,
    ]);
    if (tempo) this.body += tempoXml(tempo);
  }

  /** A later line may begin with another key or meter. */
  goOn({ key, meter }: AbcStaff): void {
    const before = this.keyText;
    const now = key ? this.keyXml(key) : before;
    this.attributes([now === before ? '' : now, meter ? this.meterXml(meter) : '']);
  }

  take(element: AbcElement): void {
    switch (element.el_type) {
      case 'note':
        return this.note(element);
      case 'bar':
        return this.bar(element);
      case 'key':
        return this.attributes([this.keyXml(element)]);
      case 'meter':
        return this.attributes([this.meterXml(element)]);
      case 'tempo':
        this.body += tempoXml(element);
        return;
      case 'part':
        this.body += `<direction><direction-type><rehearsal>${xmlText(element.title ?? '')}</rehearsal></direction-type></direction>`;
    }
  }

  finish(): string {
    if (this.filled > 0) this.close('');
    return this.measures.join('');
  }

  private attributes(parts: readonly string[]): void {
    const inside = parts.filter((part) => part !== '').join('');
    if (inside !== '') this.body += `<attributes>${inside}</attributes>`;
  }

  private keyXml({ accidentals = [] }: AbcElement): string {
    // A change of key also names the letters that lose their sign.
    const signed = accidentals.filter(({ acc }) => acc !== 'natural');
    this.key = new Map(signed.map(({ acc, note }) => [note.toUpperCase(), ALTERS[acc]?.[0] ?? 0]));
    const alters = [...this.key.values()];
    const fifths = alters.reduce((sum, alter) => sum + alter, 0);
    const isUsual = [...this.key.keys()].every((step) =>
      (fifths > 0 ? STEP_ORDER.slice(0, fifths) : STEP_ORDER.slice(fifths)).includes(step),
    );
    this.keyText = `<key><fifths>${isUsual ? fifths : 0}</fifths></key>`;
    return this.keyText;
  }

  private meterXml({ type, value }: AbcElement): string {
    const common = type === 'cut_time' ? ['2', '2'] : ['4', '4'];
    const [num = '4', den = '4'] = value?.[0] ? [value[0].num, value[0].den ?? '4'] : common;
    const beats = num.replace(/[^\d+]/gu, '') || '4';
    this.meterLength = beats.split('+').reduce((sum, one) => sum + Number(one), 0) / Number(den);
    return `<time><beats>${beats}</beats><beat-type>${den}</beat-type></time>`;
  }

  private note(element: AbcElement): void {
    const { duration = 0, rest, pitches = [], decoration = [] } = element;
    const nominal = typeof duration === 'number' ? duration : 0;
    if (rest?.type === 'multimeasure') return this.multiRest(rest.text ?? 1);
    if (element.startTriplet !== undefined)
      this.tuplet = tupletOf(element.startTriplet, element.tripletMultiplier ?? 2 / 3);
    for (const { name, position } of element.chord ?? [])
      if (position !== 'default') this.body += wordsXml(name);
    for (const mark of decoration) this.body += directionXml(mark);
    for (const grace of element.gracenotes ?? []) {
      const { xml, sign } = this.written(grace);
      this.body += `<note><grace${grace.acciaccatura ? ' slash="yes"' : ''}/>${xml}<voice>1</voice><type>eighth</type>${sign}</note>`;
    }
    if (nominal <= 0) return;
    const ratio = this.tuplet ? this.tuplet.normal / this.tuplet.actual : 1;
    const length = nominal * ratio;
    const [value, after] = this.valueXml(nominal, element);
    if (rest || pitches.length === 0) {
      this.body += `<note><rest/><duration>${divisions(length)}</duration><voice>1</voice>${value}${after}</note>`;
    } else {
      pitches.forEach((pitch, n) => {
        const ties = [pitch.endTie ? 'stop' : '', pitch.startTie ? 'start' : ''].filter(
          (type) => type !== '',
        );
        const { xml, sign } = this.written(pitch);
        const tied = ties.map((type) => `<tie type="${type}"/>`).join('');
        const notations = notationsXml(pitch, {
          element: n === 0 ? element : null,
          ties,
          isTuplet: this.tuplet !== null,
        });
        this.body += `<note>${n > 0 ? '<chord/>' : ''}${xml}<duration>${divisions(length)}</duration>${tied}<voice>1</voice>${value}${sign}${after}${notations}</note>`;
      });
    }
    this.filled += length;
    if (element.endTriplet) this.tuplet = null;
  }

  private multiRest(count: number): void {
    for (let n = 0; n < count; n += 1) {
      this.body += `<note><rest measure="yes"/><duration>${divisions(this.meterLength)}</duration></note>`;
      this.filled = this.meterLength;
      // The bar line that follows closes the last of them.
      if (n < count - 1) this.close('');
    }
  }

  private written({ pitch, accidental }: AbcPitch): { readonly xml: string; readonly sign: string } {
    const { step, octave } = letterAt(pitch + 7 * 4);
    const stated = accidental === undefined ? undefined : ALTERS[accidental];
    const held = this.signs.get(step);
    const alter = stated?.[0] ?? held ?? this.key.get(step) ?? 0;
    if (stated) this.signs.set(step, stated[0]);
    if (this.isUnpitched)
      return {
        xml: `<unpitched><display-step>${step}</display-step><display-octave>${octave}</display-octave></unpitched>`,
        sign: '',
      };
    return {
      xml: `<pitch><step>${step}</step>${alter === 0 ? '' : `<alter>${alter}</alter>`}<octave>${octave}</octave></pitch>`,
      sign: stated ? `<accidental>${stated[1]}</accidental>` : '',
    };
  }

  /** Type and dots, then what stands behind the accidental. */
  private valueXml(nominal: number, { startBeam, endBeam }: AbcElement): [before: string, after: string] {
    const [type, value] = TYPES.find(([, length]) => length <= nominal + 1e-9) ?? ['128th', 1 / 128];
    const share = nominal / value;
    const dots = share >= 1.75 - 1e-9 ? 2 : share >= 1.5 - 1e-9 ? 1 : 0;
    const tuplet = this.tuplet
      ? `<time-modification><actual-notes>${this.tuplet.actual}</actual-notes><normal-notes>${this.tuplet.normal}</normal-notes></time-modification>`
      : '';
    const beam = startBeam ? 'begin' : endBeam ? 'end' : this.isInBeam ? 'continue' : '';
    this.isInBeam = startBeam === true || (this.isInBeam && endBeam !== true);
    return [
      `<type>${type}</type>${'<dot/>'.repeat(dots)}`,
      tuplet + (beam === '' ? '' : `<beam number="1">${beam}</beam>`),
    ];
  }

  private bar({ type = '', startEnding, endEnding, decoration = [] }: AbcElement): void {
    for (const mark of decoration) this.body += directionXml(mark);
    const repeatsBack = type === 'bar_right_repeat' || type === 'bar_dbl_repeat';
    const ending = endEnding ? '<ending number="1" type="stop"/>' : '';
    if (this.filled > 0) {
      const style = type === 'bar_thin_thick' ? '<bar-style>light-heavy</bar-style>' : '';
      const inside = `${style}${ending}${repeatsBack ? '<repeat direction="backward"/>' : ''}`;
      this.close(inside === '' ? '' : `<barline location="right">${inside}</barline>`);
    }
    const repeats =
      type === 'bar_left_repeat' || type === 'bar_dbl_repeat' ? '<repeat direction="forward"/>' : '';
    const opens = startEnding
      ? `<ending number="${xmlText(startEnding.replace(/[^\d,]/gu, '') || '1')}" type="start"/>`
      : '';
    this.leftBar = repeats + opens === '' ? '' : `<barline location="left">${opens}${repeats}</barline>`;
  }

  private close(rightBar: string): void {
    const isPickup = this.measures.length === 0 && this.filled < this.meterLength - 1e-9;
    const number = isPickup ? 0 : this.lastNumber + 1;
    this.lastNumber = number;
    this.measures.push(
      `<measure number="${number}"${isPickup ? ' implicit="yes"' : ''}>${this.leftBar}${this.body}${rightBar}</measure>`,
    );
    [this.body, this.filled, this.leftBar] = ['', 0, ''];
    this.signs.clear();
  }
}

function tupletOf(actual: number, multiplier: number): { actual: number; normal: number } {
  return { actual, normal: Math.max(1, Math.round(actual * multiplier)) };
}

function divisions(whole: number): number {
  return Math.round(whole * 4 * DIVISIONS);
}

function isPercussion({ clef }: AbcStaff): boolean {
  return clef?.type.startsWith('perc') === true;
}

function wordsXml(text: string): string {
  return `<direction><direction-type><words>${xmlText(text)}</words></direction-type></direction>`;
}

function clefXml(type: string): string {
  if (type.startsWith('perc')) return '<clef><sign>percussion</sign></clef>';
  const [sign, line] = type.startsWith('bass')
    ? ['F', 4]
    : type.startsWith('alto')
      ? ['C', 3]
      : type.startsWith('tenor')
        ? ['C', 4]
        : ['G', 2];
  return `<clef><sign>${sign}</sign><line>${line}</line></clef>`;
}

function tempoXml({ duration, bpm, preString }: AbcElement): string {
  const [length] = typeof duration === 'number' ? [duration] : (duration ?? []);
  const words = preString ? `<direction-type><words>${xmlText(preString)}</words></direction-type>` : '';
  if (length === undefined || bpm === undefined) return words === '' ? '' : `<direction>${words}</direction>`;
  const [type, value] = TYPES.find(([, one]) => one <= length + 1e-9) ?? ['quarter', 1 / 4];
  const dot = length / value >= 1.5 - 1e-9 ? '<beat-unit-dot/>' : '';
  return `<direction>${words}<direction-type><metronome><beat-unit>${type}</beat-unit>${dot}<per-minute>${bpm}</per-minute></metronome></direction-type></direction>`;
}

function directionXml(mark: string): string {
  if (DYNAMICS.test(mark))
    return `<direction><direction-type><dynamics><${mark}/></dynamics></direction-type></direction>`;
  const sound = SOUNDS[mark];
  if (sound !== undefined)
    return `<direction><direction-type><words>${mark}</words></direction-type><sound ${sound}/></direction>`;
  const wedge = WEDGES[mark];
  return wedge ? `<direction><direction-type><wedge type="${wedge}"/></direction-type></direction>` : '';
}

function notationsXml(
  pitch: AbcPitch,
  {
    element,
    ties,
    isTuplet,
  }: { readonly element: AbcElement | null; readonly ties: readonly string[]; readonly isTuplet: boolean },
): string {
  const marks = element?.decoration ?? [];
  const named = (table: Readonly<Record<string, string>>, around: string): string => {
    const inside = marks.flatMap((mark) => (table[mark] ? [`<${table[mark]}/>`] : [])).join('');
    return inside === '' ? '' : `<${around}>${inside}</${around}>`;
  };
  const inside = [
    ...ties.map((type) => `<tied type="${type}"/>`),
    ...(pitch.endSlur ?? []).map((_, n) => `<slur type="stop" number="${n + 1}"/>`),
    ...(pitch.startSlur ?? []).map((_, n) => `<slur type="start" number="${n + 1}"/>`),
    isTuplet && element?.startTriplet !== undefined ? '<tuplet type="start"/>' : '',
    isTuplet && element?.endTriplet ? '<tuplet type="stop"/>' : '',
    ornamentsXml(marks),
    named(TECHNIQUES, 'technical'),
    named(ARTICULATIONS, 'articulations'),
    marks.includes('fermata') ? '<fermata/>' : '',
  ].join('');
  return inside === '' ? '' : `<notations>${inside}</notations>`;
}

/** Ornaments and strokes through the stem: "///" is a roll or a tremolo. */
function ornamentsXml(marks: readonly string[]): string {
  const inside = marks
    .flatMap((mark) => [
      ...(ORNAMENTS[mark] ? [`<${ORNAMENTS[mark]}/>`] : []),
      ...(/^\/{1,4}$/u.test(mark) ? [`<tremolo type="single">${mark.length}</tremolo>`] : []),
    ])
    .join('');
  return inside === '' ? '' : `<ornaments>${inside}</ornaments>`;
}
