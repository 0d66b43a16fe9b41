import { plainSigns } from '../base/index.js';
import type { Found } from './found.js';
import type { SheetSpan, SpanPoint } from './model.js';
import { countOf, readPoint, shiftPoint, type PointRead } from './span-reader.js';

const BEGINS =
  /(?<![\w.#])(?:from\b|the\b|with\b|mm?(?![A-Za-z])|measures?\b|meas\.|ms\.|bars?\b|bb?\.|pick-?\s?ups?|up-?beats?|anacrus|down|beat|rehearsal|reh\b|letter|figure|fig\.|cue|\[|beginning|start|opening|top|end\b|double|final|last|first|second|third|fourth|fifth|sixth|seventh|eighth|\d{1,2}|one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve)/giu;
const EXCLUSIVE =
  /\s*(?:up\s+)?(?:to|until)\s*,?\s*\(?\s*(?:but\s+)?(?:does\s+)?not\s+includ(?:ing|e)\s*,?\s*\)?\s*/iy;
const BETWEEN =
  /\s*(?:--?|(?:up\s+)?(?:to|through|thru|until|till)\b(?:\s+and\s+including\b)?|,?\s*(?:and\s+)?(?:ending|ends?|stop|stopping|finishing)\s+(?:on|at|with|after)\b)\s*/iy;
const LIST_GOES_ON =
  /\s*(?:[,;]\s*(?:and\s+|then\s+|&\s*)?|\s(?:and|then|&|plus|\+)\s+|;\s*(?:and|then)\s+)(?:then\s+)?(?:(?:skip|jump|cut|from)\s+(?:to\s+)?)?/iy;
const ONWARDS = /\s*(?:onwards?|on(?![\w\s]*\w)|and\s+following|ff\.?)(?!\w)/iy;
const NO_MEASURES =
  /^\s*(?:-?\s?(?:octaves?|minutes?|mins?|points?|pts|seconds?|marks|notes?\b|bpm|beats?)|[.:/]\d|'|%)/iu;
const OPEN_START = /(?:up\s+to|until|through|including,?|to)\s*$/iu;
const FROM = /from\s+/iy;
const UP_TO = /(?:up\s+to(?:\s+and\s+including)?|through|until|to)\s+/iy;
const EDGE_RUN = /(?:the\s+)?(first|last|opening|final)\s+(\w+)\s+(?:measures|bars)\b/iy;
const WHOLE =
  /(?<![\w])(?:(?<=^)(?:play\s+)?(?:all|everything)(?=\s*\.?$)|in\s+(?:its|their)\s+entirety|complete(?:ly)?(?!\s+(?:the|a|an)\b)|(?:the\s+)?entire(?:ly)?(?:\s+(?:etude|étude|study|piece|movement|work|excerpt|solo|page))?|(?:the\s+)?whole(?:\s+(?:etude|étude|study|piece|movement|work|solo))|all\s+(?:of\s+it|measures|bars)|(?<=(?:^|[,;|]\s*))all(?=\s*(?:[,;.|]|$))|(?:from\s+)?(?:the\s+)?(?:beginning|start)\s+to\s+(?:the\s+)?(?:end|finish))(?!\w)/giu;

function at(pattern: RegExp, text: string, place: number): RegExpExecArray | null {
  pattern.lastIndex = place;
  return pattern.exec(text);
}

/**
 * Finds runs of measures in a text: by number with their word, by letter, figure, pickup and edge.
 * Shape:  in the order they stand; a list ("mm. 1–8 and 25–40") gives one find with several runs
 * Units:  measures; dashes must be plain "-"
 * Source: common practice in US and UK print, no source
 */
export function findSpans(plain: string, printed: string): Found<readonly SheetSpan[]>[] {
  const found: Found<readonly SheetSpan[]>[] = [];
  let place = 0;
  for (const match of plain.matchAll(WHOLE)) {
    const end = match.index + match[0].length;
    found.push({ value: [whole(printed.slice(match.index, end))], start: match.index, end });
  }
  for (const { index } of plain.matchAll(BEGINS)) {
    if (
      /(?:\bpages?|\bpp?\.?|\bno\.?|#|\bbook|\bop\.?|\bvol\.?|\bgrade|\bset)\s*$/iu.test(
        plain.slice(Math.max(0, index - 8), index),
      )
    )
      continue;
    if (index < place || found.some(({ start, end }) => index >= start && index < end)) continue;
    const run = readRuns(plain, printed, { start: index, isLoose: false });
    if (!run) continue;
    found.push(run);
    place = run.end;
  }
  return found.sort((a, b) => a.start - b.start);
}

function whole(text: string): SheetSpan {
  return { from: 'start', to: 'end', anchorText: text };
}

interface RunRead {
  readonly span: SheetSpan;
  readonly end: number;
  readonly isRun: boolean;
  readonly hasMarkWord: boolean;
}

/** A run at a place with all that a list adds to it, or null. `isLoose` takes bare numbers and letters too. */
function readRuns(
  plain: string,
  printed: string,
  { start, isLoose }: { readonly start: number; readonly isLoose: boolean },
): Found<readonly SheetSpan[]> | null {
  const first = readRun(plain, printed, { start, isLoose });
  if (!first) return null;
  const spans = [first.span];
  let end = first.end;
  for (;;) {
    const joint = at(LIST_GOES_ON, plain, end);
    const next = joint && readRun(plain, printed, { start: end + joint[0].length, isLoose: true });
    // A lone number goes on with a list only among lone measures: "mm. 5, 9 and 12".
    // An inserted measure may stand alone among runs: "1-15, 15A, 16-38".
    const isInserted = next && !next.isRun && /^\d+[A-Z]$/u.test(String(next.span.from));
    const isLone = next && !next.isRun && typeof next.span.from === 'number' && first.isRun;
    if (!next || isLone || (!next.isRun && typeof next.span.from !== 'number' && !isInserted)) break;
    const last = spans.at(-1);
    const isNext =
      /&/u.test(joint[0]) &&
      typeof last?.from === 'number' &&
      last.from === last.to &&
      next.span.from === last.from + 1 &&
      next.span.from === next.span.to;
    if (isNext && last) spans[spans.length - 1] = { ...last, to: next.span.to };
    else spans.push(next.span);
    end = next.end;
  }
  return { value: spans, start, end };
}

function readRun(
  plain: string,
  printed: string,
  { start, isLoose }: { readonly start: number; readonly isLoose: boolean },
): RunRead | null {
  const edge = at(EDGE_RUN, plain, start);
  if (edge && Number.isFinite(countOf(edge[2] ?? ''))) {
    const text = printed.slice(start, start + edge[0].length);
    return {
      span: edgeSpan(edge[1] ?? '', countOf(edge[2] ?? ''), text),
      end: start + edge[0].length,
      isRun: true,
      hasMarkWord: false,
    };
  }
  const from = at(FROM, plain, start);
  const a = readPoint(plain, start + (from?.[0].length ?? 0));
  if (!a) return null;
  const isNamed = a.isNamed || isLoose;
  const exclusive = at(EXCLUSIVE, plain, a.end);
  const joint = exclusive ?? at(BETWEEN, plain, a.end);
  const b = joint && readPoint(plain, a.end + joint[0].length, a.hasMarkWord);
  if (b && (isNamed || b.isNamed || from) && !NO_MEASURES.test(plain.slice(b.end)) && fits(a, b)) {
    const text = printed.slice(start, b.end);
    const to = exclusive ? shiftPoint(b.point, -1) : b.point;
    const isPlain = a.isNumbered && b.isNumbered && !exclusive;
    return {
      span: { from: a.point, to, anchorText: isPlain ? null : text },
      end: b.end,
      isRun: true,
      hasMarkWord: a.hasMarkWord,
    };
  }
  return lone(plain, printed, { start, a, isNamed, hasFrom: from !== null });
}

/** Letters and edges do not make a run with octaves or people: "A to 12" is none. */
function fits(a: PointRead, b: PointRead): boolean {
  const isBareLetter = (read: PointRead): boolean =>
    !read.isNamed && typeof read.point === 'string' && /^[A-Z]/u.test(read.point);
  return !(isBareLetter(a) && !b.isNamed && typeof b.point === 'number');
}

function lone(
  plain: string,
  printed: string,
  {
    start,
    a,
    isNamed,
    hasFrom,
  }: { readonly start: number; readonly a: PointRead; readonly isNamed: boolean; readonly hasFrom: boolean },
): RunRead | null {
  const onwards = at(ONWARDS, plain, a.end);
  if (onwards && isNamed) {
    const end = a.end + onwards[0].length;
    return {
      span: { from: a.point, to: 'end', anchorText: printed.slice(start, end) },
      end,
      isRun: true,
      hasMarkWord: a.hasMarkWord,
    };
  }
  if (OPEN_START.test(plain.slice(0, start)) || /\bin\s+$/iu.test(plain.slice(0, start))) return null;
  const isMeasure = isNamed && /\d/u.test(String(a.point)) && !NO_MEASURES.test(plain.slice(a.end));
  if (!isMeasure && !(isNamed && a.hasMarkWord && hasFrom)) return null;
  const anchorText = a.isNumbered ? null : printed.slice(start, a.end);
  return {
    span: { from: a.point, to: a.point, anchorText },
    end: a.end,
    isRun: false,
    hasMarkWord: a.hasMarkWord,
  };
}

function edgeSpan(edge: string, count: number, text: string): SheetSpan {
  return /first|opening/iu.test(edge)
    ? { from: 1, to: count, anchorText: text }
    : { from: shiftPoint('end', 1 - count), to: 'end', anchorText: text };
}

/** "up to, not including, 33" and "to m. 24": a run from the start, where the text opens with its end. */
function fromStart(plain: string, printed: string, start: number): Found<readonly SheetSpan[]> | null {
  const exclusive = at(EXCLUSIVE, plain, start);
  const joint = exclusive ?? at(UP_TO, plain, start);
  const b = joint && readPoint(plain, start + joint[0].length);
  if (!b || (!b.isNamed && !exclusive)) return null;
  const to = exclusive ? shiftPoint(b.point, -1) : b.point;
  return { value: [{ from: 'start', to, anchorText: printed.slice(start, b.end) }], start, end: b.end };
}

/**
 * Finds runs that name only their end: "up to, not including, 33", "to the double bar".
 * Shape:  asked only where no whole run was found
 * Units:  measures; dashes must be plain "-"
 * Source: common practice, no source
 */
export function findEndsOnly(plain: string, printed: string): Found<readonly SheetSpan[]>[] {
  for (const { index } of plain.matchAll(
    /(?<![\w.])(?:up\s+to|until|through|(?<=^|[,;(:]\s*|play\s+)to)\b/giu,
  )) {
    const run = fromStart(plain, printed, index);
    if (run) return [run];
  }
  return [];
}

/** What `vivid-cue span` answers: the runs, or what to ask. */
export type SpanReading =
  | { readonly measures: readonly SheetSpan[] }
  | { readonly question: string; readonly candidates: readonly (readonly SheetSpan[])[] };

/**
 * Reads one phrase that names measures and nothing else.
 * Shape:  bare numbers and letters count here, "9–12" and "A to D"
 * Units:  measures
 * Errors: none; what cannot be read with confidence is a question
 * Source: docs/formats.md
 * @example readSpanPhrase('pickup to 33 through 48') // { measures: [{ from: 33, to: 48, anchorText: 'pickup to 33 through 48' }] }
 */
export function readSpanPhrase(text: string): SpanReading {
  const printed = text.replace(/\s+/gu, ' ').trim();
  const plain = plainSigns(printed);
  if (printed === '') return { question: 'No measures came; write some such as "mm. 9–12".', candidates: [] };
  const doubt = doubtOf(printed, plain);
  if (doubt) return doubt;
  const either = /^(.+?)\s+\(?or\s+(.+?)\)?$/iu.exec(plain);
  if (either) return twoReadings(printed, [either[1] ?? '', either[2] ?? '']);
  const spans = spansOf(plain, printed);
  if (spans.length === 0)
    return {
      question: `"${printed.slice(0, 80)}" does not say which measures. Which are the first and the last?`,
      candidates: [],
    };
  const backwards = spans.find(({ from, to }) => isBackwards(from, to));
  if (!backwards) return { measures: spans };
  const turned = spans.map((span) => (span === backwards ? { ...span, from: span.to, to: span.from } : span));
  return {
    question: `"${printed}" runs backwards, from ${backwards.from} to ${backwards.to}. Which measures are meant?`,
    candidates: [turned],
  };
}

/** Figures that cannot be read for certain: a letter among them, or two dashes in one run. */
function doubtOf(printed: string, plain: string): SpanReading | null {
  if (/\d[Oo](?!\w)|(?<!\w)[Oo]\d/u.test(plain)) {
    const mended = plain.replace(/(?<=\d)[Oo](?!\w)/gu, '0').replace(/(?<!\w)[Oo](?=\d)/gu, '0');
    return {
      question: `"${printed}" has a letter among its figures. Which measures are meant?`,
      candidates: [spansOf(mended, mended)],
    };
  }
  if (/\d\s*-\s*\d+\s*-\s*\d/u.test(plain))
    return {
      question: `"${printed}" has three numbers with two dashes. Which measures are meant?`,
      candidates: [],
    };
  return null;
}

/** Whether a run of printed numbers ends before it begins. */
export function isBackwards(from: SpanPoint, to: SpanPoint): boolean {
  return typeof from === 'number' && typeof to === 'number' && to < from;
}

function spansOf(plain: string, printed: string): readonly SheetSpan[] {
  const opening = fromStart(plain, printed, 0);
  if (opening) return opening.value;
  const loose = readRuns(plain, printed, { start: 0, isLoose: true });
  if (loose && /^[\s.,;)]*(?:inclusive)?[\s.,;)]*$/iu.test(plain.slice(loose.end))) return loose.value;
  const found = findSpans(plain, printed).flatMap(({ value }) => value);
  return found.length > 0 ? found : findEndsOnly(plain, printed).flatMap(({ value }) => value);
}

function twoReadings(printed: string, halves: readonly string[]): SpanReading {
  const readings = halves.map((half) => readSpanPhrase(half));
  return {
    question: `"${printed}" offers more than one run of measures. Which one is asked?`,
    candidates: readings.flatMap((reading) => ('measures' in reading ? [reading.measures] : [])),
  };
}
