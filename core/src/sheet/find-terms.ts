import type { Found } from './found.js';
import type { Accompaniment, Repeats } from './model.js';
import { countOf } from './span-reader.js';

type Rule<Value> = readonly [RegExp, Value];

function findRules<Value>(plain: string, hint: RegExp, rules: readonly Rule<Value>[]): Found<Value>[] {
  if (!hint.test(plain)) return [];
  const found: Found<Value>[] = [];
  for (const [pattern, value] of rules) {
    for (const { index, 0: text } of plain.matchAll(pattern)) {
      const end = index + text.length;
      if (!found.some((other) => index < other.end && end > other.start))
        found.push({ value, start: index, end });
    }
  }
  return found.sort((a, b) => a.start - b.start);
}

const MEMORY: readonly Rule<boolean>[] = [
  [
    /\bmemor(?:y|i[sz]ation)\s+(?:is\s+)?(?:not\s+(?:required|necessary|needed)|optional)|\b(?:need|does|do|must|should|may)\s+not\s+(?:need\s+to\s+|have\s+to\s+)?be\s+(?:memori[sz]ed|(?:played\s+|performed\s+)?from\s+memory)|\bno\s+(?:part|piece|work|movement|[eé]tude)\b[^.;]*\b(?:from\s+memory|memori[sz]ed|by\s+heart)|\bnot\s+(?:from\s+memory|memori[sz]ed)|\bno\s+memori[sz]ation|\b(?:the\s+)?music\s+(?:may|can)\s+be\s+used|\bmay\s+use\s+(?:the\s+)?music|\bwith\s+music\b|\bread\s+from\s+the\s+music\b|\bmemory:\s*(?:no|optional)\b/giu,
    false,
  ],
  [
    /\b(?:(?:played|performed|all)\s+)?(?:from|by)\s+memory\b|\bmemori[sz]ed\b|\bby\s+heart\b|\bwithout\s+(?:the\s+)?music\b|\bmemory\s+(?:is\s+)?required\b|\bmemory:\s*(?:yes|required)\b/giu,
    true,
  ],
];

/** Finds whether a part is played from memory. Shape: in order. Units: none. Errors: none. Source: common practice. */
export function findMemory(plain: string): Found<boolean>[] {
  // "At least one of them from memory" says it of none.
  if (/\bat\s+least\s+(?:one|two|\d)\b[^.;]*\bmemory\b/iu.test(plain)) return [];
  return findRules(plain, /memor|heart|music/iu, MEMORY);
}

const REPEATS: readonly Rule<Repeats>[] = [
  [
    /\b(?:no|without|omit|omitting|skip|skipping)\s+(?:the\s+|any\s+|all\s+)?(?:printed\s+)?repeats?\b|\b(?:do\s+not|don't|not)\s+(?:take|play|observe)\s+(?:the\s+|any\s+)?repeats?\b|\brepeats?\s+(?:is|are|to\s+be|should\s+be|will\s+be|must\s+be)?\s*(?:omitted|not\s+(?:be\s+)?(?:taken|played|observed|required))|\brepeats?:\s*(?:no|none|omit(?:ted)?)\b|\bno\s?reps\b|\b(?:second|2nd|first|1st)\s+endings?\s+only\b|\b(?:take|play)\s+(?:only\s+)?the\s+(?:second|2nd)\s+ending\b/giu,
    'omit',
  ],
  [
    /\b(?:with|take|taking|observe|observing|play|playing|include|including)\s+(?:all\s+|both\s+|the\s+|any\s+|every\s+)*(?:printed\s+)?repeats?\b|\ball\s+repeats?\b(?!\s+(?:omitted|are\s+omitted))|\brepeats?\s+(?:is|are|to\s+be|should\s+be|will\s+be|must\s+be)?\s*(?:taken|played|observed|included|required)\b|\brepeats?:\s*(?:yes|all|take(?:n)?)\b/giu,
    'take',
  ],
];

/** Finds whether repeats are taken. Shape: in order. Units: none. Errors: none. Source: common practice. */
export function findRepeats(plain: string): Found<Repeats>[] {
  return findRules(plain, /rep(?:eat|s)|ending/iu, REPEATS);
}

const ACCOMPANIMENTS: readonly Rule<Accompaniment>[] = [
  [
    /\b(?:piano\s+)?accompaniment\s+(?:is\s+)?(?:optional|not\s+required|not\s+necessary)|\boptional\s+(?:piano\s+)?accompaniment|\bwith\s+or\s+without\s+(?:a\s+)?(?:piano(?:\s+accompaniment)?|accompaniment|accompanist)|\b(?:may|can)\s+be\s+accompanied|\baccompaniment:\s*optional\b|\baccompanist\s+(?:is\s+)?optional|\bno\s+(?:piano\s+)?accompan\w+\s+(?:is\s+)?(?:required|necessary|needed)/giu,
    'optional',
  ],
  [
    /\b(?:played\s+)?(?:with\s+)?(?:piano\s+)?(?:accompaniment|accompanied|piano)\s*,?\s+(?:where|if|when|as)\s+(?:applicable|appropriate|it\s+applies|the\s+\w+\s+has\s+one)/giu,
    'where-applicable',
  ],
  [
    /\bunaccompanied\b|\b(?:no|without)\s+(?:a\s+|piano\s+)?(?:accompaniment|accompanist|piano)\b|\baccompaniment:\s*(?:no|none)\b|\baccompaniment\s+(?:is\s+)?not\s+(?:allowed|permitted)|\bnot\s+(?:be\s+)?accompanied\b/giu,
    'none',
  ],
  [
    /\b(?:piano\s+)?accompaniment\s+(?:is\s+)?(?:required|compulsory|obligatory)|\b(?:must|should|to)\s+be\s+accompanied|\bwith\s+(?:a\s+|live\s+|piano\s+)*(?:accompaniment|accompanist|piano)\b|\baccompanied\b|\baccompaniment:\s*(?:yes|required|piano)\b|\brequired\s+(?:piano\s+)?accompaniment|\baccompanist\s+required|\b(?:use|with|bring)\s+(?:a\s+|an\s+|the\s+)?(?:own\s+|live\s+)?pianist\b|\bwith\s+(?:the\s+|a\s+)?(?:supplied\s+|recorded\s+)?(?:play-along|backing|piano|accompaniment)\s+track/giu,
    'required',
  ],
];

/** Finds whether a part is accompanied. Shape: in order. Units: none. Errors: none. Source: common practice. */
export function findAccompaniment(plain: string): Found<Accompaniment>[] {
  return findRules(plain, /accompan|pian|track/iu, ACCOMPANIMENTS);
}

/** Shortest and longest duration. Units: seconds; null where that side is not bound. */
export interface DurationBounds {
  readonly minSeconds: number | null;
  readonly maxSeconds: number | null;
}

const AMOUNT = (name: string): string =>
  `(?<${name}>\\d{1,3}(?::\\d{2}|\\.\\d+)?|one|two|three|four|five|six|seven|eight|nine|ten|twelve|fifteen|twenty|thirty|sixty|ninety)(?<${name}Half>\\s*(?:-?\\s*and[- ]a[- ]half|1/2))?`;
const UNIT = (name: string): string => `[- ]*(?<${name}>minutes?|mins?\\b\\.?|seconds?|secs?\\b\\.?|')`;
const AT_MOST_BEFORE =
  '(?:no\\s+(?:longer|more)\\s+than|not\\s+(?:to\\s+)?(?:be\\s+)?(?:exceed(?:ing)?|longer\\s+than|more\\s+than|over)|(?:must|should|may)\\s+not\\s+exceed|at\\s+most|up\\s+to|(?:a\\s+)?max(?:imum|\\.)?(?:\\s+(?:duration|length|time|of))*:?|(?:time\\s+)?limit(?:\\s+(?:of|is))?:?|within|under|less\\s+than|limited\\s+to)';
const AT_LEAST_BEFORE =
  '(?:at\\s+least|no\\s+(?:shorter|less)\\s+than|not\\s+(?:shorter|less)\\s+than|(?:a\\s+)?min(?:imum|\\.)?(?:\\s+(?:duration|length|time|of))*:?|over|more\\s+than)';
const BETWEEN = new RegExp(
  `(?<![\\w:])(?:between\\s+|from\\s+)?${AMOUNT('low')}(?:${UNIT('lowUnit')})?\\s*(?:-|to|and)\\s*${AMOUNT('high')}${UNIT('unit')}(?![\\w])`,
  'giu',
);
const BOTH = new RegExp(
  `(?<![\\w])${AT_LEAST_BEFORE}\\s*${AMOUNT('low')}${UNIT('lowUnit')}\\s*(?:,\\s*)?(?:and|but)\\s+${AT_MOST_BEFORE}\\s*${AMOUNT('high')}(?:${UNIT('unit')})?(?![\\w])`,
  'giu',
);
const MAX_BEFORE = new RegExp(
  `(?<![\\w])${AT_MOST_BEFORE}\\s*(?:${AMOUNT('a')}${UNIT('unit')}|(?<clock>\\d{1,2}:\\d{2})(?![\\d:]|\\s*[ap]\\.?m))`,
  'giu',
);
const MIN_BEFORE = new RegExp(
  `(?<![\\w])${AT_LEAST_BEFORE}\\s*(?:${AMOUNT('a')}${UNIT('unit')}|(?<clock>\\d{1,2}:\\d{2})(?![\\d:]|\\s*[ap]\\.?m))`,
  'giu',
);
const MAX_AFTER = new RegExp(
  `(?<![\\w:])${AMOUNT('a')}${UNIT('unit')}\\s*(?:,\\s*)?\\(?(?:max(?:imum|\\b\\.?)|or\\s+(?:less|under|fewer|shorter)|at\\s+most|limit)\\)?`,
  'giu',
);
const MIN_AFTER = new RegExp(
  `(?<![\\w:])${AMOUNT('a')}${UNIT('unit')}\\s*(?:,\\s*)?\\(?(?:min(?:imum|\\b\\.?)|or\\s+(?:more|longer)|at\\s+least)\\)?`,
  'giu',
);
const WORDS: Readonly<Record<string, number>> = {
  fifteen: 15,
  twenty: 20,
  thirty: 30,
  sixty: 60,
  ninety: 90,
};

/**
 * Finds duration limits: "no longer than 3 minutes", "3–5 minutes", "maximum 4:30".
 * Shape:  time to prepare or to study is no limit and is left alone
 * Units:  seconds
 * Source: common practice
 */
export function findDurations(plain: string): Found<DurationBounds>[] {
  if (!/min|sec|'|:\d\d/iu.test(plain)) return [];
  const found: Found<DurationBounds>[] = [];
  let rest = plain;
  const read = (
    pattern: RegExp,
    bounds: (groups: Readonly<Record<string, string | undefined>>) => DurationBounds,
  ): void => {
    for (const match of rest.matchAll(pattern)) {
      const end = match.index + match[0].length;
      if (
        /^\s*(?:to|of|for)?\s*(?:study|stud(?:ies|ying)|prepar|look|review|warm|before|each$)/iu.test(
          plain.slice(end),
        )
      )
        continue;
      found.push({ value: bounds(match.groups ?? {}), start: match.index, end });
      rest = `${rest.slice(0, match.index)}${'\uE000'.repeat(match[0].length)}${rest.slice(end)}`;
    }
  };
  read(BOTH, (groups) => ({
    minSeconds: seconds(groups.low, groups.lowHalf, groups.lowUnit),
    maxSeconds: seconds(groups.high, groups.highHalf, groups.unit ?? groups.lowUnit),
  }));
  read(BETWEEN, (groups) => ({
    minSeconds: seconds(groups.low, groups.lowHalf, groups.lowUnit ?? groups.unit),
    maxSeconds: seconds(groups.high, groups.highHalf, groups.unit),
  }));
  const one = (groups: Readonly<Record<string, string | undefined>>): number =>
    groups.clock === undefined
      ? seconds(groups.a, groups.aHalf, groups.unit)
      : seconds(groups.clock, undefined, 'minutes');
  read(MAX_AFTER, (groups) => ({ minSeconds: null, maxSeconds: one(groups) }));
  read(MIN_AFTER, (groups) => ({ minSeconds: one(groups), maxSeconds: null }));
  read(MAX_BEFORE, (groups) => ({ minSeconds: null, maxSeconds: one(groups) }));
  read(MIN_BEFORE, (groups) => ({ minSeconds: one(groups), maxSeconds: null }));
  return found.sort((a, b) => a.start - b.start);
}

function seconds(amount: string | undefined, half: string | undefined, unit: string | undefined): number {
  const text = (amount ?? '').toLowerCase();
  const clock = /^(\d+):(\d\d)$/u.exec(text);
  if (clock) return Number(clock[1]) * 60 + Number(clock[2]);
  const number = /\d/u.test(text) ? Number(text) : (WORDS[text] ?? countOf(text));
  return (number + (half === undefined ? 0 : 0.5)) * (/^s/iu.test(unit ?? '') ? 1 : 60);
}

const POINTS =
  /(?<![\w.])(?:(?:worth|carr(?:y|ies)|for|counts?|out\s+of)\s+)?\(?(?<before>\d{1,3})\s*(?:points?|pts?\b\.?|marks?)\b(?<shared>\s+(?:each|for\s+(?:both|all)|in\s+(?:all|total)|total|altogether|combined|shared))?\)?|(?:points|marks|score|weight)\s*[:=]\s*(?<after>\d{1,3})(?!\d)|(?<total>\btotal)\s*(?:of|:|is|=)?\s*(?<sum>\d{2,4})\s*(?:points?|marks?)?|(?<!\b(?:before|after|to|from|figure|at|letter)\s)\[(?<bracketed>\d{1,3})\](?=\s*(?:[.:]|$))/giu;

/** Points as found. Shape: `isTotal` for a sum over parts, `isEach` for "10 points each". */
export interface PointsFound {
  readonly points: number;
  readonly isTotal: boolean;
  readonly isEach: boolean;
  /** "20 points for both": of none alone. */
  readonly isShared: boolean;
}

/** Finds points and marks. Shape: in order. Units: points. Errors: none. Source: common practice. */
export function findPoints(plain: string): Found<PointsFound>[] {
  if (!/point|pts|mark|total|score|weight|\[\d/iu.test(plain)) return [];
  return [...plain.matchAll(POINTS)].map((match) => {
    const { before, after, sum, shared, total, bracketed } = match.groups ?? {};
    const isTotal = total !== undefined || /total|all|altogether|combined|shared/iu.test(shared ?? '');
    return {
      value: {
        points: Number(before ?? after ?? sum ?? bracketed),
        isTotal,
        isEach: /each/iu.test(shared ?? ''),
        isShared: /for|shared/iu.test(shared ?? ''),
      },
      start: match.index,
      end: match.index + match[0].length,
    };
  });
}
