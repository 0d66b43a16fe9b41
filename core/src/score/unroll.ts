import type { ScoreWarning } from './issues.js';
import { SCORE_LIMITS } from './limits.js';
import type { Navigation } from './model.js';

/** A measure as the order of playing needs it. */
export interface NavigatedMeasure {
  readonly number: string;
  readonly navigation: Navigation | null;
}

/** Measures with what is looked up in them, each found once: a walk asks for it at every step. */
interface Music {
  readonly measures: readonly NavigatedMeasure[];
  readonly groups: readonly (EndingGroup | null)[];
  readonly signs: { readonly segno: Signs; readonly coda: Signs };
  /** Measures whose jump has no target. */
  readonly missed: Set<NavigatedMeasure>;
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
  const music: Music = {
    measures,
    groups: endingGroups(measures),
    signs: { segno: signsOf(measures, 'segno'), coda: signsOf(measures, 'coda') },
    missed: new Set(),
  };
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
    if (!isPlayed(music, walk)) {
      walk.at += 1;
      continue;
    }
    order.push(walk.at);
    if (leave(music, walk, warnings) === 'end') break;
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

function isPlayed(music: Music, walk: Walk): boolean {
  const endings = music.measures[walk.at]?.navigation?.endings;
  if (endings == null) return true;
  if (!walk.jumped) return endings.includes(walk.pass);
  const group = music.groups[walk.at];
  const isLast = endings.includes(group?.last ?? 0);
  return isLast && !(group?.isOnlyOne === true && endings.includes(1));
}

/** Measures under endings that follow each other, as one. */
interface EndingGroup {
  last: number;
  isOnlyOne: boolean;
}

/** The group that each measure under an ending belongs to. */
function endingGroups(measures: readonly NavigatedMeasure[]): (EndingGroup | null)[] {
  const groups: (EndingGroup | null)[] = [];
  let group: EndingGroup | null = null;
  for (const [index, { navigation }] of measures.entries()) {
    const endings = navigation?.endings;
    if (endings == null) group = null;
    else {
      const before: EndingGroup | null = group;
      const isSame = before === null || measures[index - 1]?.navigation?.endings === endings;
      group = before ?? { last: 0, isOnlyOne: true };
      group.isOnlyOne &&= isSame;
      group.last = endings.reduce((last, ending) => Math.max(last, ending), group.last);
    }
    groups.push(group);
  }
  return groups;
}

function leave(music: Music, walk: Walk, warnings: ScoreWarning[]): 'end' | 'on' {
  const here = music.measures[walk.at]?.navigation;
  if (here?.repeatTimes != null && (!walk.jumped || here.repeatAfterJump)) {
    const times = here.endings
      ? Math.max(music.groups[walk.at]?.last ?? 0, here.endings.includes(1) ? 2 : 1)
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
  const target = jumpTarget(music, walk, warnings);
  walk.at = target ?? walk.at + 1;
  return 'on';
}

function jumpTarget(music: Music, walk: Walk, warnings: ScoreWarning[]): number | null {
  const here = music.measures[walk.at];
  const marks = here?.navigation;
  if (!here || !marks) return null;
  if (walk.jumped)
    return marks.toCoda === null ? null : find(music, 'coda', { label: marks.toCoda, here, warnings });
  if (!marks.daCapo && marks.dalSegno === null) return null;
  const target = marks.daCapo ? 0 : find(music, 'segno', { label: marks.dalSegno ?? '', here, warnings });
  if (target === null) return null;
  walk.jumped = true;
  walk.sectionStart = target;
  walk.pass = 1;
  return target;
}

/** Where the signs of one kind stand: by their label, and the last of all. */
interface Signs {
  readonly labelled: ReadonlyMap<string, number>;
  readonly last: number | null;
}

function signsOf(measures: readonly NavigatedMeasure[], sign: 'segno' | 'coda'): Signs {
  const labelled = new Map<string, number>();
  let last: number | null = null;
  for (const [index, { navigation }] of measures.entries()) {
    const label = navigation?.[sign];
    if (label == null) continue;
    if (!labelled.has(label)) labelled.set(label, index);
    last = index;
  }
  return { labelled, last };
}

function find(
  { signs, missed }: Music,
  sign: 'segno' | 'coda',
  {
    label,
    here,
    warnings,
  }: { readonly label: string; readonly here: NavigatedMeasure; readonly warnings: ScoreWarning[] },
): number | null {
  const target = signs[sign].labelled.get(label) ?? signs[sign].last;
  if (target !== null) return target;
  // A measure that is played again jumps nowhere again: that was said.
  if (!missed.has(here))
    warnings.push({
      code: 'jump-target-missing',
      where: `measure ${here.number}`,
      message: `Measure ${here.number} jumps to a ${sign} sign that the file does not hold; the jump is left out.`,
    });
  missed.add(here);
  return null;
}
