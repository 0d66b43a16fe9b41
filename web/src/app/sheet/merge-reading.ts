import type { AskedQuestion } from '@vivid-cue/contract';
import { isSameQuestion } from './answers';
import type { SheetFields, SheetRest } from './sheet-form';

/** All that stands on a desk: what is typed into the fields, and what stands beside them. */
export interface DeskContent {
  readonly fields: SheetFields;
  readonly rest: SheetRest;
}

type PartFields = SheetFields['parts'][number];

/** The fields of a tempo say one thing together. */
const TEMPO = ['bound', 'beatUnit', 'low', 'high', 'words', 'printed'] as const;

/**
 * A text read again, with everything that a person changed since it was read before.
 * Shape:  what stands as it was read follows the new reading; what was typed, added, moved, answered or taken away stays
 */
export function mergeReading(mine: DeskContent, base: DeskContent, next: DeskContent): DeskContent {
  const choose = <Value>(own: Value, was: Value, read: Value): Value => (isSame(own, was) ? read : own);
  const { fields, rest } = mine;
  return {
    fields: {
      ...next.fields,
      body: choose(fields.body, base.fields.body, next.fields.body),
      year: choose(fields.year, base.fields.year, next.fields.year),
      division: choose(fields.division, base.fields.division, next.fields.division),
      instrument: choose(fields.instrument, base.fields.instrument, next.fields.instrument),
      deadlines: mergeLists(
        { mine: fields.deadlines, base: base.fields.deadlines, next: next.fields.deadlines },
        mergeFlat,
      ),
      parts: mergeLists({ mine: fields.parts, base: base.fields.parts, next: next.fields.parts }, mergePart),
    },
    rest: {
      ...next.rest,
      choices: choose(rest.choices, base.rest.choices, next.rest.choices),
      notes: isSame(rest.notes, base.rest.notes)
        ? next.rest.notes
        : [...(rest.notes ?? []), ...(next.rest.notes ?? []).filter((note) => !has(base.rest.notes, note))],
      questions: withAnswers(next.rest.questions ?? [], rest.questions ?? []),
    },
  };
}

function isSame(a: unknown, b: unknown): boolean {
  return JSON.stringify(a) === JSON.stringify(b);
}

function has(all: readonly unknown[] | null | undefined, one: unknown): boolean {
  return (all ?? []).some((other) => isSame(other, one));
}

function withAnswers(next: readonly AskedQuestion[], mine: readonly AskedQuestion[]): AskedQuestion[] {
  return next.map((question) => {
    const known = mine.find((one) => one.answer !== null && isSameQuestion(one, question));
    return known ? { ...question, answer: known.answer, reason: known.reason } : question;
  });
}

interface Listed {
  readonly id: string;
}

/** Lists merged entry by entry: those of the new reading without what was taken away, and what was added or typed. */
function mergeLists<One extends Listed>(
  { mine, base, next }: Readonly<Record<'mine' | 'base' | 'next', readonly One[]>>,
  merge: (own: One, was: One, read: One) => One,
): One[] {
  const [own, was] = [byId(mine), byId(base)];
  const read = byId(next);
  const merged = next.flatMap((one) => {
    const [typed, before] = [own.get(one.id), was.get(one.id)];
    if (typed === undefined) return before === undefined ? [one] : [];
    return [before === undefined ? typed : merge(typed, before, one)];
  });
  const kept = mine.filter((one) => {
    const before = was.get(one.id);
    return !read.has(one.id) && (before === undefined || !isSame(one, before));
  });
  const all = [...merged, ...kept];
  const order = mine.map(({ id }) => id);
  const isMoved = !isSame(
    order.filter((id) => was.has(id)),
    base.map(({ id }) => id).filter((id) => own.has(id)),
  );
  if (!isMoved) return all;
  const place = ({ id }: One): number => (order.includes(id) ? order.indexOf(id) : order.length);
  return all.sort((a, b) => place(a) - place(b));
}

function byId<One extends Listed>(all: readonly One[]): Map<string, One> {
  return new Map(all.map((one) => [one.id, one]));
}

function mergeFlat<One extends object>(own: One, was: One, read: One): One {
  const merged = Object.entries(read).map(([name, value]) => {
    const key = name as keyof One;
    return [name, isSame(own[key], was[key]) ? value : own[key]];
  });
  return Object.fromEntries(merged) as One;
}

function mergePart(own: PartFields, was: PartFields, read: PartFields): PartFields {
  const isTempoTyped = TEMPO.some((name) => !isSame(own[name], was[name]));
  const tempo = isTempoTyped ? own : read;
  return {
    ...read,
    ...Object.fromEntries(TEMPO.map((name) => [name, tempo[name]])),
    fields: mergeFlat(own.fields, was.fields, read.fields),
  };
}

/** The fields with one of a part as it was read: what is said of it next holds. */
export function asRead(mine: DeskContent, base: DeskContent, at: { id: string; field: string }): DeskContent {
  const read = base.fields.parts.find(({ id }) => id === at.id);
  if (!read) return mine;
  const parts = mine.fields.parts.map((part) => {
    if (part.id !== at.id) return part;
    if (at.field === 'tempo')
      return { ...part, ...Object.fromEntries(TEMPO.map((name) => [name, read[name]])) };
    const name = at.field as keyof PartFields['fields'];
    return { ...part, fields: { ...part.fields, [name]: read.fields[name] } };
  });
  return { ...mine, fields: { ...mine.fields, parts } };
}
