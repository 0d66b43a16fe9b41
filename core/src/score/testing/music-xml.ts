/** Builders of small MusicXML texts for specs: written out by hand so that each spec shows what its file holds. */

/** One note of a pitch such as "C4" or "B-3" (flat) with its duration in divisions. */
export function note(pitch: string, duration: number, inside = ''): string {
  const [, step = '', sign = '', octave = ''] = /^([A-G])([#-]?)(\d)$/u.exec(pitch) ?? [];
  const alter = sign === '#' ? '<alter>1</alter>' : sign === '-' ? '<alter>-1</alter>' : '';
  return `<note><pitch><step>${step}</step>${alter}<octave>${octave}</octave></pitch><duration>${duration}</duration>${inside}</note>`;
}

/** A rest of so many divisions. */
export function rest(duration: number): string {
  return `<note><rest/><duration>${duration}</duration></note>`;
}

/** A measure with its number and content. */
export function measure(number: string, content: string, attributes = ''): string {
  return `<measure number="${number}"${attributes}>${content}</measure>`;
}

/** The usual head of a first measure: divisions, key of C, a meter. */
export function head(divisions = 4, beats = '4', beatType = '4', more = ''): string {
  return `<attributes><divisions>${divisions}</divisions><key><fifths>0</fifths></key><time><beats>${beats}</beats><beat-type>${beatType}</beat-type></time>${more}</attributes>`;
}

/** A metronome mark; `sound` is the quarter tempo the file plays, if it says so. */
export function metronome(unit: string, perMinute: string, dots = 0, sound = ''): string {
  return `<direction><direction-type><metronome><beat-unit>${unit}</beat-unit>${'<beat-unit-dot/>'.repeat(dots)}<per-minute>${perMinute}</per-minute></metronome></direction-type>${sound === '' ? '' : `<sound tempo="${sound}"/>`}</direction>`;
}

/** A whole file with parts by id and name. */
export function partwise(
  parts: Readonly<Record<string, { readonly name: string; readonly measures: string }>>,
  before = '',
): string {
  const list = Object.entries(parts).map(
    ([id, { name }]) => `<score-part id="${id}"><part-name>${name}</part-name></score-part>`,
  );
  const bodies = Object.entries(parts).map(([id, { measures }]) => `<part id="${id}">${measures}</part>`);
  return `<?xml version="1.0" encoding="UTF-8"?>${before}<score-partwise version="4.0"><part-list>${list.join('')}</part-list>${bodies.join('')}</score-partwise>`;
}

/** A one-part file. */
export function solo(measures: string): string {
  return partwise({ P1: { name: 'Flute', measures } });
}

/** The text as the bytes of a file. */
export function bytesOf(text: string): Uint8Array {
  return new TextEncoder().encode(text);
}
