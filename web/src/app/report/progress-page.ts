import { CARE } from '@vivid-cue/core/care';
import { inVocabulary, measuresText, type Vocabulary } from '@vivid-cue/core/music';
import { dateOfDay } from '@vivid-cue/core/plan';
import { STATE_WORDS } from '@vivid-cue/core/readiness';
import {
  dateIn,
  dayNumber,
  type DeskPassage,
  type DeskView,
  type LessonInput,
  type PlanView,
  type ProgramPartView,
  type ProgramView,
  type StudentPageView,
} from '@vivid-cue/contract';
import { isInPart } from '@vivid-cue/contract/desk-music';
import { dayText, readinessNumber } from '../ui/texts';
import { inWords, line, page, table, type Node, type ReportDoc } from './pieces';

/** What the page is made from. Shape: `lesson` the last one, null before the first */
export interface ProgressFacts {
  readonly page: StudentPageView;
  readonly view: PlanView;
  readonly lesson: LessonInput | null;
  readonly vocabulary: Vocabulary;
}

/**
 * A progress page for family or lesson: what is ready, what is next, how much was practised, what is asked.
 * Shape:  in the studio's vocabulary; nothing of how rosy reports are
 */
export function progressPage({ page: student, lesson, view, vocabulary }: ProgressFacts): ReportDoc {
  const { desk } = view;
  const say = (text: string): string => inVocabulary(text, vocabulary);
  return page(
    [
      line(student.student.name, { style: 'title' }),
      line(`Progress, ${student.student.instrument} · ${dayText(dateIn(desk.at, desk.studio.zone))}`, {
        style: 'soft',
      }),
      line(practisedText(view), { margin: [0, 6, 0, 0] }),
      ...student.programs.flatMap((program) => programPieces(program, say)),
      line('Passages', { style: 'head' }),
      passageTable(desk, vocabulary),
      ...(lesson === null ? [] : lessonPieces(lesson, { desk, say })),
    ],
    say(`${desk.studio.name}. ${CARE.pain} ${CARE.breaks}`),
  );
}

function practisedText({ desk, played }: PlanView): string {
  const since = dateOfDay(dayNumber(Date.parse(desk.at), desk.studio.zone) - 27);
  const recent = played.filter(({ date }) => date >= since);
  if (recent.length === 0) return 'Nothing was logged in the last four weeks.';
  const days = new Set(recent.map(({ date }) => date)).size;
  const minutes = Math.round(recent.reduce((sum, one) => sum + one.minutes, 0));
  const reps = recent.reduce((sum, one) => sum + one.reps, 0);
  return `In the last four weeks: practised on ${days} of 28 days, about ${minutes} minutes with ${reps} reps.`;
}

function programPieces({ sheetTitle, nextDate, parts }: ProgramView, say: (text: string) => string): Node[] {
  return [
    line(sheetTitle, { style: 'head' }),
    ...(nextDate ? [line(`${dayText(nextDate.date)}: ${nextDate.what}`, { style: 'soft' })] : []),
    table(
      [150, 'auto', 70, '*'],
      ['Part', 'State', 'Clean run today', 'What would help'],
      parts.map((part) => [
        line(inWords([part.label, part.workTitle].filter((text) => text !== '').join(': ')), { bold: true }),
        STATE_WORDS[part.state],
        chanceText(part),
        line(inWords(say(part.sentence))),
      ]),
    ),
  ];
}

/** Each passage once, in the order of the parts. */
function passageTable({ parts, passages }: DeskView, vocabulary: Vocabulary): Node {
  const inOrder = new Set(parts.flatMap((part) => passages.filter((passage) => isInPart(passage, part))));
  return table(
    ['*', 'auto', 'auto', 'auto'],
    ['Passage', 'State', 'Clean at', 'Target'],
    [...inOrder]
      .filter(({ isSeam }) => !isSeam)
      .map((passage) => [
        line(nameOnPaper(passage, vocabulary)),
        STATE_WORDS[passage.readiness.state],
        passage.playedCleanBpm === null ? '–' : String(Math.round(passage.playedCleanBpm)),
        String(Math.round(passage.target.bpm)),
      ]),
  );
}

function lessonPieces(
  { at, notes, asks }: LessonInput,
  { desk, say }: { readonly desk: DeskView; readonly say: (text: string) => string },
): Node[] {
  const nameOf = (id: string | null): string =>
    desk.passages.find((passage) => passage.id === id)?.name ?? '';
  const list = asks.map(({ passageId, text }) => line(`${nameOf(passageId)} ${say(text)}`.trim()));
  return [
    line(`Last lesson, ${dayText(dateIn(at, desk.studio.zone))}`, { style: 'head' }),
    ...(notes === '' ? [] : [line(say(notes))]),
    ...(list.length === 0 ? [] : [{ ul: list }]),
  ];
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
