import type { ScoreWarning } from './issues.js';
import { SCORE_LIMITS } from './limits.js';
import type { Navigation } from './model.js';

/** A measure as the order of playing needs it. */
export interface NavigatedMeasure {
  readonly number: string;
  readonly navigation: Navigation | null;
}

interface Walk {
  at: number;
  sectionStart: number;
  pass: number;
  jumped: boolean;
}

/**
 * The measures as they are played: repeats and endings taken, one D.C. or D.S. followed, to Fine or through the coda.
 * Shape:  measure indexes; after a jump repeats are not taken unless the file says after-jump, and the last ending is
 *         played
 * Errors: none; a jump without its target and an endless order are warned of and passed over
 * Source: MusicXML 4.0, elements repeat, ending and sound; common practice for repeats after a jump
 */
export function unroll(measures: readonly NavigatedMeasure[]): { order: number[]; warnings: ScoreWarning[] } {
  const order: number[] = [];
  const warnings: ScoreWarning[] = [];
  const walk: Walk = { at: 0, sectionStart: 0, pass: 1, jumped: false };
  while (walk.at < measures.length) {
    if (order.length >= SCORE_LIMITS.orderLength) {
      warnings.push({
        code: 'repeat-endless',
        where: `measure ${measures[walk.at]?.number ?? ''}`,
        message: 'The repeats never end; the order stops here.',
      });
      break;
    }
    enterSection(measures, walk);
    if (!isPlayed(measures, walk)) {
      walk.at += 1;
      continue;
    }
    order.push(walk.at);
    if (leave(measures, walk, warnings) === 'end') break;
  }
  // Endings that no pass reaches (a "2." without a "1.") leave nothing to play: then the piece is played straight.
  return { order: order.length > 0 ? order : measures.map((_, index) => index), warnings };
}

function enterSection(measures: readonly NavigatedMeasure[], walk: Walk): void {
  const here = measures[walk.at]?.navigation;
  const before = measures[walk.at - 1]?.navigation;
  const startsNew = here?.repeatForward === true || (before?.endings != null && here?.endings == null);
  if (!startsNew || walk.at === walk.sectionStart) return;
  walk.sectionStart = walk.at;
  walk.pass = 1;
}

function isPlayed(measures: readonly NavigatedMeasure[], walk: Walk): boolean {
  const endings = measures[walk.at]?.navigation?.endings;
  if (endings == null) return true;
  if (!walk.jumped) return endings.includes(walk.pass);
  const group = endingGroup(measures, walk.at);
  const isLast = endings.includes(Math.max(...group.flatMap((found) => found)));
  const isOnlyOne = group.every((found) => found === endings);
  return isLast && !(isOnlyOne && endings.includes(1));
}

function endingGroup(measures: readonly NavigatedMeasure[], at: number): (readonly number[])[] {
  let first = at;
  while (measures[first - 1]?.navigation?.endings != null) first -= 1;
  const group: (readonly number[])[] = [];
  for (let n = first; n < measures.length; n += 1) {
    const endings = measures[n]?.navigation?.endings;
    if (endings == null) break;
    group.push(endings);
  }
  return group;
}

function leave(measures: readonly NavigatedMeasure[], walk: Walk, warnings: ScoreWarning[]): 'end' | 'on' {
  const here = measures[walk.at]?.navigation;
  if (here?.repeatTimes != null && (!walk.jumped || here.repeatAfterJump)) {
    const times = here.endings
      ? Math.max(
          ...endingGroup(measures, walk.at).flatMap((found) => found),
          here.endings.includes(1) ? 2 : 1,
        )
      : here.repeatTimes;
    if (walk.pass < times) {
      walk.pass += 1;
      walk.at = walk.sectionStart;
      return 'on';
    }
    walk.pass = 1;
    walk.sectionStart = walk.at + 1;
  }
  if (walk.jumped && here?.fine) return 'end';
  const target = jumpTarget(measures, walk, warnings);
  walk.at = target ?? walk.at + 1;
  return 'on';
}

function jumpTarget(
  measures: readonly NavigatedMeasure[],
  walk: Walk,
  warnings: ScoreWarning[],
): number | null {
  const here = measures[walk.at];
  const marks = here?.navigation;
  if (!here || !marks) return null;
  if (walk.jumped)
    return marks.toCoda === null ? null : find(measures, 'coda', { label: marks.toCoda, here, warnings });
  if (!marks.daCapo && marks.dalSegno === null) return null;
  const target = marks.daCapo ? 0 : find(measures, 'segno', { label: marks.dalSegno ?? '', here, warnings });
  if (target === null) return null;
  walk.jumped = true;
  walk.sectionStart = target;
  walk.pass = 1;
  return target;
}

function find(
  measures: readonly NavigatedMeasure[],
  sign: 'segno' | 'coda',
  {
    label,
    here,
    warnings,
  }: { readonly label: string; readonly here: NavigatedMeasure; readonly warnings: ScoreWarning[] },
): number | null {
  const labelled = measures.findIndex(
    ({ navigation }) => navigation?.[sign] != null && navigation[sign] === label,
  );
  const target =
    labelled >= 0 ? labelled : measures.findLastIndex(({ navigation }) => navigation?.[sign] != null);
  if (target >= 0) return target;
  warnings.push({
    code: 'jump-target-missing',
    where: `measure ${here.number}`,
    message: `Measure ${here.number} jumps to a ${sign} sign that the file does not hold; the jump is left out.`,
  });
  return null;
}
