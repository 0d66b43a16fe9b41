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

describe('parts as bodies set them out', () => {
  it('in a table with players down the side and kinds along the top, each cell is a part of that player', () => {
    const text = `${HEAD}
| Instrument | Solo | Orchestral excerpt | Scale |
|---|---|---|---|
| Flute | Own choice, 2-3 min | Vask: Tidewatch, mvt 2, mm. 1-30, q=54 | E major, 3 oct. |
| Oboe | Own choice, 2-3 min | - | D major, 2 oct. |
`;
    const { parts: read, deadlines } = readSheet(text).sheet;
    expect(read.map(({ label, scope, kind }) => [label, scope.instruments.join(), kind])).toEqual([
      ['Flute solo', 'Flute', 'solo'],
      ['Orchestral excerpt', 'Flute', 'excerpt'],
      ['Flute scale', 'Flute', 'scale'],
      ['Oboe solo', 'Oboe', 'solo'],
      ['Oboe scale', 'Oboe', 'scale'],
    ]);
    expect([read[1]?.source.composer, read[1]?.title, read[2]?.octaves]).toEqual(['Vask', 'Tidewatch', 3]);
    // "3 oct." is no day of October.
    expect(deadlines).toEqual([]);
  });

  it('in columns without a head, under each instrument; the scales of all in one line', () => {
    const text = `${HEAD}
Violin I / II
  Etude      Marchetti-Lowe, "Thirty Caprices", #11     mm. 1-32      quarter = 76
Cello
  Etude      Brandvold, "Low Water Studies", no. 5      mm. 1-9       eighth = 108

Scales (all): three octaves, quarter = 80
   Violin - A major     Cello - C major
Sight-reading will be given in the room.
`;
    const { parts: read } = readSheet(text).sheet;
    expect(
      read.map(({ scope, source, key, octaves }) => [scope.instruments.join(), source.number, key, octaves]),
    ).toEqual([
      ['Violin', '11', null, null],
      ['Cello', '5', null, null],
      ['Violin', null, 'A major', 3],
      ['Cello', null, 'C major', 3],
      ['', null, null, null],
    ]);
  });

  it('in a mail: works that players of several instruments are told to play', () => {
    const text = `${HEAD}\nHi all,\n\nSaxes and trumpets: play "Low Tide" (swing, quarter = 152, bars 1 to 24) and "Pier Lights" (ballad, quarter = 60).\n`;
    const { parts: read } = readSheet(text).sheet;
    expect(read.map(({ title, scope, tempo }) => [title, scope.instruments.length, tempo.bpmMin])).toEqual([
      ['Low Tide', 2, 152],
      ['Pier Lights', 2, 60],
    ]);
  });

  it('in a syllabus: keys of which each has its mode, both forms, marks of several together', () => {
    const text = `${HEAD}
A. TECHNIQUE (25 marks)
   1. Scales, 4 octaves, crotchet = 88:
        E major, C sharp minor (harmonic and melodic)
   2. Arpeggios, 4 octaves, crotchet = 72: E, A flat, C sharp minor, F minor
B. SIGHT READING (10 marks)   C. EAR TESTS (5 marks)
`;
    const { parts: read } = readSheet(text).sheet;
    expect(read.map(({ key, tempo, points }) => [key, tempo.bpmMin, points])).toEqual([
      ['E major', 88, null],
      ['C# harmonic minor', 88, null],
      ['C# melodic minor', 88, null],
      ['E major', 72, null],
      ['Ab major', 72, null],
      ['C# minor', 72, null],
      ['F minor', 72, null],
      [null, null, 10],
      [null, null, 5],
    ]);
  });

  it('with bare letters, of which it is asked whether they are major or minor', () => {
    const text = `${HEAD}\nMALLETS\nEtude #7, page 12, from "Bars of Rosewood". Quarter = 69.\nScales: Concert F, Bb, 2 octaves, quarter = 120\n\nEach etude is worth 25 points.\n`;
    const { sheet } = readSheet(text);
    expect(sheet.parts.map(({ key, source }) => [key, source.number])).toEqual([
      [null, '7'],
      ['concert F', null],
      ['concert Bb', null],
    ]);
    expect(sheet.questions.map(({ ask }) => ask)).toContain('Is Concert F a major or a minor scale?');
    expect(sheet.parts[0]?.points).toBe(25);
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
