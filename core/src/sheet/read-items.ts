import { present } from '../base/index.js';
import type { CoverableText } from './found.js';
import { kindOf, singularLabel } from './labels.js';
import type { Line } from './lines.js';
import type { PartKind } from './model.js';
import { isRule } from './notes.js';
import { readInto } from './read-into.js';
import { scaleLabel } from './scale-label.js';
import type { Stretch } from './sentences.js';
import { addNote, joinChoice, openPart, placeOf, type SheetState } from './sheet-state.js';
import { isPersonName } from './work-line.js';

const KIND_NAMES: Partial<Record<PartKind, string>> = {
  etude: 'Etudes',
  excerpt: 'Excerpts',
  scale: 'Scales',
};

/** A line that begins with a composer and a title, in either order. */
export function isWorkLine(plain: string): boolean {
  return isPersonName(/^([^:]{3,40}):\s/u.exec(plain)?.[1] ?? '') || /^\p{Lu}.{2,60}\s-\s\p{Lu}/u.test(plain);
}

/** Kinds whose items are works with a composer. */
const WORKS: ReadonlySet<PartKind> = new Set(['etude', 'excerpt', 'solo']);

/** Whether a line without bullet or label is an item of the section it stands in. */
export function isBareItem(state: SheetState, { plain: own, printed }: CoverableText): boolean {
  if (/["=]|\bmm?\.|\bbars?\b|\bmeasures?\b/iu.test(own)) return true;
  if (state.context.list !== null || WORKS.has(state.context.kind ?? 'other')) return isWorkLine(own);
  return state.context.kind === 'scale' && scaleLabel(own, printed) !== null;
}

/** A bulleted line without a label of its own. */
export function readItem(
  state: SheetState,
  line: Line,
  { sentence, work }: { readonly sentence: Stretch; readonly work: CoverableText },
): void {
  const bullet = (line.bullet ?? '').replace(/[().]/gu, '');
  const isNumber = /^[\p{L}\d]/u.test(bullet);
  if (!isNumber && state.current && line.indent > state.currentIndent && state.currentIndent >= 0) {
    readInto(state, state.current, {
      line,
      sentence,
      work,
      start: 0,
      after: 0,
      end: work.plain.length,
      isFirst: false,
    });
    return;
  }
  const kind = itemKind(state, work.plain);
  if (kind === null && !/["=]/u.test(work.plain)) {
    if (isRule(work.plain)) addNote(state, line, { sentence, kind: 'other' });
    else state.unread.push(placeOf(line, sentence));
    return;
  }
  const isHeadingPart =
    state.currentIndent === -1 && state.current !== null && state.current.texts.length === 0;
  const draft = isHeadingPart
    ? present(state.current)
    : openPart(state, itemLabel(state, bullet, { work, kind }), { kind: kind ?? 'other', line });
  if (!isHeadingPart) joinChoice(state, draft.label, line);
  state.currentIndent = line.indent;
  readInto(state, draft, { line, sentence, work, start: 0, after: 0, end: work.plain.length, isFirst: true });
}

function itemKind(state: SheetState, text: string): PartKind | null {
  const own = kindOf(text.replace(/"[^"]*"/gu, ''));
  if (state.context.list !== null) return 'solo';
  return state.context.kind !== null && state.context.kind !== 'solo'
    ? state.context.kind === 'scale' && own === 'chromatic'
      ? own
      : state.context.kind
    : (own ?? state.context.kind);
}

function itemLabel(
  state: SheetState,
  bullet: string,
  { work, kind }: { readonly work: CoverableText; readonly kind: PartKind | null },
): string {
  const isNumber = /^[\p{L}\d]/u.test(bullet);
  if (state.context.list !== null && isNumber) return `${state.context.list.slice(-1)}${bullet}`;
  if (kind === 'scale' || kind === 'chromatic') {
    const named = scaleLabel(work.plain, work.printed);
    if (named) return named;
  }
  if (isNumber && state.context.parentBullet !== null)
    return `${state.context.parentBullet.replace(/[().]/gu, '')}${bullet}`;
  const isNumeral = /^(?:\d{1,2}|[a-h])$/iu.test(bullet);
  if (isNumeral && state.context.isPlural && state.context.kind !== null && state.context.kind !== 'solo')
    return `${singularLabel(KIND_NAMES[state.context.kind] ?? state.context.kind)} ${bullet.toUpperCase()}`;
  if (isNumber) return bullet;
  const title = /"([^"]{2,60})"/u.exec(work.plain);
  const named = /^([^:]{3,40}):\s+([^,;(]{2,60})/u.exec(work.printed);
  if (!title && named && isPersonName(named[1] ?? '')) return present(named[2]).trim();
  if (title)
    return work.printed
      .slice(title.index + 1, title.index + 1 + present(title[1]).length)
      .replace(/[,.]$/u, '');
  return (/^[^,;:(]{3,50}/u.exec(work.printed)?.[0] ?? work.printed.slice(0, 50)).trim();
}
