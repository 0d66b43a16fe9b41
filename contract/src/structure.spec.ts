import { readFileSync } from 'node:fs';
import { readSheet } from '@vivid-cue/core/sheet';
import { v7 as newId } from 'uuid';
import { csvRows, partsFromCsv, CSV_COLUMNS } from './sheet-csv.js';
import { sheetChangeSchema } from './sheets.js';
import { sheetFromStructure, sheetStructure } from './structure.js';
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
  readSheet(readFileSync(new URL(`../../core/testdata/sheets/tuned/${name}.txt`, import.meta.url), 'utf8'))
    .sheet;

describe('a structured sheet', () => {
  for (const name of NAMES) {
    it(`of ${name} is stored as the schema wants it, and comes back with the same parts`, () => {
      const stored = sheetFromStructure(read(name), { zone: 'Atlantic/Reykjavik', newId });
      const complete = { ...stored, year: stored.year === '' ? '2027' : stored.year };
      expect(() =>
        sheetChangeSchema.validateSync(complete, { strict: true, abortEarly: false }),
      ).not.toThrow();
      const withUnits = read(name).parts.filter(
        ({ tempo }) => tempo.beatUnit !== null || tempo.bpmMin === null,
      );
      const back = sheetStructure(stored).parts.filter(({ label }) =>
        withUnits.some((part) => part.label === label),
      );
      expect(back).toEqual([...withUnits]);
    });

    it(`of ${name} survives the way through CSV rows`, () => {
      const { parts } = read(name);
      const usable = parts.filter(
        ({ tempo }) => tempo.beatUnit !== null || tempo.bound === 'none' || tempo.bound === 'words',
      );
      const { parts: back, issues } = partsFromCsv([...CSV_COLUMNS], csvRows(usable));
      expect(issues).toEqual([]);
      const bare = (list: typeof usable) =>
        list.map((part) => ({ ...part, measures: part.measures.map(({ from, to }) => [from, to]) }));
      expect(bare([...back])).toEqual(bare(usable));
    });
  }

  it('names the rows of a CSV file that are wrong and keeps the good ones', () => {
    const rows = [
      { label: 'Etude', kind: 'etude', tempo: 'quarter = 96' },
      { label: '', kind: 'etude' },
      { label: 'Scale', kind: 'sclae' },
      { label: 'Solo', kind: 'solo', maxSeconds: 'three' },
      { label: 'Excerpt', kind: 'excerpt', measures: 'mm. 9-4' },
    ];
    const { parts, issues } = partsFromCsv(['label', 'kind'], rows);
    expect(parts.map(({ label }) => label)).toEqual(['Etude']);
    expect(issues.map(({ row }) => row)).toEqual([3, 4, 5, 6]);
    expect(partsFromCsv(['Name', 'Type'], rows).issues[0]?.message).toContain('no column "label"');
  });

  it('knows the zones that sheets print, and no zone from "local time"', () => {
    expect(
      ['Eastern Time', 'CST', 'Pacific', 'GMT', 'Europe/Berlin', 'local time'].map((zone) =>
        zoneOfPrinted(zone),
      ),
    ).toEqual(['America/New_York', 'America/Chicago', 'America/Los_Angeles', 'UTC', 'Europe/Berlin', null]);
  });
});
