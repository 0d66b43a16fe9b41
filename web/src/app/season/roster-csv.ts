import Papa from 'papaparse';

/** Which columns hold what. Shape: −1 for none */
interface Columns {
  readonly name: number;
  readonly first: number;
  readonly last: number;
  readonly instrument: number;
}

/**
 * A roster as programs for tables write it, as lines of a pasted list.
 * Shape:  "name, instrument" a line; by its headings where it has any (name, first and last name, instrument), else the
 *         first two columns; a name in which the last one stands first is turned round
 * Source: RFC 4180; separators other than commas are found by the parser
 */
export function rosterLines(csv: string): string {
  const { data } = Papa.parse<string[]>(csv.replace(/^\uFEFF/u, ''), { skipEmptyLines: 'greedy' });
  const [head = [], ...rest] = data;
  const columns = columnsOf(head);
  const hasHead = columns !== null;
  const where = columns ?? { name: 0, first: -1, last: -1, instrument: 1 };
  return (hasHead ? rest : data)
    .map((row) => lineOf(row, where))
    .filter((line) => line !== '')
    .join('\n');
}

function columnsOf(head: readonly string[]): Columns | null {
  const at = (pattern: RegExp): number => head.findIndex((cell) => pattern.test(cell.trim()));
  const first = at(/^(?:first|given|fore)[ _-]?names?$/iu);
  const last = at(/^(?:last|family|sur)[ _-]?names?$/iu);
  const name = at(/^(?:(?:full |student(?:['’]s)? ?)?names?|students?|pupils?)$/iu);
  const instrument = at(/^instruments?$/iu);
  return name < 0 && (first < 0 || last < 0) ? null : { name, first, last, instrument };
}

function lineOf(row: readonly string[], { name, first, last, instrument }: Columns): string {
  const cell = (n: number): string => (row[n] ?? '').trim().replaceAll(/\s+/gu, ' ');
  const [surname, given] = cell(name).split(/\s*,\s*/u);
  const whole =
    name >= 0
      ? given === undefined || given === ''
        ? (surname ?? '')
        : `${given} ${surname}`
      : `${cell(first)} ${cell(last)}`.trim();
  if (whole === '') return '';
  return cell(instrument) === '' ? whole : `${whole}, ${cell(instrument)}`;
}
