import { present } from '@vivid-cue/core/base';
import {
  beatingSpots,
  handNotes,
  handPace,
  rollAdvice,
  solveHands,
  type HandNote,
  type HandPath,
  type HandPin,
  type HandSolver,
} from '@vivid-cue/core/hands';
import { asSeconds, secondsAt } from '@vivid-cue/core/music';
import { instrumentProfile, quarterBpmOf, type Pace } from '@vivid-cue/core/reading';
import type { Score } from '@vivid-cue/core/score';
import { CommandError, oneOf, readArgs } from '../command-error.js';
import { readScoreFile } from '../read-score-file.js';
import { readSpan } from './drills.js';
import { readBpm } from './read.js';

const OPTIONS = {
  span: { type: 'string' },
  part: { type: 'string' },
  instrument: { type: 'string' },
  bpm: { type: 'string' },
  pin: { type: 'string' },
  lead: { type: 'string' },
  school: { type: 'string' },
  valve: { type: 'boolean' },
} as const;
type Values = Readonly<Partial<Record<keyof typeof OPTIONS, string>>>;

/**
 * `slide|fingers|valves|sticking|bow FILE [--span 1-8] [--bpm 96] [--pin 4:2=6] [--valve] [--lead L] [--school strict]`:
 * the way of the hands through a passage.
 * Shape:  JSON text `{notes, cost, plainCost, because}`, see docs/formats.md
 * Errors: CommandError for a note that is pinned and is not there, and for a choice that it does not have
 * Source: docs/formats.md
 */
export function handsCommand(solver: HandSolver): (args: readonly string[], folder: string) => string {
  return (args, folder) => {
    const { values, positionals } = readArgs(args, OPTIONS);
    const [file, ...more] = positionals;
    if (file === undefined || more.length > 0)
      throw new CommandError(`Name one score file: vivid-cue ${solver} FILE --span 1-8 --json.`);
    const score = readScoreFile(folder, file, values.part);
    const span = readSpan(score, values.span);
    const asked = values.bpm === undefined ? null : readBpm(values.bpm);
    const pace = handPace(score, asked);
    const notes = handNotes(score, span, pace);
    const pins = pinsOf(values.pin, score);
    const path = solvedHands(solver, notes, { score, values, pins });
    checkPins(path, pins, score);
    const beside = {
      rolls: rollsOf(solver, notes, { score, values, pace }),
      ...besidesOf(solver, notes, { score, values, pins }),
    };
    return JSON.stringify(told(path, beside), null, 2);
  };
}

interface Asked {
  readonly score: Score;
  readonly values: Values;
  readonly pins: readonly HandPin[];
}

const nameOf = ({ score, values }: Pick<Asked, 'score' | 'values'>): string =>
  values.instrument ?? score.instrument;

function solvedHands(solver: HandSolver, notes: readonly HandNote[], asked: Asked): HandPath {
  const { score, values, pins } = asked;
  const instrument = nameOf(asked);
  const own = { score, instrument, pins, hasValve: Boolean(values.valve) };
  const wish =
    solver === 'sticking'
      ? {
          ...own,
          school: oneOf('school', values.school ?? 'doubles', ['doubles', 'alternate']),
          leads: oneOf('lead', values.lead ?? 'R', ['R', 'L']),
        }
      : own;
  const path = solveHands(solver, notes, wish);
  if (!path)
    throw new CommandError(
      `"${instrument}" has no valves that are known here; give for example --instrument trumpet.`,
    );
  return path;
}

function pinsOf(text: string | undefined, { measures }: Score): HandPin[] {
  return (text ?? '')
    .split(',')
    .filter((one) => one.trim() !== '')
    .map((one) => {
      const [, number = '', ordinal = '', choice = ''] = /^\s*(\w+):(\d+)=([\w ]+?)\s*$/u.exec(one) ?? [];
      const measureIndex = measures.findIndex((measure) => measure.number === number);
      if (choice === '' || measureIndex < 0)
        throw new CommandError(
          `--pin takes a measure, a note of it and a choice, such as 4:2=6 or 4:2=6,7:1=1; "${one}" came.`,
        );
      return { measureIndex, ordinal: Number(ordinal), choice };
    });
}

function checkPins({ notes }: HandPath, pins: readonly HandPin[], { measures }: Score): void {
  for (const { measureIndex, ordinal, choice } of pins) {
    const note = notes.find((one) => one.measureIndex === measureIndex && one.ordinal === ordinal);
    const number = measures[measureIndex]?.number ?? '';
    if (!note) throw new CommandError(`--pin ${number}:${ordinal} is no note of the span that has a choice.`);
    if (note.choice !== choice)
      throw new CommandError(
        `--pin ${number}:${ordinal}=${choice}: this note has ${[note.choice, ...note.alternatives].join(', ')}.`,
      );
  }
}

function rollsOf(
  solver: HandSolver,
  notes: readonly HandNote[],
  { score, values, pace }: Pick<Asked, 'score' | 'values'> & { readonly pace: Pace },
): object[] | null {
  if (solver !== 'sticking') return null;
  const instrument = instrumentProfile(nameOf({ score, values })).family === 'drums' ? 'snare' : 'mallets';
  const quarter = ({ start }: HandNote) => asSeconds(secondsAt(1, present(quarterBpmOf(pace, start))));
  return rollAdvice(notes, { instrument, quarter }).map(({ measure, ordinal, division, ends, text }) => ({
    ...{ measure, note: ordinal, division: division.name, ends, text },
  }));
}

/** What stands beside a way: the strings under a bow, where the upper row is struck. */
function besidesOf(
  solver: HandSolver,
  notes: readonly HandNote[],
  { score, values, pins }: Asked,
): { readonly strings?: object; readonly spots?: object[] } {
  const instrument = nameOf({ score, values });
  if (solver === 'bow') {
    const strings = solveHands('strings', notes, { score, instrument, pins });
    return strings ? { strings: told(strings, {}) } : {};
  }
  if (solver !== 'sticking' || instrumentProfile(instrument).family === 'drums') return {};
  return {
    spots: beatingSpots(notes).map(({ measure, ordinal, spot }) => ({ measure, note: ordinal, spot })),
  };
}

function told(
  { notes, cost, plainCost, because, missing }: HandPath,
  { rolls = null, ...more }: { readonly rolls?: object[] | null } & object,
): object {
  return {
    notes: notes.map(({ measure, ordinal, choice, alternatives, isPinned }) => ({
      ...{ measure, note: ordinal, choice, alternatives },
      ...(isPinned ? { pinned: true } : {}),
    })),
    ...{ cost, plainCost, because },
    ...(missing.length > 0 ? { missing } : {}),
    ...(rolls === null ? {} : { rolls }),
    ...more,
  };
}
