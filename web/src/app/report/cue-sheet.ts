import { inkColour, lookOf, type KindLook } from '@vivid-cue/core/cue-kinds';
import { CARE } from '@vivid-cue/core/care';
import { inVocabulary, type Vocabulary } from '@vivid-cue/core/music';
import { dateOfDay, dayOfDate, type Plan } from '@vivid-cue/core/plan';
import { dateIn, type CueView, type DeskPart, type DeskPassage, type PlanView } from '@vivid-cue/contract';
import { isInPart } from '@vivid-cue/contract/desk-music';
import { dayText, shortDay } from '../ui/texts';
import { inWords, line, page, table, type Node, type ReportDoc, plainSign } from './pieces';

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
  const today = dateIn(desk.at, desk.studio.zone);
  const dates = desk.plan.dates.filter(({ date }) => date >= today);
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
  const head = [part.label, part.workTitle, part.askedText].filter((text) => text !== '').map(inWords);
  const heading = line([...head, part.tempoText].filter((text) => text !== '').join(' · '), {
    style: 'head',
  });
  if (own.length === 0) return [heading, line('No passages are cut yet.', { style: 'soft' })];
  const ready = new Map(plan?.courses.map(({ passageId, readyDay }) => [passageId, readyDay]));
  const today = dateIn(desk.at, desk.studio.zone);
  const passages = table(
    ['*', 'auto', 150, 'auto', 'auto'],
    ['Passage', vocabulary === 'uk' ? 'Bars' : 'Measures', 'Ladder', 'Target', 'At tempo'],
    own.map((passage) => [
      line(passage.name, { bold: true }),
      `${passage.from}–${passage.to}`,
      ladderOf(passage),
      String(Math.round(passage.target.bpm)),
      readyText(ready.get(passage.id) ?? null, today),
    ]),
  );
  return [
    heading,
    passages,
    ...(cues.length === 0 ? [] : [cueTable(cues, { vocabulary, looks: desk.studio.looks })]),
  ];
}

function readyText(readyDay: number | null, today: string): string {
  if (readyDay === null) return '';
  return readyDay === 0 ? 'now' : shortDay(dateOfDay(dayOfDate(today) + readyDay));
}

function cueTable(
  cues: readonly CueView[],
  { vocabulary, looks }: { readonly vocabulary: Vocabulary; readonly looks: readonly KindLook[] },
): Node {
  return table(
    ['auto', 'auto', '*'],
    [vocabulary === 'uk' ? 'Bar' : 'Measure', 'Cue', ''],
    cues.map(({ from, to, note, kind, sign, text, reason, status }) => [
      `${from === to ? from : `${from}–${to}`}${note === null ? '' : `, note ${note}`}`,
      { text: kind, color: inkColour(lookOf(kind, looks).ink), bold: true },
      line(
        inVocabulary(
          `${sign.length > 0 && sign.length <= 3 ? `${plainSign(sign)} ` : ''}${text}${status === 'settled' ? '' : ' (to be settled)'}${reason === '' ? '' : `: ${reason}`}`,
          vocabulary,
        ),
      ),
    ]),
  );
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
