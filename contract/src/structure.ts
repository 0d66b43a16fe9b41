import { capital } from '@vivid-cue/core/base';
import {
  NO_SOURCE,
  blankPart,
  choicesByPart,
  NO_TEMPO,
  scopeOf,
  type Deadline,
  type ExchangedSheet,
  type SheetPart,
  type StructuredSheet,
} from '@vivid-cue/core/sheet';
import type { ChoiceInput, DeadlineInput, SheetChange, SheetView } from './sheets.js';
import { zoneOfPrinted } from './zones.js';

/** A stored date as the core's rules see it. */
export function deadlineStructure({ kind, date, endDate, time, zone, text }: DeadlineInput): Deadline {
  return {
    what: kind,
    date: endDate == null || date === null ? date : `${date}/${endDate}`,
    time,
    zone,
    text: text ?? '',
  };
}

/**
 * A sheet as it is exchanged: what export writes and an errata notice is laid against.
 * Shape:  questions that are answered are left out
 * Source: docs/formats.md
 */
export function sheetStructure(sheet: SheetChange | SheetView): StructuredSheet {
  return {
    body: sheet.body === '' ? null : sheet.body,
    year: sheet.year === '' ? null : sheet.year,
    instruments: sheet.instrument === '' ? [] : sheet.instrument.split(/\s*,\s*/u),
    division:
      sheet.division === ''
        ? []
        : [
            {
              name: sheet.division,
              gradeMin: null,
              gradeMax: null,
              ageMin: null,
              ageMax: null,
              asOf: null,
              text: sheet.division,
            },
          ],
    deadlines: sheet.deadlines.map((deadline) => deadlineStructure(deadline)),
    parts: sheet.parts,
    choices: (sheet.choices ?? []) as StructuredSheet['choices'],
    notes: (sheet.notes ?? []) as StructuredSheet['notes'],
    questions: (sheet.questions ?? [])
      .filter(({ answer }) => answer === null)
      .map(({ partId, about, ask, candidates }) => ({ partId, about, ask, candidates })),
    amends: null,
    changes: [],
  };
}

/** What turning a structure into a sheet needs from outside. */
export interface StructureOptions {
  /** The zone of dates that print none. */
  readonly zone: string;
  readonly newId: () => string;
}

/**
 * A structured sheet as the application stores it.
 * Shape:  body, year and instrument may be empty and must then be asked for; a date without its year has none yet; a tempo
 *         without its note is none yet
 * Errors: none; the schema judges
 * Source: docs/formats.md
 */
export function sheetFromStructure(sheet: StructuredSheet, { zone, newId }: StructureOptions): SheetChange {
  return {
    body: calmTitle(sheet.body ?? ''),
    year: sheet.year ?? '',
    division: divisionText(sheet),
    instrument: sheet.instruments.join(', '),
    deadlines: sheet.deadlines.map((deadline) => deadlineInput(deadline, { zone, newId })),
    parts: sheet.parts.map((part) => storedPart(part)),
    choices: sheet.choices.map(({ rule, n, of }) => ({
      rule,
      n,
      of: of.map((one) => (typeof one === 'string' ? one : [...one])),
    })) as ChoiceInput[],
    notes: sheet.notes.map(({ kind, text }) => ({ kind, text })),
    questions: sheet.questions.map(({ partId, about, ask, candidates }) => ({
      partId,
      about: about.slice(0, 200),
      ask: ask.slice(0, 600),
      candidates: [...candidates].slice(0, 20).map((one) => one ?? ''),
      answer: null,
      reason: null,
    })),
  };
}

const SMALL_WORDS: ReadonlySet<string> = new Set([
  'of',
  'and',
  'the',
  'for',
  'in',
  'to',
  'a',
  'an',
  'on',
  'at',
]);

/** A name printed all in capitals, as it is written in running text. */
function calmTitle(name: string): string {
  if (name !== name.toUpperCase() || !/\p{L}{3}/u.test(name)) return name;
  return name
    .toLowerCase()
    .replace(/\p{L}+/gu, (word, at: number) => (at > 0 && SMALL_WORDS.has(word) ? word : capital(word)));
}

function divisionText({ division }: StructuredSheet): string {
  return division
    .map(({ name, text, gradeMin, gradeMax, ageMin, ageMax }) => {
      const grades =
        gradeMin === null
          ? ''
          : gradeMin === gradeMax
            ? `grade ${gradeMin}`
            : `grades ${gradeMin}–${gradeMax}`;
      const ages =
        ageMin === null && ageMax === null
          ? ''
          : ageMin === null
            ? `to age ${ageMax}`
            : ageMax === null
              ? `from age ${ageMin}`
              : `ages ${ageMin}–${ageMax}`;
      const bounds = [grades, ages].filter((one) => one !== '').join(', ');
      return name === null ? (bounds === '' ? text : bounds) : bounds === '' ? name : `${name} (${bounds})`;
    })
    .join('; ');
}

function deadlineInput({ what, date, time, zone, text }: Deadline, options: StructureOptions): DeadlineInput {
  const [from, to] = (date ?? '').split('/');
  const isWhole = from !== undefined && /^\d{4}/u.test(from);
  return {
    id: options.newId(),
    kind: what,
    date: isWhole ? from : null,
    endDate: isWhole ? (to ?? null) : null,
    time,
    zone: zoneOfPrinted(zone) ?? options.zone,
    text: text.slice(0, 400),
  };
}

/** A part as the application stores it: a tempo without its note value is none yet, seconds are whole. */
export function storedPart(part: SheetPart): SheetPart {
  const { tempo, minSeconds, maxSeconds } = part;
  const hasUnit = tempo.beatUnit !== null || (tempo.bpmMin === null && tempo.bpmMax === null);
  return {
    ...part,
    tempo: hasUnit ? tempo : NO_TEMPO,
    minSeconds: minSeconds === null ? null : Math.round(minSeconds),
    maxSeconds: maxSeconds === null ? null : Math.round(maxSeconds),
  };
}

/**
 * A sheet from a file of the exchange format, as one of our own.
 * Shape:  every part gets an identifier of its own, and choices and questions follow
 * Source: docs/formats.md
 */
export function adoptedSheet(file: ExchangedSheet, newId: () => string): StructuredSheet {
  const ids = new Map<string, string>();
  const parts = file.parts.map(({ appliesTo, list, ...rest }, n): SheetPart => {
    const { page = null, ...work } = rest.source ?? {};
    const source = { ...NO_SOURCE, ...work, page: page === null ? null : String(page) };
    const part = { ...blankPart(rest.label, rest.kind), ...rest, source };
    const known = typeof part.id === 'string' && part.id !== '' ? part.id : `part-${n}`;
    ids.set(known, newId());
    return {
      ...part,
      id: known,
      scope: scopeOf(
        [...(appliesTo ?? []), ...(list ? [list] : [])],
        file.division.map(({ name }) => name),
      ),
    };
  });
  const choices = choicesByPart(file.choices, parts);
  const own = (id: string): string => ids.get(id) ?? id;
  const aboutPart = (about: string): string | null => {
    const label = about.replace(/\/[^/]*$/u, '');
    const named = parts.filter((part) => part.label === label);
    return named.length === 1 ? own(named[0]?.id ?? '') : null;
  };
  return {
    ...file,
    parts: parts.map((part) => ({ ...part, id: own(part.id) })),
    choices: choices.map((choice) => ({
      ...choice,
      of: choice.of.map((one) => (typeof one === 'string' ? own(one) : one.map(own))),
    })),
    questions: file.questions.map((question) => ({ ...question, partId: aboutPart(question.about) })),
    changes: [],
  };
}
