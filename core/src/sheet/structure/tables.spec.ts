import { cleanText, readRawLines } from '../text/raw-lines.js';
import { findTables } from './tables.js';
import { rolesOf } from './table-roles.js';

// Grids written by hand: what a person sees as rows and columns on the page.
const WANTED = [
  ['Key', 'Octaves', 'Tempo'],
  ['C', '2', 'q = 84'],
  ['B♭', '1', 'q = 60'],
];

function gridOf(text: string): (string | null)[][] {
  const [table] = findTables(readRawLines(cleanText(text)));
  return (table?.rows ?? []).map((row) => row.map((cell) => cell?.text ?? null));
}

describe('findTables', () => {
  const pastes: Readonly<Record<string, string>> = {
    tabs: 'Key\tOctaves\tTempo\nC\t2\tq = 84\nB♭\t1\tq = 60',
    pipes: '| Key | Octaves | Tempo |\n|---|---|---|\n| C | 2 | q = 84 |\n| B♭ | 1 | q = 60 |',
    commas: 'Key,Octaves,Tempo\nC,2,"q = 84"\nB♭,1,q = 60',
    'wide spaces': 'Key    Octaves   Tempo\nC      2         q = 84\nB♭     1         q = 60',
    'one cell a line': 'Key\nOctaves\nTempo\nC\n2\nq = 84\nB♭\n1\nq = 60',
  };
  for (const [name, text] of Object.entries(pastes))
    it(`sees one grid whatever it was pasted with: ${name}`, () => {
      expect(gridOf(text)).toEqual(WANTED);
    });

  it('sees columns between single spaces where every line has as many words', () => {
    expect(gridOf('Key Octaves Tempo\nC 2 84\nB♭ 1 60')).toEqual([
      ['Key', 'Octaves', 'Tempo'],
      ['C', '2', '84'],
      ['B♭', '1', '60'],
    ]);
  });

  it('keeps a cell that runs over several lines whole, and every place in the text', () => {
    const text =
      '1   Odd Marrin     Slow Air: bars 1–36 (Oat\n                   & Anvil)\n2   Petra Lunde    Heron over Ice';
    const [table] = findTables(readRawLines(text));
    const cell = table?.rows[0]?.[2];
    expect(cell?.text).toBe('Slow Air: bars 1–36 (Oat & Anvil)');
    expect(
      [...(cell?.at ?? [])]
        .map((place) => text[place])
        .join('')
        .replace(/\n/gu, ' '),
    ).toContain('Anvil');
  });

  it('takes ragged rows as they are, a name between rows as a row of one cell, and prose as no table', () => {
    expect(gridOf('\tSet 1\tSet 2\nFLUTE\nLyrical\tNo. 4\tNo. 11\n\tall\nFast\tNo. 7')).toEqual([
      [null, 'Set 1', 'Set 2'],
      ['FLUTE', null, null],
      ['Lyrical', 'No. 4', 'No. 11'],
      [null, 'all', null],
      ['Fast', 'No. 7', null],
    ]);
    expect(
      findTables(readRawLines('Play all of it, please.\nIt is short, and slow.\nThen rest, and go.')),
    ).toEqual([]);
  });

  it('reads two thousand rows in the time of their lines', () => {
    const rows = Array.from({ length: 2000 }, (_, n) => `C,${n % 3},q = ${60 + (n % 40)}`);
    expect(gridOf(['Key,Octaves,Tempo', ...rows].join('\n'))).toHaveSize(2001);
  });
});

describe('rolesOf', () => {
  const roles = (text: string): string[] =>
    rolesOf(findTables(readRawLines(text))[0]?.rows ?? []).columns.map(({ role }) => role);

  it('tells what a column holds by its heading, or by what most of its cells are', () => {
    expect(roles('Part\tWork\tBars\tSpeed\tMarks\nA\tX\t1-8\tq = 80\t20\nB\tY\t9-12\tq = 90\t30')).toEqual([
      'label',
      'title',
      'measures',
      'tempo',
      'points',
    ]);
    expect(roles('Flute\tno. 3\t♩ = 80\nOboe\tno. 4\t♩ = 92–96\nTuba\tno. 9\tabout ♩ = 60')).toEqual([
      'instrument',
      'number',
      'tempo',
    ]);
  });

  it('tells turns of a rotation and instruments that stand over columns from fields', () => {
    expect(roles('\t2026–27\t2027–28\nEtude A\tno. 8\tno. 15\nEtude B\tno. 9\tno. 16')).toEqual([
      'label',
      'cells',
      'cells',
    ]);
    expect(roles('\tOboe\tHorn in F\nSlow\tno. 3\tno. 5\nFast\tno. 9\tno. 6')).toEqual([
      'label',
      'cells',
      'cells',
    ]);
  });

  it('stands a table upright whose parts are columns', () => {
    const { body, columns } = rolesOf(
      findTables(
        readRawLines('\tEtude 1\tEtude 2\nTitle\tEbb\tFlow\nTempo\tq = 80\tq = 90\nPoints\t20\t30'),
      )[0]?.rows ?? [],
    );
    expect(columns.map(({ role }) => role)).toEqual(['label', 'title', 'tempo', 'points']);
    expect(body.map((row) => row.map((cell) => cell?.text))).toEqual([
      ['Etude 1', 'Ebb', 'q = 80', '20'],
      ['Etude 2', 'Flow', 'q = 90', '30'],
    ]);
  });
});
