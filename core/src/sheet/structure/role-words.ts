import { remembered } from '../../base/index.js';

/** What a column of a table holds. */
export type Role =
  | 'label'
  | 'title'
  | 'composer'
  | 'book'
  | 'publisher'
  | 'number'
  | 'page'
  | 'edition'
  | 'measures'
  | 'tempo'
  | 'points'
  | 'key'
  | 'octaves'
  | 'noteValue'
  | 'range'
  | 'articulation'
  | 'memory'
  | 'repeats'
  | 'time'
  | 'words'
  | 'instrument'
  | 'division'
  | 'text'
  | 'nothing';

/** What columns are called (common practice, no source). */
const WORDS: readonly (readonly [RegExp, Role])[] = [
  [/^(?:part|item|requirement|component|#|selection|audition (?:item|part)|category)$/iu, 'label'],
  [/^(?:instruments?|voices?(?: part)?|section)$/iu, 'instrument'],
  [/^(?:divisions?|levels?|grades?)$/iu, 'division'],
  [/^(?:[eé]tude|study|excerpt|solo|scale|rudiment)s?$/iu, 'label'],
  [/^(?:titles?|works?|pieces?|repertoire|music)$/iu, 'title'],
  [/^(?:composers?|author|by)$/iu, 'composer'],
  [/^(?:books?|source|publication|method|collection)$/iu, 'book'],
  [/^(?:publishers?|ed(?:itor)?|published by)$/iu, 'publisher'],
  [/^(?:editions?|printing)$/iu, 'edition'],
  [
    /^(?:no\.?|nos\.?|numbers?|[eé]tude (?:no\.?|number)|study (?:no\.?|number)|selection (?:no\.?|number))$/iu,
    'number',
  ],
  [/^(?:pages?|pp?\.?|pg\.?)(?: (?:no\.?|numbers?))?$/iu, 'page'],
  [/^(?:measures?|bars?|mm\.?|ms\.?|meas\.?|measure numbers?|cuts?|passage|from ?[-–] ?to)$/iu, 'measures'],
  [
    /^(?:tempos?|tempi|speeds?|metronome(?: mark(?:ing)?)?|m\.?m\.?|bpm|(?:target|minimum|suggested) tempo)$/iu,
    'tempo',
  ],
  [/^(?:points?|pts\.?|marks?|weight|score|value|(?:max(?:imum)?|total) (?:points|marks))$/iu, 'points'],
  [/^(?:keys?|tonality|major|minor)$/iu, 'key'],
  [/^(?:octaves?|oct\.?|octs\.?|no\. of octaves|compass)$/iu, 'octaves'],
  [/^(?:rhythms?|note values?|notes?|in notes of|subdivision)$/iu, 'noteValue'],
  [/^(?:range)$/iu, 'range'],
  [/^(?:articulations?|bowings?|slurring)$/iu, 'articulation'],
  [/^(?:memory|memori[sz]ed|from memory)$/iu, 'memory'],
  [/^(?:repeats?)$/iu, 'repeats'],
  [/^(?:times?|durations?|length|time limit|limit)$/iu, 'time'],
  [/^(?:style|character|mood|type)$/iu, 'words'],
  [/^(?:details?|remarks?|comments?|instructions?|what to (?:play|prepare)|requirements?)$/iu, 'text'],
];

/** What a heading says its column holds, or null. */
export const roleOfWord = remembered((text: string): Role | null => roleIn(text));

function roleIn(text: string): Role | null {
  const plain = text
    .trim()
    .replace(/[:*†]+$/u, '')
    .replace(/\s+/gu, ' ');
  return WORDS.find(([pattern]) => pattern.test(plain))?.[1] ?? null;
}

/** Whether a cell is the heading of a column. */
export function isRoleWord(text: string): boolean {
  return roleOfWord(text) !== null;
}
