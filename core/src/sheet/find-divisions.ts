import { remembered } from '../base/index.js';
import { findDates } from './find-dates.js';
import type { Found } from './found.js';
import type { Division } from './model.js';

const AGE = '(?<age>\\d{1,2})';
const AS_OF = '(?:(?:,?\\s*(?:as\\s+of|on|by|before|at))\\s+)';
const RULES: readonly (readonly [
  RegExp,
  (groups: Readonly<Record<string, string | undefined>>) => Partial<Division>,
])[] = [
  [
    /(?<![\w])(?:in\s+)?grades?\s+(?<low>\d{1,2})(?:\s*(?:-|to|through|thru|and|&)\s*(?<high>\d{1,2}))(?!\d)/giu,
    ({ low, high }) => ({ gradeMin: Number(low), gradeMax: Number(high ?? low) }),
  ],
  [
    /(?<![\w])(?<low>\d{1,2})(?:st|nd|rd|th)?\s*(?:-|to|through|thru|and|&)\s*(?<high>\d{1,2})(?:st|nd|rd|th)\s+grad(?:es?|ers?)/giu,
    ({ low, high }) => ({ gradeMin: Number(low), gradeMax: Number(high) }),
  ],
  [
    /(?<![\w])(?:ages?|aged|between\s+the\s+ages\s+of)\s+(?:from\s+)?(?<low>\d{1,2})\s*(?:-|to|through|and)\s*(?<high>\d{1,2})(?!\d)(?:\s+years)?/giu,
    ({ low, high }) => ({ ageMin: Number(low), ageMax: Number(high) }),
  ],
  [
    new RegExp(
      `(?<![\\w])(?:no\\s+\\p{L}+|nobody|no\\s+one|none)\\s+(?:may\\s+be\\s+|is\\s+)?(?:younger\\s+than|under|below)\\s+${AGE}(?!\\d)(?:\\s+(?:or|and|nor)\\s+(?:older\\s+than|over|above)\\s+(?<high>\\d{1,2}))?`,
      'giu',
    ),
    ({ age, high }) => ({ ageMin: Number(age), ...(high === undefined ? {} : { ageMax: Number(high) }) }),
  ],
  [
    new RegExp(
      `(?<![\\w])(?:must\\s+)?not\\s+yet\\s+(?:be\\s+|have\\s+(?:reached|turned)\\s+(?:the\\s+age\\s+of\\s+)?)?${AGE}(?!\\d)(?:\\s+years(?:\\s+(?:old|of\\s+age))?)?`,
      'giu',
    ),
    ({ age }) => ({ ageMax: Number(age) - 1 }),
  ],
  [
    new RegExp(
      `(?<![\\w])(?:be|is|are)\\s+at\\s+least\\s+${AGE}(?!\\s*(?:min|sec|measure|bar|beats|bpm|oct|\\d))`,
      'giu',
    ),
    ({ age }) => ({ ageMin: Number(age) }),
  ],
  [
    new RegExp(
      `(?<![\\w])(?<!\\bmay\\s+be\\s+|\\bnobody\\s+(?:is\\s+)?)(?:under|below|younger\\s+than)\\s+(?:the\\s+age\\s+of\\s+)?${AGE}(?!\\d)(?!\\s*(?:min|sec|point))(?:\\s+years(?:\\s+(?:old|of\\s+age))?)?`,
      'giu',
    ),
    ({ age }) => ({ ageMax: Number(age) - 1 }),
  ],
  [
    new RegExp(
      `(?<![\\w])${AGE}\\s+(?:years\\s+(?:(?:old|of\\s+age)\\s+)?)?(?:or|and)\\s+(?:younger|under)(?!\\s+\\d)`,
      'giu',
    ),
    ({ age }) => ({ ageMax: Number(age) }),
  ],
  [
    new RegExp(
      `(?<![\\w])(?:at\\s+least|over)\\s+${AGE}\\s+years(?:\\s+(?:old|of\\s+age))?|(?<![\\w])(?<age2>\\d{1,2})\\s+(?:years\\s+(?:old|of\\s+age)\\s+)?(?:or|and)\\s+(?:older|over)(?!\\w)`,
      'giu',
    ),
    ({ age, age2 }) => ({ ageMin: Number(age ?? age2) }),
  ],
];
const NAME =
  /(?<![\w])(?:(?:junior|senior|intermediate|elementary|primary|advanced|novice|middle|upper|lower|open|collegiate|youth|young\s+artist)\s+(?:division|level|section|category)|division\s+(?:[IVX]+|\d|[A-D])(?!\w)|(?:high|middle|junior\s+high|elementary)\s+school|undergraduate|postgraduate|graduate|(?<exam>grade\s+(?:[1-9]|one|two|three|four|five|six|seven|eight))(?!\d|\s*(?:-|to|through|and)\s*\d{1,2}(?!\d)))(?!\s+(?:honou?rs?|all|band|orchestra|choir|music|ensemble|winds)\b)/giu;
const DIVISION_LINE = /^\s*(?:division|level|category)\s*:\s*(?<name>[^(,;:\n]+?)\s*(?=[(,;]|$)/iu;

/**
 * Finds who a sheet is for: grades, ages with their day, named divisions, exam grades.
 * Shape:  "not yet 19" is ageMax 18; "Grade 5" alone is a name; a name next to its grades comes as one
 * Units:  school grades, years
 * Source: docs/formats.md
 */
export const findDivisions = remembered((plain: string, printed: string): readonly Found<Division>[] =>
  divisionsIn(plain, printed),
);

function divisionsIn(plain: string, printed: string): Found<Division>[] {
  if (
    !/grade|age|under|below|younger|not yet|years|division|level|section|category|school|graduate/iu.test(
      plain,
    )
  )
    return [];
  const names = findNames(plain, printed);
  const found = RULES.flatMap(([pattern, read]) =>
    [...plain.matchAll(pattern)].map(({ index, groups, 0: text }) =>
      withDay(
        { value: { ...NO_DIVISION, ...read(groups ?? {}) }, start: index, end: index + text.length },
        plain,
        printed,
      ),
    ),
  ).sort((a, b) => a.start - b.start);
  const joined: Found<Division>[] = [];
  for (const bounds of found) {
    const at = names.findIndex(
      (name) => name.end <= bounds.start && /^[\s,(:\uE000-]*$/u.test(plain.slice(name.end, bounds.start)),
    );
    const [name] = at < 0 ? [] : names.splice(at, 1);
    const last = joined.at(-1);
    if (last && !name && /^[\s,;)]*(?:and\s+)?(?:must\s+be\s+)?$/u.test(plain.slice(last.end, bounds.start)))
      joined[joined.length - 1] = merge(last, bounds, printed);
    else joined.push(name ? merge(name, bounds, printed) : bounds);
  }
  return [...joined, ...names].sort((a, b) => a.start - b.start);
}

/** A division of which nothing is stated. */
export const NO_DIVISION: Division = Object.freeze({
  name: null,
  gradeMin: null,
  gradeMax: null,
  ageMin: null,
  ageMax: null,
  asOf: null,
  text: '',
});

function findNames(plain: string, printed: string): Found<Division>[] {
  const line = DIVISION_LINE.exec(plain);
  if (line?.groups?.name) {
    const start = plain.indexOf(line.groups.name);
    const end = start + line.groups.name.length;
    return [
      {
        value: { ...NO_DIVISION, name: printed.slice(start, end), text: printed.slice(start, end) },
        start,
        end,
      },
    ];
  }
  return [...plain.matchAll(NAME)].map(({ index, 0: text }) => {
    const end = index + text.length;
    const name = printed.slice(index, end);
    return { value: { ...NO_DIVISION, name, text: name }, start: index, end };
  });
}

/** "…on 1 September 2027": the day on which the age counts. */
function withDay(found: Found<Division>, plain: string, printed: string): Found<Division> {
  const text = (end: number): string => closed(printed, found.start, end);
  const joint = new RegExp(`^${AS_OF}`, 'iu').exec(plain.slice(found.end));
  const day = joint && findDates(plain.slice(found.end + joint[0].length))[0];
  if (!joint || day?.start !== 0 || found.value.gradeMin !== null)
    return { ...found, value: { ...found.value, text: text(found.end) } };
  const end = found.end + joint[0].length + day.end;
  return { value: { ...found.value, asOf: day.value.date, text: text(end) }, start: found.start, end };
}

function merge(a: Found<Division>, b: Found<Division>, printed: string): Found<Division> {
  const value = { ...b.value };
  const joined = Object.fromEntries(
    Object.entries(a.value).map(([field, stated]) => [field, stated ?? value[field as keyof Division]]),
  ) as unknown as Division;
  return { value: { ...joined, text: closed(printed, a.start, b.end) }, start: a.start, end: b.end };
}

/** A quotation with the bracket that it opens. */
function closed(printed: string, start: number, end: number): string {
  const text = printed.slice(start, end);
  return text.includes('(') && !text.includes(')') && printed.charAt(end) === ')' ? `${text})` : text;
}
