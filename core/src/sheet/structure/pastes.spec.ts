import { readSheet } from '../read-sheet.js';

// Pastes written by hand as they come from mail and pages; what a person sees in each stands beside it.
const HEAD = 'Skerrin School Bands 2026–27\n';

type Told = readonly (string | null | readonly string[])[];

function parts(text: string): Told[] {
  return readSheet(text).sheet.parts.map(({ label, scope, source }) => [
    label,
    scope.instruments,
    source.number,
    source.page,
  ]);
}

describe('names of columns that stand once', () => {
  const TEXT = `${HEAD}
Part         2025–26    2026–27    Page    Tempo

OBOE
Lyrical      No. 9      No. 16     24      ♩ = 63
Technical    No. 10     No. 18     27      ♩ = 132*

BASSOON
Lyrical      No. 12     No. 31     40      ♩ = 58
Technical    No. 14     No. 23     34      ♩ = 96

* 132 is the goal.

Scales: B♭ major, two octaves, ♩ = 100.
`;

  it('hold for the tables below them, and the year in force is told by the head', () => {
    expect(parts(TEXT)).toEqual([
      ['Oboe lyrical', ['Oboe'], '16', '24'],
      ['Oboe technical', ['Oboe'], '18', '27'],
      ['Bassoon lyrical', ['Bassoon'], '31', '40'],
      ['Bassoon technical', ['Bassoon'], '23', '34'],
      ['Bb major', [], null, null],
    ]);
  });

  it('may stand again over the rows of another instrument, and are no part', () => {
    const text = `${HEAD}OBOE\nItem\tNo.\tPage\nLyrical\t4\t9\nBASSOON\nItem\tNo.\tPage\nLyrical\t8\t15\n`;
    expect(parts(text)).toEqual([
      ['Oboe lyrical', ['Oboe'], '4', '9'],
      ['Bassoon lyrical', ['Bassoon'], '8', '15'],
    ]);
  });
});

describe('words on all parts', () => {
  it('may begin with “unless noted”, which names no book', () => {
    const text = `${HEAD}Unless noted, every etude is from “Tides” by Ottoline Vask.\nEtude 1: no. 4, mm. 1-8\n`;
    expect(readSheet(text).sheet.parts[0]?.source.book).toBe('Tides');
  });

  it('may be points by kinds without a heading', () => {
    const text = `${HEAD}Etude 1: no. 4, mm. 1-8\nEtude 2: no. 5, mm. 1-8\nScales: C major\nEtudes 40 each, scales 20.\n`;
    expect(readSheet(text).sheet.parts.map(({ points }) => points)).toEqual([40, 40, 20]);
  });
});

describe('pastes that are not as they should be', () => {
  it('of two sheets: the first is read, the other is left in sight and told', () => {
    const text =
      'SKERRIN BOARD OF MUSIC\nClarinet 2027\n\nEtude 1: no. 4, mm. 1-24, quarter = 60\n\n' +
      'Auditions: May 1, 2027\n\nNORTHFALL GUILD OF TEACHERS\nViolin List 2027\n\nEtude 1: no. 12, mm. 5-20\n';
    const { sheet, unread, text: read } = readSheet(text);
    expect(sheet.parts.map(({ source }) => source.number)).toEqual(['4']);
    expect(sheet.questions.map(({ ask }) => ask)).toEqual([
      'This text goes on with the sheet of NORTHFALL GUILD OF TEACHERS, which was left out. Paste each sheet for itself.',
    ]);
    expect(unread.map(({ start, end }) => read.slice(start, end)).join()).toMatch(/^NORTHFALL.*5-20$/su);
  });

  it('of ragged rows: cells stay in their columns, and a row that names nothing is unread', () => {
    const text = `${HEAD}FLUTE\nItem\tNo.\tPage\tMeasures\nLyrical\t4\t9\nTechnical\t7\t12\t1-40\tloose\nLarks\nScherzo\t\t15\n`;
    expect(parts(text)).toEqual([
      ['Lyrical', [], '4', '9'],
      ['Technical', [], '7', '12'],
      ['Scherzo', [], null, '15'],
    ]);
    const { unread, text: read } = readSheet(text);
    expect(unread.map(({ start, end }) => read.slice(start, end))).toEqual(['Larks']);
  });

  it('of two thousand rows: every row is a part', () => {
    const rows = Array.from({ length: 2000 }, (_, n) => `Flute,Etude ${n + 1},${n},1-${(n % 60) + 2}`);
    const { parts: read } = readSheet(`Instrument,Item,No.,Measures\n${rows.join('\n')}\n`).sheet;
    expect(read.length).toBe(2000);
    expect(read.at(-1)?.source.number).toBe('1999');
  });
});
