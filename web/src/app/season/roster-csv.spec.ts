import { rosterLines } from './roster-csv';
import { readStudentLines } from './student-lines';

describe('a roster from a table program', () => {
  it('is read by its headings, in any order, with first and last names apart or in one', () => {
    const apart =
      'Grade,Last Name,First Name,Instrument\r\n9,Vantongeren,Ilse,clarinet\r\n10,Roe,Caspian,horn\r\n';
    expect(rosterLines(apart)).toBe('Ilse Vantongeren, clarinet\nCaspian Roe, horn');
    const one = '\uFEFFinstrument;student\nviolin;"Haldane, Noor"\n;Bram Oyelaran\n';
    expect(rosterLines(one)).toBe('Noor Haldane, violin\nBram Oyelaran');
  });

  // RFC 4180, clause 2: fields in quotes may hold separators, line breaks and quotes that are doubled.
  it('keeps to the quotes of RFC 4180, and takes the first two columns without headings', () => {
    const text = '"Tobias ""Toby"" Vane","snare\ndrum"\n\nMirela Stavanger,flute,10\n';
    const lines = rosterLines(text);
    expect(lines).toBe('Tobias "Toby" Vane, snare drum\nMirela Stavanger, flute');
    expect(readStudentLines(lines, '').students.map(({ instrument }) => instrument)).toEqual([
      'snare drum',
      'flute',
    ]);
  });
});
