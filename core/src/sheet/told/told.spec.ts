import { amendSheet } from '../errata/amend.js';
import { readErrata } from '../errata/read-errata.js';
import type { SheetPart } from '../model.js';
import { readSheet } from '../read-sheet.js';
import type { SheetReading } from '../reading.js';
import { withCorrection, withoutCorrection, type Correction, type WordField } from './corrections.js';
import { withKnownParts } from './same-parts.js';
import { valueOfWords } from './words.js';

// Texts written by hand; what a person sees in each stands beside it.
const SHEET = `Skerrin Youth Winds 2027
Blåserinnen
1. Slow study: no. 4, p. 9, mm. 1-24, quarter = 60
2. Fast study: no. 7, p. 12, all, quarter = 120
Office hours are Tuesday mornings
Heart it all by memory
`;

function read(text: string, corrections: readonly Correction[] = []): SheetReading {
  return readSheet(text, undefined, corrections);
}

/** The line of a text that begins so, as a person would point at it. */
function at(text: string, start: string, nth = 0): Correction['at'] {
  const line = text.split('\n').find((one) => one.trim().startsWith(start)) ?? '';
  return { line: line.trim().replace(/\s+/gu, ' '), nth };
}

function partAt({ sheet, anchors }: SheetReading, label: string) {
  const anchor = anchors[sheet.parts.findIndex((part) => part.label === label)];
  if (!anchor) throw new Error(`no part is called ${label}`);
  return anchor;
}

function line(text: string, start: string, role: (Correction & { kind: 'line' })['role']): Correction {
  return { kind: 'line', at: at(text, start), role };
}

describe('a line that is told what it is', () => {
  it('begins an instrument, whatever the name is', () => {
    const { sheet, blocks } = read(SHEET, [line(SHEET, 'Blås', 'instrument')]);
    expect(sheet.instruments).toContain('Blåserinnen');
    expect(sheet.parts.length).toBe(2);
    expect(
      blocks.find((block) => block.kind === 'line' && block.isTold && block.role === 'instrument'),
    ).toBeDefined();
  });

  it('begins a division, with the parts below it', () => {
    const text =
      'Skerrin Winds 2027\nThe Otters\nEtude 1: no. 4, mm. 1-8\nThe Seals\nEtude 1: no. 9, mm. 1-16\n';
    const { sheet } = read(text, [line(text, 'The Otters', 'division'), line(text, 'The Seals', 'division')]);
    expect(sheet.parts.map(({ scope, source }) => [scope.divisions, source.number])).toEqual([
      [['The Otters'], '4'],
      [['The Seals'], '9'],
    ]);
  });

  it('begins a list, a part, or says more of the part above', () => {
    const text =
      'Skerrin Winds 2027\nFirst shelf\n1. Ebb, by Una Marrin\n2. Flow, by Odd Lunde\nEvening thing, no. 3, p. 8\nOnly to measure 20, quarter = 66\n';
    const listed = read(text, [line(text, 'First shelf', 'list')]).sheet.parts;
    expect(listed.map(({ scope }) => scope.options)).toContain(['First shelf']);
    const told = [line(text, 'Evening', 'part'), line(text, 'Only', 'more')];
    const part = read(text, told).sheet.parts.at(-1);
    expect(part?.label).toBe('Evening thing');
    expect(part?.source.page).toBe('8');
    expect(part?.tempo.bpmMin).toBe(66);
  });

  it('is a rule for all, points, or a date whose day is asked', () => {
    const text =
      'Skerrin Winds 2027\nEtude 1: no. 4, mm. 1-8\nEtude 2: no. 5, mm. 1-8\nThe slow book: from memory\nTwenty for etude 1, thirty for etude 2\nWhen the ferry comes in\n';
    expect(read(text).sheet.parts.map(({ memory }) => memory)).not.toEqual([true, true]);
    const { sheet } = read(text, [line(text, 'The slow', 'rule'), line(text, 'When', 'dates')]);
    expect(sheet.parts.map(({ memory }) => memory)).toEqual([true, true]);
    expect(sheet.deadlines.map(({ date, text: printed }) => [date, printed])).toEqual([
      [null, 'When the ferry comes in'],
    ]);
    expect(sheet.questions.map(({ ask }) => ask)).toContain(
      'Which day is meant by "When the ferry comes in"?',
    );
    const points =
      'Skerrin Winds 2027\nEtude 1: no. 4, mm. 1-8\nScales: C major, 2 octaves\nWeights\nEtude 1 60, scales 40\n';
    const scored = read(points, [line(points, 'Etude 1 60', 'scoring')]).sheet.parts;
    expect(scored.find(({ label }) => label === 'Etude 1')?.points).toBe(60);
  });

  it('is a footnote of what stands above it, or of no use', () => {
    const text =
      'Skerrin Winds 2027\nItem\tNo.\tTempo\nLyrical\t4\t60\nTechnical\t7\t120\nThose two from memory\n';
    const { parts } = read(text, [line(text, 'Those', 'footnote')]).sheet;
    expect(parts.map(({ memory }) => memory)).toEqual([true, true]);
    const useless = read(SHEET, [line(SHEET, 'Heart', 'nothing'), line(SHEET, '1. Slow', 'nothing')]);
    expect(useless.sheet.parts.map(({ source }) => source.number)).toEqual(['7']);
    expect(useless.unread).toEqual([]);
    expect(useless.blocks.filter((block) => block.kind === 'line' && block.role === 'nothing').length).toBe(
      2,
    );
  });

  it('holds a table together that a page head cut in two', () => {
    const text =
      'Skerrin Winds 2027\nItem\tNo.\tPage\nLyrical\t4\t9\nTechnical\t7\t12\nSkerrin leaf two\nStyle\t8\t15\nScherzo\t9\t16\n';
    const { sheet, blocks } = read(text, [line(text, 'Skerrin leaf', 'nothing')]);
    expect(sheet.parts.map(({ source }) => source.page)).toEqual(['9', '12', '15', '16']);
    expect(blocks.filter(({ kind }) => kind === 'table').length).toBe(1);
  });
});

describe('a column that is told what it holds', () => {
  const TABLE =
    'Skerrin Winds 2027\nFLUTE\nDing\tNr\tSeite\tTakte\tMM\nLyrical\t4\t9\t1-24\t60\nTechnical\t7\t12\t1-40\t120\n';
  const column = (n: number, role: (Correction & { kind: 'column' })['role']): Correction => ({
    kind: 'column',
    at: at(TABLE, 'Ding'),
    column: n,
    role,
  });

  it('holds that, and its head of unknown words is no part once it is of no use', () => {
    const told = [
      line(TABLE, 'Ding', 'nothing'),
      column(0, 'label'),
      column(1, 'number'),
      column(2, 'page'),
      column(3, 'measures'),
      column(4, 'tempo'),
    ];
    const { sheet, blocks } = read(TABLE, told);
    expect(sheet.parts.map(({ label, source }) => [label, source.number, source.page])).toEqual([
      ['Lyrical', '4', '9'],
      ['Technical', '7', '12'],
    ]);
    expect(sheet.parts.map(({ tempo }) => tempo.bpmMin)).toEqual([60, 120]);
    const table = blocks.find((block) => block.kind === 'table');
    expect(table?.kind === 'table' && table.columns.every(({ isTold }) => isTold)).toBeTrue();
  });

  it('says which turn of a rotation is in force', () => {
    const text =
      'Skerrin Winds 2027\n\t2025-26\t2026-27\t2027-28\nFLUTE\t\t\t\nLyrical\tNo. 4\tNo. 11\tNo. 17\nFast\tNo. 7\tNo. 13\tNo. 19\n';
    const numbers = (told: readonly Correction[]): (string | null)[] =>
      read(text, told).sheet.parts.map(({ source }) => source.number);
    expect(numbers([{ kind: 'column', at: at(text, '2025'), column: 3, role: 'cells' }])).toEqual([
      '17',
      '19',
    ]);
    expect(numbers([{ kind: 'column', at: at(text, '2025'), column: 1, role: 'cells' }])).toEqual(['4', '7']);
  });
});

describe('words that are given to a field', () => {
  const TEXT =
    'Skerrin Winds 2027\nEtude 1: no. 4, mm. 1-8, quarter = 60\nPlay it like a kestrel, at some 72 to the quarter\n';
  const words = (field: WordField, own: string, reading = read(TEXT)): Correction => {
    const row = TEXT.split('\n').find((one) => one.includes(own)) ?? '';
    return {
      kind: 'words',
      at: at(TEXT, row),
      from: row.indexOf(own),
      to: row.indexOf(own) + own.length,
      part: partAt(reading, 'Etude 1'),
      field,
    };
  };
  const part = (told: readonly Correction[], text = TEXT): SheetPart | undefined =>
    read(text, told).sheet.parts[0];

  it('outweigh what is read, and are lit from then on', () => {
    const told = [words('tempo', '72 to the quarter'), words('title', 'kestrel')];
    expect(part(told)?.tempo.bpmMin).toBe(72);
    expect(part(told)?.title).toBe('kestrel');
    const { marks, text } = read(TEXT, told);
    expect(marks.map(({ start, end, about }) => [text.slice(start, end), about])).toContain([
      'kestrel',
      'parts[0]/title',
    ]);
  });

  it('outlive a new paste of the same text with other spaces and more around it, and an erratum', () => {
    const told = [words('tempo', '72 to the quarter')];
    const pasted = `Posted by the office.\n\n${TEXT.replace('Etude 1:', '  Etude 1: ').replace(/\n/gu, '\n\n')}`;
    expect(part(told, pasted)?.tempo.bpmMin).toBe(72);
    const { sheet } = read(TEXT, told);
    const errata = readErrata('Etude 1: measures 1-8 should read measures 1-12.', sheet);
    const [amended] = amendSheet(sheet, errata).parts;
    expect(amended?.measures.map(({ to }) => to)).toEqual([12]);
    expect(amended?.tempo.bpmMin).toBe(72);
  });

  it('are told apart where the text or the part is gone', () => {
    const told = [words('tempo', '72 to the quarter'), line(TEXT, 'Play', 'nothing')];
    const { lost, sheet } = read('Skerrin Winds 2028\nEtude 1: no. 5, mm. 1-8, quarter = 66\n', told);
    expect(lost).toEqual(told);
    expect(sheet.parts[0]?.tempo.bpmMin).toBe(66);
  });

  it('give each field what a person would read in them, or say why not', () => {
    const value = (own: string, field: WordField, kind: SheetPart['kind'] = 'etude'): unknown => {
      const given = valueOfWords(own, field, kind);
      return 'value' in given ? given.value : given.issue;
    };
    expect(value('“Ebb and Flow,”', 'title')).toBe('Ebb and Flow');
    expect(value('page 26', 'page')).toBe('26');
    expect(value('no. 17', 'number')).toBe('17');
    expect(value('by Una Marrin', 'composer')).toBe('Una Marrin');
    expect(value('twenty points', 'points')).toBe(20);
    expect(value('three octaves', 'octaves', 'scale')).toBe(3);
    expect(value('from memory', 'memory')).toBeTrue();
    expect(value('B-flat major', 'key', 'scale')).toBe('Bb major');
    expect(value('mm. 1–16 and 33–60', 'measures')).toEqual(
      jasmine.arrayWithExactContents([
        jasmine.objectContaining({ from: 1, to: 16 }),
        jasmine.objectContaining({ from: 33, to: 60 }),
      ]),
    );
    expect(value('Gently', 'tempo')).toEqual(jasmine.objectContaining({ bound: 'words', words: 'Gently' }));
    expect(String(value('the ferry', 'points'))).toMatch(/no number/u);
  });
});

describe('corrections', () => {
  it('replace what was said before of the same place, and can be taken back', () => {
    const first = line(SHEET, 'Office', 'rule');
    const second = line(SHEET, 'Office', 'nothing');
    expect(withCorrection([first], second)).toEqual([second]);
    expect(withoutCorrection([second], first)).toEqual([]);
  });

  it('keep the identifiers of parts that begin at the same words', () => {
    const before = withKnownParts(read(SHEET), []);
    const told = [line(SHEET, 'Heart', 'nothing'), line(SHEET, '1. Slow', 'nothing')];
    const after = withKnownParts(
      readSheet(SHEET, () => 'new', told),
      before.known,
    );
    expect(after.reading.sheet.parts.map(({ id }) => id)).toEqual([before.reading.sheet.parts[1]?.id ?? '']);
  });
});
