import { remembered } from '../base/index.js';
import { findMentions } from './labels.js';
import type { Choice } from './model.js';

const COUNT = '(?<count>one|two|three|four|five|six|\\d)';
const FOLLOWING = new RegExp(
  `\\b(?:any\\s+)?${COUNT}\\s+(?:\\w+\\s+)?(?:of|from(?:\\s+among)?)\\s+(?:the\\s+)?(?:(?:\\w+\\s+)?following|these\\s+\\w+|(?:\\w+\\s+)*(?:listed|below|pieces\\s+below))|\\b(?:choose|select|pick|play|prepare|perform)\\s+(?:any\\s+)?${COUNT.replace('count', 'count2')}\\s*:?\\s*$`,
  'iu',
);
const OF_LABELS = new RegExp(
  `\\b(?:any\\s+)?${COUNT}\\s+(?:of|from)\\s+(?:the\\s+)?(?=[A-Z\\u00c9]|option|section|etude)`,
  'iu',
);
const EACH_LIST =
  /\b(?:one|a)(?:\s+(?:piece|work|item|study|selection|solo|from))*\s*(?:from|out\s+of)?\s+each(?:\s+of)?(?:\s+the)?\s*(?:(?:following\s+)?(?:lists?|groups?|sections?|categor(?:y|ies)))?\s*(?<letters>[A-F](?:\s*,\s*[A-F])*(?:,?\s+(?:and|&)\s+[A-F])?)?(?![\p{L}])/iu;
const ALL =
  /\ball\s+(?:of\s+the\s+following|(?:\w+\s+)?(?:parts|items|requirements)\s+(?:are|must\s+be)\s+(?:required|performed|played|prepared))|\ball\s+of\s+the\s+(?:above|below)/iu;
const PROVIDED =
  /\b(?<a>(?:the\s+)?(?:provided|printed|given)\s+scales?|(?:the\s+)?scales?\s+provided)\s+or\s+(?<b>(?:another|one)(?:\s+scale)?\s+of\s+(?:your|the\s+\w+'s|their)\s+(?:own\s+)?choice)/iu;

const EITHER_NAMES =
  /\beither\s+(?:the\s+)?(?<a>\p{Lu}[\p{L}-]+(?:\s+\p{Lu}[\p{L}-]+)*)\s+or\s+(?:the\s+)?(?<b>\p{Lu}[\p{L}-]+(?:\s+\p{Lu}[\p{L}-]+)*)/u;

/** A choice that a sentence states. Shape: `follows` where the items come on the next lines. */
export interface ChoiceRead {
  readonly choice: Choice;
  readonly follows: boolean;
  /** Letters of lists, for oneFromEach; empty where the sentence names none. */
  readonly lists: readonly string[];
}

function number(text: string | undefined): number {
  const words = ['one', 'two', 'three', 'four', 'five', 'six'];
  const place = words.indexOf((text ?? '').toLowerCase());
  return place >= 0 ? place + 1 : Number(text);
}

const SPEAKS_OF_CHOICE =
  /\b(?:or|either|each|choose|select|pick|following|all\s+of|all\s+\w+\s+(?:are|must)|(?:one|two|three|four|five|six|\d)\s+(?:of|from))\b/iu;

/**
 * Reads a rule of choice out of a sentence.
 * Shape:  null where it states none
 * Source: docs/formats.md
 */
export const readChoice = remembered((plain: string, printed: string): ChoiceRead | null =>
  choiceIn(plain, printed),
);

function choiceIn(plain: string, printed: string): ChoiceRead | null {
  if (!SPEAKS_OF_CHOICE.test(plain)) return null;
  return (
    listChoice(plain) ??
    providedChoice(plain, printed) ??
    labelChoice(plain, printed) ??
    namesChoice(plain, printed)
  );
}

/** "One piece from each of lists A, B and C". */
function listChoice(plain: string): ChoiceRead | null {
  const each = EACH_LIST.exec(plain);
  if (!each || !/\blists?\b|\bgroups?\b|\bsections?\b|\bcategor|\beach\s+list/iu.test(each[0])) return null;
  const lists = (each.groups?.letters ?? '')
    .split(/\s*(?:,|\band\b|&)\s*/iu)
    .filter((letter) => letter !== '');
  return { choice: { rule: 'oneFromEach', n: 1, of: [] }, follows: false, lists };
}

function providedChoice(plain: string, printed: string): ChoiceRead | null {
  const { a, b } = PROVIDED.exec(plain)?.groups ?? {};
  if (a === undefined || b === undefined) return null;
  return {
    choice: { rule: 'oneOf', n: 1, of: [asPrinted(a, plain, printed), asPrinted(b, plain, printed)] },
    follows: false,
    lists: [],
  };
}

/** Rules over labels, or over the list that follows. */
function labelChoice(plain: string, printed: string): ChoiceRead | null {
  const mentions = findMentions(plain, printed).filter(({ isNumbered }) => isNumbered);
  const labels = withShared(
    mentions.map(({ label }) => label),
    plain,
    printed,
  );
  const some = OF_LABELS.exec(plain);
  if (some && labels.length >= 2) return chosen(number(some.groups?.count), labels);
  const following = FOLLOWING.exec(plain);
  if (following)
    return { ...chosen(number(following.groups?.count ?? following.groups?.count2), []), follows: true };
  if (ALL.test(plain))
    return { choice: { rule: 'all', n: null, of: labels }, follows: labels.length === 0, lists: [] };
  const offered = offeredLabels(mentions, plain);
  if (offered.length >= 2) return chosen(1, offered);
  return labels.length === 2 && mentions.length === 1 ? chosen(1, labels) : null;
}

function namesChoice(plain: string, printed: string): ChoiceRead | null {
  const names = EITHER_NAMES.exec(plain)?.groups;
  if (!names) return null;
  return chosen(1, [asPrinted(names.a ?? '', plain, printed), asPrinted(names.b ?? '', plain, printed)]);
}

/** The words as they stand in print. */
function asPrinted(text: string, plain: string, printed: string): string {
  const at = plain.indexOf(text);
  return printed.slice(at, at + text.length);
}

/** Labels that an "or" stands between: "… and then chooses Etude B (…) or Etude C (…)". */
function offeredLabels(
  mentions: readonly { readonly label: string; readonly start: number }[],
  plain: string,
): string[] {
  const isBehindOr = mentions.map(({ start }) => /\bor\s*$/iu.test(plain.slice(0, start)));
  return mentions
    .filter((_, n) => isBehindOr[n] === true || isBehindOr[n + 1] === true)
    .map(({ label }) => label);
}

function chosen(n: number, of: readonly string[]): ChoiceRead {
  return { choice: n === 1 ? { rule: 'oneOf', n, of } : { rule: 'nOf', n, of }, follows: false, lists: [] };
}

/** "section A or B": a second letter shares the first one's word. */
function withShared(labels: readonly string[], plain: string, printed: string): string[] {
  const shared =
    /\b(option|section|etude|excerpt|piece|selection|study)\s+([A-H]|\d)\s+or\s+([A-H]|\d)(?![\p{L}\d])/iu.exec(
      plain,
    );
  if (!shared || labels.length !== 1) return [...labels];
  const word = printed.slice(shared.index, shared.index + (shared[1] ?? '').length);
  return [`${word} ${shared[2]}`, `${word} ${shared[3]}`];
}
