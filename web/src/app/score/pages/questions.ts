import { measureWord, type Vocabulary } from '@vivid-cue/core/music';
import {
  barAt,
  boxesOf,
  boxesOfDraft,
  clashesOf,
  startOf,
  type BoxPlace,
  type LinePlace,
  type PaperDraft,
  type PaperPage,
} from '@vivid-cue/core/paper';

/** Something that the pages leave open, to be answered in one press. Shape: `at` is where to look */
export type BoardQuestion =
  | { readonly kind: 'meter'; readonly ask: string; readonly why: string }
  | { readonly kind: 'bar' | 'rest'; readonly ask: string; readonly why: string; readonly at: BoxPlace }
  | {
      readonly kind: 'clash' | 'gap';
      readonly ask: string;
      readonly why: string;
      readonly at: LinePlace;
      readonly counted: number;
    }
  | { readonly kind: 'end'; readonly ask: string; readonly why: string };

/** What is still open, the most telling first. Units: `askedLast` is the last printed number that the sheet asks for */
export function questionsOf(
  draft: PaperDraft,
  { askedLast, vocabulary }: { readonly askedLast: number | null; readonly vocabulary: Vocabulary },
): BoardQuestion[] {
  const boxes = boxesOfDraft(draft);
  if (boxes.length === 0) return [];
  const asked: BoardQuestion[] = [];
  if (draft.fields.meter.trim() === '')
    asked.push({
      kind: 'meter',
      ask: 'Which meter does it begin in?',
      why: `With it every ${measureWord(1, vocabulary)} has its length, and the music its seconds.`,
    });
  asked.push(
    ...restQuestions(draft, vocabulary),
    ...numberQuestions(draft, vocabulary),
    ...barQuestions(draft, vocabulary),
  );
  const last = Math.max(...boxes.map(({ number, count }) => number + count - 1));
  if (askedLast !== null && last < askedLast)
    asked.push({
      kind: 'end',
      ask: `The sheet asks for ${measureWord(1, vocabulary)} ${askedLast}; these pages end with ${last}.`,
      why: `Add the next page, look for a rest of several ${measureWord(2, vocabulary)}, or set the printed number at the beginning of a line.`,
    });
  return asked;
}

/** Where a printed number and the boxes before it disagree. */
function numberQuestions({ fields, pages }: PaperDraft, vocabulary: Vocabulary): BoardQuestion[] {
  const start = startOf(fields);
  const clashes = clashesOf(pages, start).map(({ first, before, ...at }): BoardQuestion => ({
    kind: 'clash',
    ask: `${lineName(pages, at)} is to begin with ${first}, but the lines before it end with ${before}.`,
    why: 'There is a bar line too many before it, or the number belongs elsewhere.',
    at,
    counted: before + 1,
  }));
  const gaps: BoardQuestion[] = [];
  let next: number | null = null;
  for (const { page, line, box, number, count } of boxesOf(pages, start)) {
    if (box === 0 && next !== null && number > next)
      gaps.push({
        kind: 'gap',
        ask: `${lineName(pages, { page, line })} begins with ${number}, but the lines before it end with ${next - 1}.`,
        why: `A bar line is missing before it, or a rest stands for several ${measureWord(2, vocabulary)}.`,
        at: { page, line },
        counted: next,
      });
    next = number + count;
  }
  return [...clashes, ...gaps];
}

/** Rests of several measures whose number nobody told yet. */
function restQuestions(draft: PaperDraft, vocabulary: Vocabulary): BoardQuestion[] {
  return boxesOfDraft(draft).flatMap(({ number, ...at }): BoardQuestion[] =>
    barAt(draft.pages, at)?.asksCount === true
      ? [
          {
            kind: 'rest',
            ask: `How many ${measureWord(2, vocabulary)} does the rest at ${number} stand for?`,
            why: 'The number is printed over it.',
            at,
          },
        ]
      : [],
  );
}

/** Bar lines that may be none, with what the other lines say of it. */
function barQuestions(draft: PaperDraft, vocabulary: Vocabulary): BoardQuestion[] {
  return boxesOfDraft(draft).flatMap(({ page, line, box, number }): BoardQuestion[] => {
    const own = draft.pages[page]?.lines[line];
    if (own?.bars[box]?.isDoubtful !== true) return [];
    const others = (draft.pages[page]?.lines ?? [])
      .filter((one, n) => n !== line && !one.isOut)
      .map(({ bars }) => bars.length)
      .sort((a, b) => a - b);
    const [least, most] = [others[0], others.at(-1)];
    const beside =
      least === undefined || most === undefined
        ? ''
        : least === most
          ? `, the others ${least}`
          : `, the others ${least} to ${most}`;
    const word = measureWord(2, vocabulary);
    return [
      {
        kind: 'bar',
        ask: `Is there a bar line at the end of ${number}?`,
        why: `It is pale or touched by something. With it the line has ${own.bars.length} ${word}${beside}.`,
        at: { page, line, box },
      },
    ];
  });
}

/** A line as it is spoken of: counted over the page, and the page with it where there are several. */
export function lineName(pages: readonly PaperPage[], { page, line }: LinePlace): string {
  return pages.length > 1 ? `Page ${page + 1}, line ${line + 1}` : `Line ${line + 1}`;
}
