/** A document of pdfmake, as plain data. */
export type ReportDoc = Readonly<Record<string, unknown>>;
/** A piece of a document. */
export type Node = Readonly<Record<string, unknown>> | string;

/** Notes and accidentals stand in the music font, letters beyond the first four hundred in the other file. */
const PIECES = /([\u2669-\u266F\u{1D100}-\u{1D1FF}]+)|([\u0100-\u024F\u1E00-\u1EFF]+)/gu;

/**
 * A text in the fonts that have its letters.
 * Shape:  runs of pdfmake
 */
export function inFonts(text: string): Node[] {
  const runs: Node[] = [];
  let end = 0;
  for (const match of text.matchAll(PIECES)) {
    if (match.index > end) runs.push({ text: text.slice(end, match.index) });
    runs.push({ text: match[0], font: match[1] === undefined ? 'More' : 'Notes' });
    end = match.index + match[0].length;
  }
  if (end < text.length || runs.length === 0) runs.push({ text: text.slice(end) });
  return runs;
}

/** A line of text in the fonts that have its letters. */
export function line(text: string, more: object = {}): Node {
  return { text: inFonts(text), ...more };
}

/**
 * A text for a line among lines: the music font stands so high that each of its signs would push the lines apart.
 * Shape:  tempos as numbers, whose note value the heading of the part has; accidentals in words
 */
export function inWords(text: string): string {
  return text
    .replaceAll(/[\u2669-\u266C\u{1D100}-\u{1D1FF}.]+=(?=\d)/gu, '')
    .replaceAll('♭', ' flat')
    .replaceAll('♯', ' sharp')
    .replaceAll('♮', ' natural');
}

/** A cue's sign for paper: the text font has no sign of a down-bow. */
export function plainSign(sign: string): string {
  return sign.replace('⊓', 'n');
}

const STYLES = {
  title: { fontSize: 20, bold: true, margin: [0, 0, 0, 2] },
  head: { fontSize: 14, bold: true, margin: [0, 12, 0, 4] },
  soft: { color: '#4a5266', fontSize: 10 },
  label: { color: '#4a5266', fontSize: 9, bold: true },
};

/** A page with its foot. */
export function page(content: readonly Node[], footer: string): ReportDoc {
  return {
    pageSize: 'A4',
    pageMargins: [42, 42, 42, 48],
    defaultStyle: { font: 'Text', fontSize: 11, color: '#1d2433', lineHeight: 1.15 },
    styles: STYLES,
    footer: { text: inFonts(footer), style: 'soft', margin: [42, 14, 42, 0] },
    content,
  };
}

/** A table with its headings. */
export function table(
  widths: readonly (string | number)[],
  head: readonly string[],
  rows: readonly (readonly Node[])[],
): Node {
  return {
    layout: 'lightHorizontalLines',
    margin: [0, 2, 0, 6],
    table: { headerRows: 1, widths, body: [head.map((text) => ({ text, style: 'label' })), ...rows] },
  };
}
