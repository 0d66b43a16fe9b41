import { readFileSync } from 'node:fs';
import {
  blankPart,
  choicesByPart,
  exchangedSheet,
  partName,
  readSheet,
  scopeNames,
  type SheetPart,
  type StructuredSheet,
} from '@vivid-cue/core/sheet';
import { v7 as newId } from 'uuid';
import { csvRows, partsFromCsv, CSV_COLUMNS } from './sheet-csv.js';
import { sheetChangeSchema } from './sheets.js';
import { adoptedSheet, sheetFromStructure, sheetStructure } from './structure.js';
import { zoneOfPrinted } from './zones.js';

const NAMES = [
  '01-bullets',
  '02-paragraph',
  '04-graded',
  '05-options',
  '06-percussion',
  '08-contradiction',
  '12-spaces-table',
];
const read = (name: string): ReturnType<typeof readSheet>['sheet'] =>
  readSheet(
    readFileSync(new URL(`../../core/testdata/sheets/tuned/${name}.txt`, import.meta.url), 'utf8'),
    newId,
  ).sheet;

describe('a structured sheet', () => {
  for (const name of NAMES) {
    it(`of ${name} is stored as the schema wants it, and comes back with the same parts`, () => {
      const stored = sheetFromStructure(read(name), { zone: 'Atlantic/Reykjavik', newId });
      const complete = { ...stored, year: stored.year === '' ? '2027' : stored.year };
      expect(() =>
        sheetChangeSchema.validateSync(complete, { strict: true, abortEarly: false }),
      ).not.toThrow();
      const exchanged = exchangedSheet(sheetStructure(stored));
      const back = adoptedSheet(JSON.parse(JSON.stringify(exchanged)) as typeof exchanged, newId);
      const bare = ({ parts, choices }: Pick<StructuredSheet, 'parts' | 'choices'>) => {
        const place = new Map(parts.map(({ id }, n) => [id, n]));
        return {
          parts: parts.map(({ id: _, ...rest }) => rest),
          choices: choices.map(({ of }) => of.flat().map((id) => place.get(id) ?? id)),
        };
      };
      expect(bare(back)).toEqual(bare(sheetStructure(stored)));
      // Identifiers of its own: the same file read twice makes two sheets.
      const known = new Set(stored.parts.map(({ id }) => id));
      expect(back.parts.some(({ id }) => known.has(id))).toBeFalse();
    });

    it(`of ${name} survives the way through CSV rows`, () => {
      const { parts } = read(name);
      const usable = parts.filter(
        ({ tempo }) => tempo.beatUnit !== null || tempo.bound === 'none' || tempo.bound === 'words',
      );
      const { parts: back, issues } = partsFromCsv([...CSV_COLUMNS], csvRows(usable), newId);
      expect(issues).toEqual([]);
      // A file has no identifiers, no words of anchors, and tells what a part holds for in one list.
      const bare = (list: readonly SheetPart[]) =>
        list.map(({ id: _, scope, measures, ...part }) => ({
          ...part,
          scope: scopeNames(scope),
          measures: measures.map(({ from, to }) => [from, to]),
        }));
      expect(bare(back)).toEqual(bare(usable));
    });
  }

  it('keeps two parts of one name apart: choices, questions and files know them by identifier', () => {
    const text = [
      'Archipelago Winds 2027',
      'Flute',
      'Etude 1: "Foam", p. 4, quarter = 96',
      'Etude 2: "Spray", p. 6, quarter = 104',
      'Clarinet',
      'Etude 1: "Reed", p. 8, quarter = 80',
      'Etude 2: "Rush", p. 9, quarter = 88',
    ].join('\n');
    // Read, they are the "Flute etude 1" and the "Clarinet etude 1"; a person may call both by their printed name.
    const parts = readSheet(text, newId).sheet.parts.map((part, n) => ({
      ...part,
      label: `Etude ${(n % 2) + 1}`,
    }));
    expect(new Set(parts.map(({ id }) => id)).size).toBe(parts.length);
    const rule = { rule: 'oneOf' as const, n: 1, of: ['Etude 1', 'Etude 2'] };
    const byPart = choicesByPart([rule], parts);
    expect(byPart.map(({ of }) => of.map((id) => parts.findIndex((part) => part.id === id)))).toEqual([
      [0, 1],
      [2, 3],
    ]);
    expect(parts.map((part) => partName(part, parts))).toEqual([
      'Etude 1 (Flute)',
      'Etude 2 (Flute)',
      'Etude 1 (Clarinet)',
      'Etude 2 (Clarinet)',
    ]);
  });

  it('names the rows of a CSV file that are wrong and keeps the good ones', () => {
    const rows = [
      { label: 'Etude', kind: 'etude', tempo: 'quarter = 96' },
      { label: '', kind: 'etude' },
      { label: 'Scale', kind: 'sclae' },
      { label: 'Solo', kind: 'solo', maxSeconds: 'three' },
      { label: 'Excerpt', kind: 'excerpt', measures: 'mm. 9-4' },
    ];
    const { parts, issues } = partsFromCsv(['label', 'kind'], rows, newId);
    expect(parts.map(({ label }) => label)).toEqual(['Etude']);
    expect(issues.map(({ row }) => row)).toEqual([3, 4, 5, 6]);
    expect(partsFromCsv(['Name', 'Type'], rows, newId).issues[0]?.message).toContain('no column "label"');
  });

  it('knows the zones that sheets print, and no zone from "local time"', () => {
    expect(
      ['Eastern Time', 'CST', 'Pacific', 'GMT', 'Europe/Berlin', 'local time'].map((zone) =>
        zoneOfPrinted(zone),
      ),
    ).toEqual(['America/New_York', 'America/Chicago', 'America/Los_Angeles', 'UTC', 'Europe/Berlin', null]);
  });

  // OWASP, CSV injection (from memory): a cell that begins with =, +, -, @, tab or return is run as a formula.
  it('is written so that no spreadsheet runs a cell of it, and read back as it was', () => {
    const titles = ['=HYPERLINK("x")', '+1', '-2', '@sum', '\tx', "'quoted", "it's plain"];
    const parts = titles.map((title, n) => ({ ...blankPart(`Etude ${n}`, 'etude', newId()), title }));
    const rows = csvRows(parts);
    for (const row of rows) for (const cell of Object.values(row)) expect(cell).not.toMatch(/^[=+\-@\t\r]/u);
    const back = partsFromCsv([...CSV_COLUMNS], rows, newId);
    expect(back.parts.map(({ title }) => title)).toEqual(titles.map((title) => title.trim()));
  });
});
