import type { NoteKind } from './model.js';

const RULES: readonly (readonly [RegExp, NoteKind])[] = [
  [
    /\berrat(?:um|a)\b|\bmisprints?\b|\bcorrections?\s*:|\b(?:should|must)\s+(?:be|read)\s+(?:an?\s+)?[A-G](?:-?\s?(?:flat|sharp|natural)|[b#])?\b|\bprinted\s+incorrectly\b|\bwrong\s+note/iu,
    'erratum',
  ],
  [
    /\b(?:measures?|bars?|mm?\.)\s*\d+[A-Z]\b.*\b(?:insert|add)|\binserted\b.*\b(?:measures?|bars?)\b|\b(?:measures?|bars?)\b.*\b(?:inserted|was\s+added|were\s+added)\b/iu,
    'insertedMeasure',
  ],
  [
    /\b(?:older?|newer?|earlier|later|previous|first|second|revised|original)\s+(?:printings?|editions?)\b.*\b(?:page|newer|older|numbered|differ|measure|may\s+be)|\bpage\s+\d+\b.*\b(?:printing|edition)\b.*\b\d|\bany\s+edition\b|\beditions?\s+(?:may|must|should|other)\b|\bpage\s+numbers?\s+(?:refer|may|are|below)|\bin\s+the\s+\p{L}+\s+edition\b.*\b(?:appear|differ|found)/iu,
    'edition',
  ],
  [
    /\b(?:trills?|ornaments?|grace\s+notes?|appoggiaturas?|acciaccaturas?|mordents?|turns?|gruppett[oi]|rolls?(?=\s*:|\s+(?:into|are|should|must|may|on))|tie\s+(?:each|the)\s+rolls?)\b/iu,
    'ornament',
  ],
];
const OTHER =
  /\b(?:must|should|may(?!\s+\d)|will|shall|required?|not\s+allowed|permitted|only|provided|please|alternates?|cannot|do\s+not|no\s+editing|without\s+editing|one\s+take|bring|allowed|disqualified|set\s+\d\s+of\s+\d|ties?\s+(?:are|will))\b/iu;

/**
 * What a sentence notes: an erratum, an ornament rule, an edition, an inserted measure.
 * Shape:  null where it notes none of these
 * Source: common practice, no source
 */
export function noteKindOf(plain: string): Exclude<NoteKind, 'other'> | null {
  if (
    !/err|misprint|correct|should|must|wrong|insert|added|printing|edition|page numbers|trill|ornament|grace|appog|acciacc|mordent|turn|grup|roll/iu.test(
      plain,
    )
  )
    return null;
  return (
    (RULES.find(([pattern]) => pattern.test(plain))?.[1] as Exclude<NoteKind, 'other'> | undefined) ?? null
  );
}

/** Whether a sentence lays down a rule of some other sort. */
export function isRule(plain: string): boolean {
  return (
    OTHER.test(plain) &&
    !/\b(?:the\s+following|as\s+follows|listed\s+below)\s*[.:]?$|^please\s+prepare\b|^(?:thank\s+you|dear)\b/iu.test(
      plain,
    )
  );
}
