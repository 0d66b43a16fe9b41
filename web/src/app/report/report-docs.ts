import { CARE } from '@vivid-cue/core/care';
import { inVocabulary, measuresText, type Vocabulary } from '@vivid-cue/core/music';
import { dateOfDay, dayOfDate, type Plan } from '@vivid-cue/core/plan';
import { STATE_WORDS } from '@vivid-cue/core/readiness';
import type {
  DeskPart,
  DeskPassage,
  LessonInput,
  PlanView,
  ProgramPartView,
  StudentPageView,
} from '@vivid-cue/contract';
import { deskPartName, isInPart } from '@vivid-cue/contract/desk-music';
import { dayText, readinessNumber, shortDay } from '../ui/texts';

/** A document of pdfmake, as plain data. */
export type ReportDoc = Readonly<Record<string, unknown>>;
type Node = Readonly<Record<string, unknown>> | string;

/** Notes and accidentals stand in the music font, letters beyond the first four hundred in the other file. */
const PIECES = /([\u2669-\u266F\u{1D100}-\u{1D1FF}]+)|([\u0100-\u024F\u1E00-\u1EFF]+)/gu;

/**
 * A text in the fonts that have its letters.
 * Shape:  runs of pdfmake
 */
export function inFonts(text: string): Node[] {
  const runs: Node[] = [];
  let end = 0;
  for (const match of text.matchAll(PIECES)) {
    if (match.index > end) runs.push({ text: text.slice(end, match.index) });
    runs.push({ text: match[0], font: match[1] === undefined ? 'More' : 'Notes' });
    end = match.index + match[0].length;
  }
  if (end < text.length || runs.length === 0) runs.push({ text: text.slice(end) });
  return runs;
}

function line(text: string, more: object = {}): Node {
  return { text: inFonts(text), ...more };
}

/**
 * A text for a line among lines: the music font stands so high that each of its signs would push the lines apart.
 * Shape:  tempos as numbers, whose note value the heading of the part has; accidentals in words
 */
export function inWords(text: string): string {
  return text
    .replaceAll(/[\u2669-\u266C\u{1D100}-\u{1D1FF}.]+=(?=\d)/gu, '')
    .replaceAll('♭', ' flat')
    .replaceAll('♯', ' sharp')
    .replaceAll('♮', ' natural');
}

const STYLES = {
  title: { fontSize: 20, bold: true, margin: [0, 0, 0, 2] },
  head: { fontSize: 14, bold: true, margin: [0, 12, 0, 4] },
  soft: { color: '#4a5266', fontSize: 10 },
  label: { color: '#4a5266', fontSize: 9, bold: true },
};

function page(content: readonly Node[], footer: string): ReportDoc {
  return {
    pageSize: 'A4',
    pageMargins: [42, 42, 42, 48],
    defaultStyle: { font: 'Text', fontSize: 11, color: '#1d2433', lineHeight: 1.15 },
    styles: STYLES,
    footer: { text: inFonts(footer), style: 'soft', margin: [42, 14, 42, 0] },
    content,
  };
}

function table(
  widths: readonly (string | number)[],
  head: readonly string[],
  rows: readonly (readonly Node[])[],
): Node {
  return {
    layout: 'lightHorizontalLines',
    margin: [0, 2, 0, 6],
    table: { headerRows: 1, widths, body: [head.map((text) => ({ text, style: 'label' })), ...rows] },
  };
}

/** What the sheets are made from. Shape: `plan` null where nothing could be planned; `at` the day in the studio */
export interface ReportFacts {
  readonly view: PlanView;
  readonly plan: Plan | null;
  readonly vocabulary: Vocabulary;
}

/**
 * A cue sheet for the music stand: for each part its measures, cues, ladders and dates.
 * Shape:  in the studio's vocabulary
 */
export function cueSheet({ view, plan, vocabulary }: ReportFacts): ReportDoc {
  const { desk } = view;
  const say = (text: string): string => inVocabulary(text, vocabulary);
  const today = desk.at.slice(0, 10);
  const dates = view.posts.filter(({ date }) => date >= today);
  const together = view.kept.days.find(
    ({ date, runs }) => date >= today && runs.some(({ kind }) => kind === 'assembly'),
  );
  return page(
    [
      line(desk.student.name, { style: 'title' }),
      line(`Cue sheet, ${desk.student.instrument} · ${dayText(today)}`, { style: 'soft' }),
      ...dates.map(({ what, sheetTitle, date }) => line(`${dayText(date)}: ${what}, ${sheetTitle}`)),
      ...(together ? [line(`${dayText(together.date)}: all parts together for the first time`)] : []),
      ...desk.parts.flatMap((part) => partOnStand(part, { view, plan, vocabulary })),
    ],
    say(`${desk.studio.name}. ${CARE.pain}`),
  );
}

function partOnStand(part: DeskPart, { view, plan, vocabulary }: ReportFacts): Node[] {
  const { desk } = view;
  const own = desk.passages.filter((passage) => isInPart(passage, part));
  const cues = desk.scores.find(({ id }) => id === part.scoreId)?.cues ?? [];
  const head = [part.label, part.workTitle, part.askedText, part.tempoText].filter((text) => text !== '');
  const days = new Map(plan?.courses.map(({ passageId, readyDay }) => [passageId, readyDay]));
  const today = desk.at.slice(0, 10);
  const dayOf = (id: string): string => {
    const day = days.get(id);
    if (day == null) return '';
    return day === 0 ? 'now' : shortDay(dateOfDay(dayOfDate(today) + day));
  };
  return [
    line(head.map((text) => (text === part.tempoText ? text : inWords(text))).join(' · '), { style: 'head' }),
    ...(own.length === 0
      ? [line('No passages are cut yet.', { style: 'soft' })]
      : [
          table(
            ['*', 'auto', 150, 'auto', 'auto'],
            ['Passage', vocabulary === 'uk' ? 'Bars' : 'Measures', 'Ladder', 'Target', 'At tempo'],
            own.map((passage) => [
              line(passage.name, { bold: true }),
              `${passage.from}–${passage.to}`,
              ladderOf(passage),
              String(Math.round(passage.target.bpm)),
              dayOf(passage.id),
            ]),
          ),
        ]),
    ...(cues.length === 0
      ? []
      : [
          table(
            ['auto', 'auto', '*'],
            [vocabulary === 'uk' ? 'Bar' : 'Measure', 'Cue', ''],
            cues.map(({ from, to, kind, text }) => [
              from === to ? from : `${from}–${to}`,
              kind,
              line(inVocabulary(text, vocabulary)),
            ]),
          ),
        ]),
  ];
}

/** The rungs with the present one set out. */
function ladderOf({ rungs, place }: DeskPassage): Node {
  return {
    text: rungs.flatMap(({ bpm, index }) => {
      const isHere = index === place.rungIndex;
      const here = isHere ? { bold: true, decoration: 'underline' } : {};
      return [{ text: String(Math.round(bpm)), ...here }, { text: '  ' }];
    }),
    fontSize: 10,
  };
}

/**
 * A progress page for family or lesson: what is ready, what is next, how much was practised, what is asked.
 * Shape:  in the studio's vocabulary; nothing of how rosy reports are
 */
export function progressPage({
  page: student,
  lesson,
  view,
  vocabulary,
}: Omit<ReportFacts, 'plan'> & {
  readonly page: StudentPageView;
  readonly lesson: LessonInput | null;
}): ReportDoc {
  const { desk } = view;
  const today = desk.at.slice(0, 10);
  const say = (text: string): string => inVocabulary(text, vocabulary);
  const since = dateOfDay(dayOfDate(today) - 27);
  const recent = view.played.filter(({ date }) => date >= since);
  const days = new Set(recent.map(({ date }) => date)).size;
  const minutes = Math.round(recent.reduce((sum, one) => sum + one.minutes, 0));
  const nameOf = (id: string | null): string =>
    desk.passages.find((passage) => passage.id === id)?.name ?? '';
  return page(
    [
      line(student.student.name, { style: 'title' }),
      line(`Progress, ${student.student.instrument} · ${dayText(today)}`, { style: 'soft' }),
      line(
        recent.length === 0
          ? 'Nothing was logged in the last four weeks.'
          : `In the last four weeks: practised on ${days} of 28 days, about ${minutes} minutes with ${recent.reduce((sum, { reps }) => sum + reps, 0)} reps.`,
        { margin: [0, 6, 0, 0] },
      ),
      ...student.programs.flatMap((program) => [
        line(program.sheetTitle, { style: 'head' }),
        ...(program.nextDate
          ? [line(`${dayText(program.nextDate.date)}: ${program.nextDate.what}`, { style: 'soft' })]
          : []),
        table(
          [150, 'auto', 70, '*'],
          ['Part', 'State', 'Clean run today', 'What would help'],
          program.parts.map((part) => [
            line(inWords([part.label, part.workTitle].filter((text) => text !== '').join(': ')), {
              bold: true,
            }),
            STATE_WORDS[part.state],
            chanceText(part),
            line(inWords(say(part.sentence))),
          ]),
        ),
      ]),
      line('Passages', { style: 'head' }),
      table(
        ['*', 'auto', 'auto', 'auto'],
        ['Passage', 'State', 'Clean at', 'Target'],
        desk.parts
          .flatMap((part) => desk.passages.filter((passage) => isInPart(passage, part)))
          .filter(({ id, isSeam }, n, all) => !isSeam && all.findIndex((one) => one.id === id) === n)
          .map((passage) => [
            line(nameOnPaper(passage, vocabulary)),
            STATE_WORDS[passage.readiness.state],
            passage.playedCleanBpm === null ? '–' : String(Math.round(passage.playedCleanBpm)),
            String(Math.round(passage.target.bpm)),
          ]),
      ),
      ...(lesson === null
        ? []
        : [
            line(`Last lesson, ${dayText(lesson.at.slice(0, 10))}`, { style: 'head' }),
            ...(lesson.notes === '' ? [] : [line(say(lesson.notes))]),
            ...(lesson.asks.length === 0
              ? []
              : [
                  {
                    ul: lesson.asks.map(({ passageId, text }) =>
                      line(`${nameOf(passageId)} ${say(text)}`.trim()),
                    ),
                  },
                ]),
          ]),
    ],
    say(`${desk.studio.name}. ${CARE.pain} ${CARE.breaks}`),
  );
}

function chanceText(part: ProgramPartView): string {
  const said = readinessNumber(part);
  return said ? `${said.number} ${said.unit}` : '–';
}

/** A passage whose name says its measures says them once. */
function nameOnPaper({ name, from, to }: DeskPassage, vocabulary: Vocabulary): string {
  const measures = measuresText(from, to, vocabulary);
  return name === measures ? name : `${name} (${measures})`;
}

/** A picture of engraved music. Shape: a data address; the sizes in points */
export interface EngravedPicture {
  readonly image: string;
  readonly width: number;
}

/** A drill for the stand: why, how, and its engraving. */
export function drillSheet(drill: {
  readonly title: string;
  readonly why: string;
  readonly how: string;
  readonly tempo: string;
  readonly turns: readonly string[];
  readonly pictures: readonly EngravedPicture[];
}): ReportDoc {
  return page(
    [
      line(drill.title, { style: 'title' }),
      line(drill.why, { style: 'soft' }),
      line(drill.how, { margin: [0, 6, 0, 2] }),
      line(drill.tempo, { bold: true, margin: [0, 0, 0, 10] }),
      ...(drill.turns.length === 0 ? [] : [line(drill.turns.join('   '), { margin: [0, 0, 0, 10] })]),
      ...drill.pictures.map(({ image, width }) => ({ image, width, margin: [0, 0, 0, 8] })),
    ],
    CARE.pain,
  );
}
