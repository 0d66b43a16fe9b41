import { asLabelled } from './choices.js';
import { isInstrumentHeading, readHeading } from './heading.js';
import { choicesByPart } from './identity.js';
import type { Choice, SheetPart, SheetQuestion, StructuredSheet } from './model.js';
import type { PartDraft } from './part-draft.js';
import type { SheetMark } from './reading.js';
import type { SheetState } from './sheet-state.js';

/** Names without their repetitions, whatever their letters. */
export function unique(names: readonly string[]): string[] {
  return names.filter(
    (name, n) => names.findIndex((other) => other.toLowerCase() === name.toLowerCase()) === n,
  );
}

/** The marks by place, with the paths of their parts. */
export function finalMarks(state: SheetState): SheetMark[] {
  const places = new Map(state.drafts.map((draft, n) => [draft, n]));
  return state.marks
    .map(({ draft, about, start, end }) => ({
      start,
      end,
      about: draft ? `parts[${places.get(draft)}]/${about}` : about,
    }))
    .sort((a, b) => a.start - b.start || b.end - a.end);
}

/** Puts together what was read. */
export function finish(state: SheetState): StructuredSheet {
  const heading = readHeading(state.lines.slice(0, Math.max(state.headLines, 1)), state.text);
  const instruments = [...heading.instruments, ...state.instruments];
  const sections = {
    instruments: sectionNames(state, (name) => isInstrumentHeading(name)),
    divisions: sectionNames(state, (name) => state.divisions.some((division) => division.name === name)),
  };
  const finished = state.drafts.map((draft) => finishPart(state, draft, sections));
  const parts = finished.map(({ part }) => part);
  const labels = parts.map(({ label }) => label);
  const year = state.headed.year ?? heading.year;
  const body = state.headed.body ?? heading.body;
  const questions = [
    ...missingQuestions(body, year),
    ...state.questions,
    ...finished.flatMap((one) => one.questions),
    ...pointsQuestions(state, parts),
  ];
  return {
    body,
    year,
    instruments: unique(instruments),
    division: state.divisions,
    deadlines: state.deadlines,
    parts,
    choices: state.choices.flatMap(({ choice, lists }) =>
      choicesByPart([finishChoice(state, choice, { lists, labels })], parts),
    ),
    notes: state.notes,
    questions: [
      ...new Map(
        questions.map((question) => [`${question.partId}\n${question.about}\n${question.ask}`, question]),
      ).values(),
    ],
    amends: null,
    changes: [],
  };
}

function missingQuestions(body: string | null, year: string | null): SheetQuestion[] {
  const open = (about: string, ask: string): SheetQuestion => ({ partId: null, about, ask, candidates: [] });
  return [
    ...(body === null
      ? [open('body', 'The text does not name the body that publishes the sheet. Which one is it?')]
      : []),
    ...(year === null
      ? [open('year', 'The text does not say which year the sheet is for. Which one is it?')]
      : []),
  ];
}

/** A question where all parts have points and the sheet's own total is another. */
function pointsQuestions({ total }: SheetState, parts: readonly SheetPart[]): SheetQuestion[] {
  const sum = parts.reduce((all, { points }) => all + (points ?? 0), 0);
  const isWhole = parts.every(({ points, kind }) => points !== null || kind === 'other');
  if (total === null || sum === total || !isWhole) return [];
  const ask = `The points add up to ${sum}, the sheet says ${total} in all. Which one holds?`;
  return [{ partId: null, about: 'points', ask, candidates: [sum, total] }];
}

function sectionNames(state: SheetState, test: (name: string) => boolean): Set<string> {
  return new Set(state.drafts.flatMap(({ appliesTo }) => [...appliesTo].filter(test)));
}

function finishPart(
  state: SheetState,
  draft: PartDraft,
  sections: { readonly instruments: ReadonlySet<string>; readonly divisions: ReadonlySet<string> },
): ReturnType<PartDraft['finish']> {
  const heading = state.headings.get(draft);
  if (heading) draft.inherit(heading);
  for (const { kinds, rule } of state.groupRules)
    if (kinds === null || kinds.includes(draft.kind)) draft.inherit(rule);
  // A heading that stands for the whole sheet limits nothing.
  if (sections.instruments.size === 1) for (const name of sections.instruments) draft.appliesTo.delete(name);
  if (sections.divisions.size === 1 && state.divisions.length === 1)
    for (const name of sections.divisions) draft.appliesTo.delete(name);
  return draft.finish(state.divisions.map(({ name }) => name));
}

function listName(state: SheetState, letter: string): string {
  return state.drafts.some(({ appliesTo }) => appliesTo.has(`Group ${letter}`))
    ? `Group ${letter}`
    : `List ${letter}`;
}

function finishChoice(
  state: SheetState,
  choice: Choice,
  { lists, labels }: { readonly lists: readonly string[] | null; readonly labels: readonly string[] },
): Choice {
  if (lists === null)
    return {
      ...choice,
      of: choice.of.map((one) => (typeof one === 'string' ? asLabelled(one, labels) : one)),
    };
  const names =
    lists.length > 0
      ? lists.map((letter) => listName(state, letter.toUpperCase()))
      : unique(
          state.drafts.flatMap(({ appliesTo }) =>
            [...appliesTo].filter((name) => /^(?:List|Group) /u.test(name)),
          ),
        );
  const groups = names.map((name) =>
    state.drafts.filter(({ appliesTo }) => appliesTo.has(name)).map(({ id }) => id),
  );
  return { ...choice, of: groups.every((group) => group.length > 0) ? groups : names };
}
