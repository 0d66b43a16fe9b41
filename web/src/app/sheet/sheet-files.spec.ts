import { csvText, importSheet } from './sheet-files';

const file = (text: string, name = 'parts.csv'): File => new File([text], name);

describe('files of a sheet', () => {
  // RFC 4180, clause 2: records end with CRLF (1), a field with commas, quotes or line breaks is quoted (6),
  // a quote within it is doubled (7), the last record may go without its end (2).
  it('reads and writes CSV as RFC 4180 has it', async () => {
    const text =
      'label,kind,title,articulation\r\n' +
      '"Etude 1, slow",etude,"The ""Ferry"" Lines","slurred,\r\nthen tongued"\r\n' +
      'Solo,solo,,';
    const read = await importSheet(file(text));
    if (read.kind !== 'parts') throw new Error('It was read as a sheet.');
    const told = ({
      label,
      title,
      articulation,
    }: {
      label: string;
      title: string | null;
      articulation: string | null;
    }) => [label, title, articulation?.replace(/\s+/gu, ' ') ?? null];
    expect(read.csv.parts.map(told)).toEqual([
      ['Etude 1, slow', 'The "Ferry" Lines', 'slurred, then tongued'],
      ['Solo', null, null],
    ]);
    const written = csvText({ parts: read.csv.parts });
    expect(written.split('\r\n')[0]).toMatch(/^label,kind,/u);
    expect(written).toContain('"Etude 1, slow",etude,,"The ""Ferry"" Lines"');
    const again = await importSheet(file(written));
    expect(again.kind === 'parts' && again.csv.parts.map(told)).toEqual(read.csv.parts.map(told));
  });

  it('says what is wrong with a file that is no sheet', async () => {
    await expectAsync(importSheet(file('{"parts": [', 'half.json'))).toBeRejectedWithError(
      '"half.json" is no complete JSON file; export it again.',
    );
    await expectAsync(importSheet(file('{"parts": []}', 'other.json'))).toBeRejectedWithError(
      /it has no list of instruments/u,
    );
    await expectAsync(importSheet(file('x'.repeat(1_000_001), 'long.csv'))).toBeRejectedWithError(
      /at most 1 MB/u,
    );
  });
});
