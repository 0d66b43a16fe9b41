import { plainSigns } from '../base/index.js';
import { findDivisions } from './find-divisions.js';
import { CoverableText } from './found.js';
import { instrumentNames } from './heading.js';
import { labelKey } from './labels.js';
import type { Line } from './lines.js';
import type { Choice, Deadline, Division, PartKind, SheetNote, SheetQuestion } from './model.js';
import { PartDraft } from './part-draft.js';
import type { Stretch } from './sentences.js';

/** What headings above a line say of it. Shape: null where none stands. */
export interface Context {
  instrument: string | null;
  division: string | null;
  list: string | null;
  kind: PartKind | null;
  heading: PartDraft | null;
  isPlural: boolean;
  parentBullet: string | null;
}

const NO_CONTEXT: Readonly<Context> = {
  instrument: null,
  division: null,
  list: null,
  kind: null,
  heading: null,
  isPlural: false,
  parentBullet: null,
};

/** Everything that is known while a sheet is read line by line; used for one sheet. */
export class SheetState {
  readonly lines: readonly Line[];
  readonly text: string;
  readonly drafts: PartDraft[] = [];
  readonly marks: { start: number; end: number; about: string; draft: PartDraft | undefined }[] = [];
  readonly unread: { start: number; end: number }[] = [];
  readonly deadlines: Deadline[] = [];
  readonly divisions: Division[] = [];
  readonly notes: SheetNote[] = [];
  readonly questions: SheetQuestion[] = [];
  readonly choices: { choice: Choice; lists: readonly string[] | null }[] = [];
  readonly groupRules: { kinds: readonly PartKind[] | null; rule: PartDraft }[] = [];
  readonly instruments: string[] = [];
  readonly headed: { body: string | null; year: string | null } = { body: null, year: null };
  readonly context: Context = { ...NO_CONTEXT };
  current: PartDraft | null = null;
  currentIndent = 0;
  openChoice: { of: string[]; choice: Choice; indent: number; bullet: string | null } | null = null;
  headLines = 0;
  total: number | null = null;

  readonly headings = new Map<PartDraft, PartDraft>();
  /** The latest parts of each label, one for every instrument or division, and the patterns of plain names. */
  readonly byKey = new Map<string, PartDraft[]>();
  readonly plainNames = new Map<string, RegExp>();
  header: Line['cells'] = null;

  constructor(
    lines: readonly Line[],
    text: string,
    readonly newId: () => string,
  ) {
    this.lines = lines;
    this.text = text;
  }
}

/** Whether a set and a list hold the same names. */
export function sameSet(a: ReadonlySet<string>, b: readonly string[]): boolean {
  return a.size === b.length && b.every((one) => a.has(one));
}

/** Remembers what a stretch of a line became; of a part, the path is made when all parts are known. */
export function mark(
  state: SheetState,
  line: Line,
  {
    stretch,
    about,
    draft,
  }: { readonly stretch: Stretch; readonly about: string; readonly draft?: PartDraft },
): void {
  const { start, end } = placeOf(line, stretch);
  state.marks.push({ start, end, about, draft });
}

/** Marks a stretch, and says that it is dealt with. */
export function markAll(
  state: SheetState,
  line: Line,
  { stretch, about }: { readonly stretch: Stretch; readonly about: string },
): boolean {
  mark(state, line, { stretch, about });
  return true;
}

/** The place of a stretch in the sheet's text. */
export function placeOf(line: Line, { start, end }: Stretch): Stretch {
  const from = line.at[start] ?? 0;
  const to = (line.at[Math.max(start, end - 1)] ?? from) + 1;
  return { start: from, end: to };
}

/** Keeps a sentence as a note. */
export function addNote(
  state: SheetState,
  line: Line,
  { sentence, kind }: { readonly sentence: Stretch; readonly kind: SheetNote['kind'] },
): void {
  state.notes.push({ kind, text: line.text.slice(sentence.start, sentence.end).trim() });
  mark(state, line, { stretch: sentence, about: `notes[${state.notes.length - 1}]` });
}

/** Takes the divisions named in a stretch; one named twice is one. */
export function takeDivisions(state: SheetState, line: Line, { start, end }: Stretch): void {
  for (const found of findDivisions(line.plain.slice(start, end), line.text.slice(start, end))) {
    const known = state.divisions.findIndex(
      ({ name }) => name !== null && name.toLowerCase() === found.value.name?.toLowerCase(),
    );
    if (known < 0) state.divisions.push(found.value);
    mark(state, line, {
      stretch: { start: start + found.start, end: start + found.end },
      about: `division[${known < 0 ? state.divisions.length - 1 : known}]`,
    });
  }
}

/** Puts what follows under an instrument, or under none. */
export function setInstrument(state: SheetState, name: string | null): void {
  state.context.instrument = name;
  if (name !== null)
    for (const one of instrumentNames(name))
      if (!state.instruments.some((other) => other.toLowerCase() === one.toLowerCase()))
        state.instruments.push(one);
}

/** Begins a section: what stood above it no longer holds, but for the instrument and division it lies in. */
export function setSection(state: SheetState, context: Partial<Context>): void {
  closeChoice(state);
  state.current = null;
  const keepsInstrument = 'instrument' in context ? {} : { instrument: state.context.instrument };
  const keepsDivision =
    'division' in context || 'instrument' in context ? {} : { division: state.context.division };
  Object.assign(state.context, NO_CONTEXT, keepsInstrument, keepsDivision, context);
}

/** What a heading says in brackets for everything below it. */
export function headingDraft(kind: PartKind, text: string): PartDraft {
  const draft = new PartDraft('', kind);
  draft.read(new CoverableText(text, plainSigns(text)), 0, false);
  return draft;
}

/** The list, division and instrument that hold here. */
export function applies(state: SheetState): string[] {
  return [state.context.list, state.context.division, state.context.instrument].filter(
    (name) => name !== null,
  );
}

/** Opens a part under the headings that hold here. */
export function openPart(
  state: SheetState,
  label: string,
  { kind, line }: { readonly kind: PartKind; readonly line: Line },
): PartDraft {
  const draft = new PartDraft(label, kind, { appliesTo: applies(state), id: state.newId() });
  state.drafts.push(draft);
  nameDraft(state, draft);
  state.current = draft;
  state.currentIndent = line.indent;
  if (state.context.heading) state.headings.set(draft, state.context.heading);
  return draft;
}

function nameDraft(state: SheetState, draft: PartDraft): void {
  const key = labelKey(draft.label);
  state.byKey.set(key, [
    ...(state.byKey.get(key) ?? []).filter((other) => !sameSet(other.appliesTo, [...draft.appliesTo])),
    draft,
  ]);
  if (
    /\d|\s[A-H]$/u.test(draft.label) ||
    draft.label.length < 4 ||
    state.plainNames.has(draft.label) ||
    state.plainNames.size >= 60
  )
    return;
  const words = key.replace(/[^\p{L}\d]+/gu, '[- ]?');
  state.plainNames.set(
    draft.label,
    new RegExp(`(?<=^|[,;:]\\s+|\\band\\s+|\\bthe\\s+)${words}s?(?![\\p{L}-])`, 'iu'),
  );
}

/** Counts a part among those to choose from, where a choice is open. */
export function joinChoice(state: SheetState, label: string, line: Line): void {
  if (state.openChoice && line.indent >= state.openChoice.indent) state.openChoice.of.push(label);
}

/** Ends an open choice. */
export function closeChoice(state: SheetState): void {
  if (state.openChoice && state.openChoice.of.length > 0)
    state.choices.push({ choice: { ...state.openChoice.choice, of: state.openChoice.of }, lists: null });
  state.openChoice = null;
}
