import { capital } from '@vivid-cue/core/base';
import { LINE_ROLES, type ColumnRole, type LineRole, type ShownRole } from '@vivid-cue/core/sheet';

/** What a line is, in a word beside it. */
const SHORT: Readonly<Record<ShownRole, string>> = {
  part: 'part',
  more: 'goes on',
  instrument: 'instrument',
  division: 'division',
  list: 'list',
  rule: 'for all',
  scoring: 'scoring',
  dates: 'dates',
  footnote: 'footnote',
  nothing: 'no use',
  head: 'title',
  section: 'kind',
  option: 'option',
  heading: 'heading',
  choice: 'choice',
  note: 'note',
  unread: 'unread',
};

/** What a line can be told to be. */
const LONG: Readonly<Record<LineRole, string>> = {
  part: 'Begins a part',
  more: 'Says more of the part above',
  instrument: 'Begins an instrument',
  division: 'Begins a division',
  list: 'Begins a list',
  rule: 'A rule for all',
  scoring: 'Scoring',
  dates: 'Dates',
  footnote: 'A footnote to what is above',
  nothing: 'Nothing of use',
};

const COLUMNS: Readonly<Record<ColumnRole, string>> = {
  label: 'part',
  title: 'title',
  composer: 'composer',
  book: 'book',
  publisher: 'publisher',
  number: 'number',
  page: 'page',
  edition: 'edition',
  measures: 'measures',
  tempo: 'tempo',
  key: 'key',
  octaves: 'octaves',
  noteValue: 'in notes of',
  range: 'range',
  articulation: 'articulation',
  memory: 'from memory',
  repeats: 'repeats',
  time: 'time',
  points: 'points',
  instrument: 'instrument',
  division: 'division',
  words: 'character',
  text: 'more words',
  cells: 'asked now',
  nothing: 'no use',
};

/** Where a word at a head says too little for a menu. */
const COLUMN_CHOICE: Readonly<Partial<Record<ColumnRole, string>>> = {
  label: 'Name of the part',
  cells: 'What is asked now, or of one instrument',
  nothing: 'Nothing of use',
};

/** What a line is, in a word. */
export function roleText(role: ShownRole): string {
  return SHORT[role];
}

/** What a line can be told to be, in the order of the menu. */
export const LINE_CHOICES: readonly { readonly role: LineRole; readonly label: string }[] = LINE_ROLES.map(
  (role) => ({ role, label: LONG[role] }),
);

/** What a column holds, in words. */
export function columnText(role: ColumnRole): string {
  return COLUMNS[role];
}

/** What a column can be told to hold, in the order of the menu. */
export const COLUMN_CHOICES: readonly { readonly role: ColumnRole; readonly label: string }[] = (
  Object.entries(COLUMNS) as [ColumnRole, string][]
).map(([role, label]) => ({
  role,
  label: COLUMN_CHOICE[role] ?? capital(label),
}));
