import { readInto } from './read-into.js';
import { present } from '../base/index.js';
import type { CoverableText } from './found.js';
import { ONLY_LABEL } from './heading-patterns.js';
import { calmLabel, findMentions, kindOf, labelKey, type Mention } from './labels.js';
import type { Line } from './lines.js';
import { isRule } from './notes.js';
import type { PartDraft } from './part-draft.js';
import { isBareItem, readItem } from './read-items.js';
import type { Stretch } from './sentences.js';
import {
  applies,
  addNote,
  joinChoice,
  mark,
  openPart,
  placeOf,
  sameSet,
  setSection,
  type SheetState,
} from './sheet-state.js';

/** Reads a clause into the parts it names, or into the part at hand. */
export function readParts(
  state: SheetState,
  line: Line,
  { sentence, work, n }: { readonly sentence: Stretch; readonly work: CoverableText; readonly n: number },
): void {
  const isLineStart = sentence.start === 0;
  const found = mentionsIn(state, work, isLineStart && line.bullet !== null);
  const first = found[0]?.start ?? work.plain.length;
  const opening = work.plain.slice(0, first);
  if (/[\p{L}\d]/u.test(opening.replaceAll('\uE000', '')))
    readOpening(state, line, { sentence, work, first, isLineStart, n });
  found.forEach((mention, at) => {
    const end = found[at + 1]?.start ?? work.plain.length;
    const draft = partFor(state, mention, { rest: work.plain.slice(mention.end, end), line });
    draft.texts.push(work.printed.slice(0, mention.start));
    readInto(state, draft, {
      line,
      sentence,
      work,
      start: mention.start,
      after: mention.end,
      end,
      isFirst: draft.texts.length <= 1,
    });
    // A label with nothing behind it is a heading: what follows belongs to it.
    if (
      line.bullet === null &&
      isLineStart &&
      !(['measures', 'tempo', 'key'] as const).some((field) => draft.has(field))
    )
      state.currentIndent = -1;
  });
}

function mentionsIn(state: SheetState, work: CoverableText, isItem: boolean): Mention[] {
  const all = findMentions(work.plain, work.printed).filter(
    ({ start, end }) => !(isItem && start === 0 && /^\s+(?:from|by)\b/iu.test(work.plain.slice(end))),
  );
  // Right behind another label stands what the part is, not another part: "Section B: Study 12".
  const found = all.filter(
    (mention, at) => at === 0 || !ONLY_LABEL.test(work.plain.slice(present(all[at - 1]).end, mention.start)),
  );
  const isCoded = found[0] !== undefined && /^[A-D]\d{1,2}$/u.test(found[0].label);
  if (isCoded) return found.slice(0, 1);
  if (isItem && found.length > 0 && present(found[0]).start > 0) {
    const known = found.filter(({ label }) => state.byKey.has(labelKey(label)));
    return known;
  }
  return [...found, ...references(state, work.plain, found)].sort((a, b) => a.start - b.start);
}

/** Plain names of parts that are there already: "scales 30 points". */
function references(state: SheetState, plainText: string, found: readonly Mention[]): Mention[] {
  return [...state.plainNames].flatMap(([label, pattern]) => {
    const match = pattern.exec(plainText);
    if (!match || found.some(({ start, end }) => match.index < end && match.index + match[0].length > start))
      return [];
    return [{ label, start: match.index, end: match.index + match[0].length, isNumbered: false }];
  });
}

function partFor(
  state: SheetState,
  mention: Mention,
  { rest, line }: { readonly rest: string; readonly line: Line },
): PartDraft {
  const label = mention.label.replace(/^\p{Ll}/u, (letter) => letter.toUpperCase());
  const isCoded = /^[A-D]\d{1,2}$/u.test(label);
  if (state.context.list !== null && !isCoded && line.bullet === null) setSection(state, {});
  const key = labelKey(label);
  const applying = applies(state);
  const known = state.byKey
    .get(key)
    ?.findLast((draft) => mention.isNumbered || sameSet(draft.appliesTo, applying));
  const isGeneral = state.context.instrument === null && state.context.division === null;
  if (known && (isGeneral || sameSet(known.appliesTo, applying))) {
    state.current = known;
    return known;
  }
  const ownKind = kindOf(label);
  const inList = isCoded ? (state.context.list === null ? null : 'solo') : null;
  const kind =
    inList ??
    (ownKind && !/^piece/iu.test(label)
      ? ownKind
      : (kindOf(rest.slice(0, 80)) ?? ownKind ?? state.context.kind ?? 'other'));
  const draft = openPart(state, calmLabel(label), { kind, line });
  joinChoice(state, draft.label, line);
  return draft;
}

/** What stands before the first label of a sentence. Units: characters of the sentence; `n` the line's number. */
interface Opening {
  readonly sentence: Stretch;
  readonly work: CoverableText;
  readonly first: number;
  readonly isLineStart: boolean;
  readonly n: number;
}

/** Words in front of the first label, or a sentence without one. */
function readOpening(
  state: SheetState,
  line: Line,
  { sentence, work, first, isLineStart, n }: Opening,
): void {
  const isWhole = first === work.plain.length;
  if (isLineStart && line.bullet !== null && isWhole) return readItem(state, line, { sentence, work });
  const belongs =
    state.current !== null &&
    (!isLineStart ||
      line.indent > state.currentIndent ||
      state.currentIndent === -1 ||
      /^\p{Ll}/u.test(line.plain));
  if (belongs && state.current) {
    const before = state.current.readings.length;
    readInto(state, state.current, {
      line,
      sentence,
      work,
      start: 0,
      after: 0,
      end: first,
      isFirst: state.current.texts.length === 0 || (state.currentIndent === -1 && before === 0),
    });
    if (state.current.readings.length > before) return;
  } else if (
    isWhole &&
    state.context.kind !== null &&
    line.bullet === null &&
    isLineStart &&
    isBareItem(state, work)
  ) {
    return readItem(state, line, { sentence, work });
  }
  if (isWhole) readLoose(state, line, { sentence, work, n });
}

/** A sentence that belongs to no part. */
function readLoose(
  state: SheetState,
  line: Line,
  { sentence, work, n }: Pick<Opening, 'sentence' | 'work' | 'n'>,
): void {
  if (/^(?:\w+\s+){0,2}(?:dates|deadlines|calendar|timeline)\s*$/iu.test(work.plain))
    mark(state, line, { stretch: sentence, about: 'heading' });
  else if (isRule(work.plain) || /\bset\s+\d\s+of\s+\d\b/iu.test(work.plain))
    addNote(state, line, { sentence, kind: 'other' });
  else if (n >= state.headLines) state.unread.push(placeOf(line, sentence));
}
