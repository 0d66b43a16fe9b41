import { groupBy } from '../../base/index.js';
import type { Claims } from '../claims/claims.js';
import type { Choice, SheetPart, SheetQuestion } from '../model.js';
import { countOf } from '../span-reader.js';
import type { AssembledPart } from './assemble.js';

const WORKS: ReadonlySet<string> = new Set(['etude', 'excerpt']);

/** What the sheet as a whole leaves open. */
export function sheetQuestions(
  sheet: { readonly body: string | null; readonly year: string | null; readonly choices: readonly Choice[] },
  assembled: readonly AssembledPart[],
  { claims, text }: { readonly claims: Claims; readonly text: string },
): SheetQuestion[] {
  const open = (about: string, ask: string, candidates: readonly unknown[] = []): SheetQuestion => ({
    partId: null,
    about,
    ask,
    candidates,
  });
  const asksYear = claims.questions.some(({ about }) => /\/date$/u.test(about));
  return [
    ...(sheet.body === null
      ? [open('body', 'The text does not name the body that publishes the sheet. Which one is it?')]
      : []),
    ...(sheet.year === null && !asksYear
      ? [open('year', 'The text does not say which year the sheet is for. Which one is it?')]
      : []),
    ...claims.questions,
    ...assembled.flatMap(({ questions }) => questions),
    ...missingTempos(assembled),
    ...missingMeasures(assembled),
    ...countQuestions(assembled, text),
    ...elsewhere(assembled, text),
    ...programQuestions(claims, text),
    ...pointsQuestions(sheet.choices, assembled, claims),
  ];
}

/** A work without a tempo among works that have one: somebody forgot it, or the score says it. */
function missingTempos(assembled: readonly AssembledPart[]): SheetQuestion[] {
  const isOpen = ({ tempo }: SheetPart): boolean => tempo.bound === 'none';
  const isWork = ({ part, facts }: AssembledPart): boolean =>
    (WORKS.has(part.kind) || (part.kind === 'solo' && part.source.composer !== null)) &&
    !facts.some(({ field }) => field === 'asMarked');
  const works = assembled.filter(isWork);
  if (works.filter(({ part }) => !isOpen(part)).length < 2) return [];
  const lists = works.filter(({ part }) => !isOpen(part));
  return works
    .filter(({ part }) => isOpen(part) && part.measures.length > 0 && lists.length >= works.length / 2)
    .map(({ part }) => ({
      partId: part.id,
      about: `${part.label}/tempo`,
      ask: `${part.label} has no tempo, as the others have. Which one is asked?`,
      candidates: [],
    }));
}

/** What stands in place of a piece of which measures are asked. */
function missingMeasures(assembled: readonly AssembledPart[]): SheetQuestion[] {
  return assembled
    .filter(({ part, seed }) => seed.isAlternate === true && part.measures.length === 0)
    .map(({ part }) => ({
      partId: part.id,
      about: `${part.label}/measures`,
      ask: `Which measures of ${part.label} are played?`,
      candidates: [],
    }));
}

/** "Six scales" over seven. */
function countQuestions(assembled: readonly AssembledPart[], text: string): SheetQuestion[] {
  const scales = groupBy(
    assembled.filter(({ part }) => part.kind === 'scale' && part.title === null && part.key !== null),
    ({ seed }) => seed.place.scope.instruments.join(', '),
  );
  const counts = [
    ...text.matchAll(
      /\b(two|three|four|five|six|seven|eight|nine|ten|eleven|twelve)\s+(?:(?:major|minor)\s+)?scales\b/giu,
    ),
  ];
  return [...scales.entries()].flatMap(([instrument, own]): SheetQuestion[] => {
    const [first] = own;
    const stated = counts.find(({ index }) => first !== undefined && isNear(text, index, instrument));
    const count = countOf(stated?.[1] ?? '');
    if (!stated || count === own.length) return [];
    const about = instrument === '' ? 'scales/choices' : `${instrument} scales/choices`;
    return [
      {
        partId: null,
        about,
        ask: `The sheet speaks of ${count} scales and names ${own.length}. Which ones are asked?`,
        candidates: own.map(({ part }) => part.key),
      },
    ];
  });
}

/** A count belongs to the instrument whose name stands on its line, or to a sheet of one. */
function isNear(text: string, index: number, instrument: string): boolean {
  if (instrument === '') return true;
  const line = text.slice(text.lastIndexOf('\n', index) + 1, index).toLowerCase();
  return line.includes(instrument.toLowerCase());
}

/** What stands in another document is not part of this reading. */
function elsewhere(assembled: readonly AssembledPart[], text: string): SheetQuestion[] {
  const match =
    /\b(scales|etudes|excerpts|solos)\s+are\s+(?:on|in|listed\s+(?:on|in)|published)\s+(?:a|another|the)\s+(?:separate|other|different)?\s*(?:sheet|page|document|list)/iu.exec(
      text,
    );
  const kind = match?.[1]?.toLowerCase();
  if (kind === undefined || assembled.some(({ part }) => `${part.kind}s` === kind)) return [];
  return [
    {
      partId: null,
      about: kind,
      ask: `The ${kind} stand in another document. Which ones are they?`,
      candidates: [],
    },
  ];
}

/** A limit on the whole that another sentence contradicts. */
function programQuestions({ program }: Claims, text: string): SheetQuestion[] {
  const limit = program.find(({ maxSeconds }) => maxSeconds !== null)?.maxSeconds;
  const other = /\babout\s+(\w+)\s+minutes\s+is\s+(?:right|usual|enough)/iu.exec(text)?.[1];
  const minutes = other === undefined ? null : countOf(other);
  if (limit == null || minutes === null || Number.isNaN(minutes) || minutes * 60 === limit) return [];
  return [
    {
      partId: null,
      about: 'program/maxSeconds',
      ask: `The sheet says at most ${limit / 60} minutes, and that about ${minutes} are right. Which one holds?`,
      candidates: [limit, minutes * 60],
    },
  ];
}

/** A question where the points that everybody can get add up to another total than the sheet's. */
function pointsQuestions(
  choices: readonly Choice[],
  assembled: readonly AssembledPart[],
  claims: Claims,
): SheetQuestion[] {
  const { total } = claims;
  if (total === null) return [];
  const points = new Map(assembled.map(({ part }) => [part.id, part.points]));
  const sumOf = (ids: readonly string[]): number => ids.reduce((sum, id) => sum + (points.get(id) ?? 0), 0);
  const shared = claims.shared.reduce((sum, one) => sum + one, 0);
  const taken = choices.reduce((sum, { rule, n, of }) => {
    if (rule === 'all') return sum + sumOf(of.flat());
    const first = of.map((one) => sumOf(rule === 'oneFromEach' ? [one].flat().slice(0, 1) : [one].flat()));
    return (
      sum +
      (rule === 'oneFromEach' ? first.reduce((all, one) => all + one, 0) : Math.max(...first, 0) * (n ?? 1))
    );
  }, shared);
  const hasAll = assembled.filter(({ part }) => part.points === null).length === 0 || shared > 0;
  if (taken === total || taken === 0 || !hasAll) return [];
  return [
    {
      partId: null,
      about: 'points',
      ask: `The points add up to ${taken}, the sheet says ${total} in all. Which one holds?`,
      candidates: [taken, total],
    },
  ];
}
