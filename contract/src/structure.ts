import { tempoText, type TempoMark } from '@vivid-cue/core/music';
import {
  blankPart,
  NO_SOURCE,
  NO_TEMPO,
  type Deadline,
  type SheetPart,
  type SheetSpan,
  type StructuredSheet,
} from '@vivid-cue/core/sheet';
import type {
  ChoiceInput,
  DeadlineInput,
  PartDetail,
  SheetChange,
  SheetPartInput,
  SheetView,
} from './sheets.js';
import { zoneOfPrinted } from './zones.js';

/**
 * A stored part as the core's rules see it.
 * Shape:  a part without details states only label, kind, span, tempo and title
 * Units:  as SheetPart
 */
export function partStructure({
  kind,
  label,
  workTitle,
  from,
  to,
  tempo,
  detail,
}: SheetPartInput): SheetPart {
  const blank = blankPart(label, kind);
  const point = (text: string): number | string => (/^\d+$/u.test(text) ? Number(text) : text);
  const span = from === null || to === null ? [] : [{ from: point(from), to: point(to), anchorText: null }];
  const head = { ...blank, title: workTitle === '' ? null : workTitle, tempo };
  if (detail == null) return { ...head, measures: span };
  const { composer, book, number, page, edition, measures, ...rest } = detail;
  return {
    ...head,
    ...rest,
    source: { ...NO_SOURCE, composer, book, number, page, edition },
    measures:
      measures.length > 0
        ? measures.map((run) => ({ ...run, from: point(run.from), to: point(run.to) }))
        : span,
  };
}

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
    parts: sheet.parts.map((part) => partStructure(part)),
    choices: (sheet.choices ?? []) as StructuredSheet['choices'],
    notes: (sheet.notes ?? []) as StructuredSheet['notes'],
    questions: (sheet.questions ?? [])
      .filter(({ answer }) => answer === null)
      .map(({ about, ask, candidates }) => ({ about, ask, candidates })),
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
    body: calmTitle(sheet.body ?? '').slice(0, 160),
    year: sheet.year ?? '',
    division: divisionText(sheet).slice(0, 120),
    instrument: sheet.instruments.join(', ').slice(0, 60),
    deadlines: sheet.deadlines.slice(0, 30).map((deadline) => deadlineInput(deadline, { zone, newId })),
    parts: sheet.parts.slice(0, 60).map((part) => partInput(part, newId())),
    choices: sheet.choices.map(({ rule, n, of }) => ({
      rule,
      n,
      of: of.map((one) => (typeof one === 'string' ? one : [...one])),
    })) as ChoiceInput[],
    notes: sheet.notes.slice(0, 100).map(({ kind, text }) => ({ kind, text: text.slice(0, 2000) })),
    questions: sheet.questions.slice(0, 100).map(({ about, ask, candidates }) => ({
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
    .replace(/\p{L}+/gu, (word, at: number) =>
      at > 0 && SMALL_WORDS.has(word) ? word : `${word.charAt(0).toUpperCase()}${word.slice(1)}`,
    );
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

/** A part as the application stores it. */
export function partInput(part: SheetPart, id: string): SheetPartInput {
  const { label, kind, title, tempo, source, measures, ...rest } = part;
  const hasUnit = tempo.beatUnit !== null || (tempo.bpmMin === null && tempo.bpmMax === null);
  const cut = (text: string | null, max: number): string | null => text?.slice(0, max) ?? null;
  return {
    id,
    kind,
    label: label.slice(0, 80),
    workTitle: (title ?? '').slice(0, 160),
    from: pointText(measures[0]?.from),
    to: pointText(measures.at(-1)?.to),
    tempo: hasUnit ? { ...tempo, words: cut(tempo.words, 120) } : NO_TEMPO,
    detail: {
      appliesTo: rest.appliesTo.map((one) => one.slice(0, 80)).slice(0, 20),
      composer: cut(source.composer, 120),
      book: cut(source.book, 160),
      number: cut(source.number, 20),
      page: cut(source.page, 20),
      edition: cut(source.edition, 80),
      measures: measures.slice(0, 20).map((span) => spanInput(span)),
      key: cut(rest.key, 40),
      octaves: rest.octaves,
      noteValue: rest.noteValue,
      range: rest.range && { low: rest.range.low.slice(0, 60), high: rest.range.high.slice(0, 60) },
      articulation: cut(rest.articulation, 160),
      memory: rest.memory,
      repeats: rest.repeats,
      accompaniment: rest.accompaniment,
      maxSeconds: rest.maxSeconds === null ? null : Math.round(rest.maxSeconds),
      minSeconds: rest.minSeconds === null ? null : Math.round(rest.minSeconds),
      points: rest.points,
    },
  };
}

function pointText(point: number | string | undefined): string | null {
  return point === undefined ? null : String(point);
}

function spanInput({ from, to, anchorText }: SheetSpan): PartDetail['measures'][number] {
  return { from: String(from), to: String(to), anchorText: anchorText?.slice(0, 200) ?? null };
}

/** A part of which nothing beside label, kind, span and tempo is stated. */
export function blankDetail(): PartDetail {
  return partInput(blankPart('', 'other'), '').detail as PartDetail;
}

/** A tempo as a person writes it, so that it reads back the same: "dotted-quarter = 60-66". */
export function tempoPhrase({ beatUnit, bpmMin, bpmMax, bound, words }: TempoMark): string {
  const low = bpmMin ?? bpmMax;
  if (low === null || beatUnit === null) return words ?? '';
  const number = bound === 'range' ? `${low}-${bpmMax}` : String(low);
  const limit = { min: ' or faster', max: ' or slower' }[bound as string] ?? '';
  return `${words === null ? '' : `${words}, `}${beatUnit} = ${bound === 'about' ? 'ca. ' : ''}${number}${limit}`;
}

/** A tempo mark with note glyphs, for reading. */
export function shownTempo(mark: TempoMark): string {
  const low = mark.bpmMin ?? mark.bpmMax;
  return low === null || mark.beatUnit === null ? (mark.words ?? '') : tempoText(low, mark.beatUnit);
}
