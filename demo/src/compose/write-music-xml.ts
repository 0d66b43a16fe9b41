import { alterInKey, type Step } from '@vivid-cue/core/music';
import { DIVISIONS, readStudy, type StudyMeasure, type StudyNote, type StudyText } from './study-text.js';

/**
 * A study as a MusicXML 4.0 partwise file with beams, accidentals, slurs, marks and a tempo.
 * Shape:  a whole document
 * Units:  12 divisions a quarter
 * Source: MusicXML 4.0
 */
export function writeMusicXml(study: StudyText): string {
  const measures = readStudy(study);
  const hasPickup =
    (measures[0]?.notes ?? []).reduce((sum, note) => sum + note.duration, 0) < fullMeasure(study);
  const state: WriterState = { isTied: false };
  const body = measures.map((measure, index) => {
    const number = hasPickup ? index : index + 1;
    const implicit = hasPickup && index === 0 ? ' implicit="yes"' : '';
    const head = index === 0 ? attributes(study) + tempo(study) : '';
    return `    <measure number="${number}"${implicit}>\n${barline(measure, 'left')}${head}${writeMeasure(study, measure, state)}${barline(measure, 'right', index === measures.length - 1)}    </measure>\n`;
  });
  return `${header(study)}  <part id="P1">\n${body.join('')}  </part>\n</score-partwise>\n`;
}

interface WriterState {
  isTied: boolean;
}

function fullMeasure(study: StudyText): number {
  return (study.beats * 4 * DIVISIONS) / study.beatType;
}

function header(study: StudyText): string {
  return `<?xml version="1.0" encoding="UTF-8"?>
<score-partwise version="4.0">
  <work><work-title>${study.title}</work-title></work>
  <identification><rights>Composed for the Vivid Cue project, MIT licence</rights></identification>
  <part-list>
    <score-part id="P1">
      <part-name>${study.instrument}</part-name>
      <part-abbreviation>${study.abbreviation}</part-abbreviation>
      <score-instrument id="P1-I1"><instrument-name>${study.instrument}</instrument-name></score-instrument>
      <midi-instrument id="P1-I1"><midi-channel>1</midi-channel><midi-program>${study.midiProgram}</midi-program></midi-instrument>
    </score-part>
  </part-list>
`;
}

function attributes(study: StudyText): string {
  const transpose = study.transpose
    ? `<transpose><diatonic>${study.transpose.diatonic}</diatonic><chromatic>${study.transpose.chromatic}</chromatic></transpose>`
    : '';
  return `      <attributes><divisions>${DIVISIONS}</divisions><key><fifths>${study.fifths}</fifths><mode>${study.mode}</mode></key><time><beats>${study.beats}</beats><beat-type>${study.beatType}</beat-type></time><clef><sign>${study.clef.sign}</sign><line>${study.clef.line}</line></clef>${transpose}</attributes>\n`;
}

function tempo({ tempo: { words, unit, dots, bpm } }: StudyText): string {
  const quarterTempo = dots === 1 ? bpm * 1.5 : bpm;
  return `      <direction placement="above"><direction-type><words font-weight="bold">${words}</words></direction-type><direction-type><metronome><beat-unit>${unit}</beat-unit>${'<beat-unit-dot/>'.repeat(dots)}<per-minute>${bpm}</per-minute></metronome></direction-type><sound tempo="${quarterTempo}"/></direction>\n`;
}

function barline(measure: StudyMeasure, side: 'left' | 'right', isLast = false): string {
  const parts: string[] = [];
  if (side === 'left') {
    if (measure.repeatForward) parts.push('<bar-style>heavy-light</bar-style>');
    if (measure.ending !== null)
      parts.push(`<ending number="${measure.ending}" type="start">${measure.ending}.</ending>`);
    if (measure.repeatForward) parts.push('<repeat direction="forward"/>');
  } else {
    if (measure.repeatBackward || isLast) parts.push('<bar-style>light-heavy</bar-style>');
    if (measure.ending !== null)
      parts.push(
        `<ending number="${measure.ending}" type="${measure.repeatBackward ? 'stop' : 'discontinue'}"/>`,
      );
    if (measure.repeatBackward) parts.push('<repeat direction="backward"/>');
  }
  return parts.length === 0 ? '' : `      <barline location="${side}">${parts.join('')}</barline>\n`;
}

function writeMeasure(study: StudyText, measure: StudyMeasure, state: WriterState): string {
  const beams = beamsOf(study, measure.notes);
  const inForce = new Map<string, number>();
  const notes = measure.notes.map((note, index) => {
    const directions = note.before.map((sign) => direction(sign)).join('');
    const accidental = accidentalOf(note, study.fifths, { inForce, isTied: state.isTied });
    return (
      directions +
      writeNote(note, beams[index] ?? '', { accidental, state, tuplet: tripletEdge(measure.notes, index) })
    );
  });
  return notes.join('') + measure.after.map((sign) => direction(sign)).join('');
}

function direction(sign: string): string {
  const wrap = (inner: string, placement: string): string =>
    `      <direction placement="${placement}"><direction-type>${inner}</direction-type></direction>\n`;
  if (/^[A-Z]$/u.test(sign)) return wrap(`<rehearsal>${sign}</rehearsal>`, 'above');
  if (sign === '<' || sign === '>')
    return wrap(`<wedge type="${sign === '<' ? 'crescendo' : 'diminuendo'}"/>`, 'below');
  if (sign === '/') return wrap('<wedge type="stop"/>', 'below');
  return wrap(`<dynamics><${sign}/></dynamics>`, 'below');
}

function accidentalOf(
  note: StudyNote,
  fifths: number,
  { inForce, isTied }: { readonly inForce: Map<string, number>; readonly isTied: boolean },
): string {
  if (note.step === null) return '';
  const place = `${note.step}${note.octave}`;
  const current = inForce.get(place) ?? alterInKey(note.step as Step, fifths);
  if (note.alter === current || isTied) return '';
  inForce.set(place, note.alter);
  return `<accidental>${note.alter === 1 ? 'sharp' : note.alter === -1 ? 'flat' : 'natural'}</accidental>`;
}

function tripletEdge(notes: readonly StudyNote[], index: number): 'start' | 'stop' | '' {
  if (notes[index]?.isTriplet !== true) return '';
  let before = 0;
  while (notes[index - before - 1]?.isTriplet === true) before += 1;
  return before % 3 === 0 ? 'start' : before % 3 === 2 ? 'stop' : '';
}

function writeNote(
  note: StudyNote,
  beams: string,
  {
    accidental,
    state,
    tuplet,
  }: { readonly accidental: string; readonly state: WriterState; readonly tuplet: string },
): string {
  const ties = `${state.isTied ? '<tie type="stop"/>' : ''}${note.marks.includes('~') ? '<tie type="start"/>' : ''}`;
  const pitch =
    note.step === null
      ? '<rest/>'
      : `<pitch><step>${note.step}</step>${note.alter === 0 ? '' : `<alter>${note.alter}</alter>`}<octave>${note.octave}</octave></pitch>`;
  const modification = note.isTriplet
    ? '<time-modification><actual-notes>3</actual-notes><normal-notes>2</normal-notes></time-modification>'
    : '';
  const notations = notationsOf(note, state, tuplet);
  state.isTied = note.marks.includes('~');
  return `      <note>${pitch}<duration>${note.duration}</duration>${ties}<voice>1</voice><type>${note.type}</type>${'<dot/>'.repeat(note.dots)}${accidental}${modification}${beams}${notations}</note>\n`;
}

function notationsOf(note: StudyNote, state: WriterState, tuplet: string): string {
  const { marks } = note;
  const inner = [
    state.isTied ? '<tied type="stop"/>' : '',
    marks.includes('~') ? '<tied type="start"/>' : '',
    marks.includes(')') ? '<slur type="stop" number="1"/>' : '',
    marks.includes('(') ? '<slur type="start" number="1"/>' : '',
    tuplet === '' ? '' : `<tuplet type="${tuplet}" bracket="no"/>`,
  ].join('');
  const signs = [
    marks.includes('>') ? '<accent/>' : '',
    marks.includes('!') ? '<staccato/>' : '',
    marks.includes('-') ? '<tenuto/>' : '',
  ].join('');
  const articulations = signs === '' ? '' : `<articulations>${signs}</articulations>`;
  return inner + articulations === '' ? '' : `<notations>${inner}${articulations}</notations>`;
}

/** Beams by beat: a quarter in simple meters, a dotted quarter in compound ones; sixteenths get a second level. */
function beamsOf(study: StudyText, notes: readonly StudyNote[]): string[] {
  const beat = study.beatType === 8 ? (DIVISIONS * 3) / 2 : DIVISIONS;
  const groups: number[] = [];
  let at = 0;
  for (const note of notes) {
    const isBeamed = note.step !== null && note.duration <= DIVISIONS / 2;
    groups.push(isBeamed ? Math.floor(at / beat) : -1 - groups.length);
    at += note.duration;
  }
  return notes.map((note, index) => {
    const level = (depth: number): string => {
      const joins = (other: number): boolean =>
        groups[other] === groups[index] && (depth === 1 || notes[other]?.type === '16th');
      if (groups[index] === undefined || groups[index] < 0 || (depth === 2 && note.type !== '16th'))
        return '';
      const kind = joins(index - 1)
        ? joins(index + 1)
          ? 'continue'
          : 'end'
        : joins(index + 1)
          ? 'begin'
          : '';
      return kind === '' ? '' : `<beam number="${depth}">${kind}</beam>`;
    };
    return level(1) + level(2);
  });
}
