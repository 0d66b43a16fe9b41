import { breathCommand, fitCommand } from './commands/breath.js';
import { convertCommand } from './commands/convert.js';
import { cuesCommand } from './commands/cues.js';
import { drillsCommand } from './commands/drills.js';
import { handsCommand } from './commands/hands.js';
import { ladderCommand } from './commands/ladder.js';
import { pageCommand } from './commands/page.js';
import { planCommand } from './commands/plan.js';
import { phraseCommand } from './commands/phrase.js';
import { readinessCommand } from './commands/readiness.js';
import { readCommand } from './commands/read.js';
import { scoreCommand } from './commands/score.js';
import { sheetCommand } from './commands/sheet.js';
import { sightCommand } from './commands/sight.js';
import { takeCommand, toneCommand } from './commands/take.js';
import { toldCommand } from './commands/told.js';
import { CommandError } from './command-error.js';

/**
 * What a command prints and how it ends.
 * Shape:  exit code 0 with text for standard output, 2 with one sentence for standard error
 * Source: docs/formats.md
 */
export interface CommandOutcome {
  readonly exitCode: 0 | 2;
  readonly text: string;
}

const USAGE = [
  'Usage: vivid-cue score FILE [--part ID] [--json]',
  '       vivid-cue read FILE [--part ID] [--instrument NAME] [--bpm N] [--json]',
  '       vivid-cue drills FILE [--span 17-20] [--instrument NAME] [--bpm N] [--seed N] [--out DIR] [--json]',
  '       vivid-cue cues FILE --out FILE2 [--span 1-8] [--air 15] [--bpm 96] [--instrument NAME] [--valve] [--json]',
  '       vivid-cue breath FILE --air 15 [--span 1-16] [--bpm 126] [--must 8:5] [--never 9:1] [--json]',
  '       vivid-cue slide|fingers|valves|sticking|bow FILE [--span 1-8] [--bpm 96] [--pin 4:2=6] [--valve] [--lead L] [--school alternate] [--json]',
  '       vivid-cue take FILE.wav --score FILE.musicxml [--span 1-32] [--bpm 116] [--repeats take|omit] [--part ID] [--json]',
  '       vivid-cue tone FILE.wav [--json]',
  '       vivid-cue sight --level 3 --instrument clarinet --seed 7 --out FILE.musicxml [--json]',
  '       vivid-cue fit --quarters 32 --air 15 | --seconds 12.75 [--json]',
  '       vivid-cue convert "q=132" --to eighth [--json]',
  '       vivid-cue ladder --from 60 --to 127 --step 10|4%|dial|usual [--unit quarter] [--json]',
  '       vivid-cue plan FILE.json [--json]',
  '       vivid-cue readiness FILE.json [--score FILE] [--json], or - for one record a line on standard input',
  '       vivid-cue sheet FILE.txt [--errata NOTICE.txt] [--instrument NAME] [--json]',
  '       vivid-cue told "1–16 4/4; A9; |: 1–8 :|; ♩=116" [--json]',
  '       vivid-cue page FILE.png|FILE.pdf [--page N] [--json]',
  '       vivid-cue tempo|span|scale "PHRASE" [--json], or - for one phrase a line on standard input',
].join('\n');

const COMMANDS: Readonly<Record<string, (args: readonly string[], folder: string) => string>> = {
  score: scoreCommand,
  read: readCommand,
  cues: cuesCommand,
  drills: drillsCommand,
  breath: breathCommand,
  fit: fitCommand,
  slide: handsCommand('slide'),
  fingers: handsCommand('fingers'),
  valves: handsCommand('valves'),
  sticking: handsCommand('sticking'),
  bow: handsCommand('bow'),
  convert: convertCommand,
  ladder: ladderCommand,
  plan: planCommand,
  readiness: readinessCommand,
  sheet: sheetCommand,
  tempo: phraseCommand('tempo'),
  span: phraseCommand('span'),
  scale: phraseCommand('scale'),
  told: toldCommand,
  take: takeCommand,
  tone: toneCommand,
  sight: sightCommand,
};

/** Commands that wait for something, such as a picture that is drawn. */
const WAITING: Readonly<Record<string, (args: readonly string[], folder: string) => Promise<string>>> = {
  page: pageCommand,
};

/**
 * Runs one command line, whether it waits for something or not.
 * Shape:  never rejects for bad input
 * Errors: exit code 2 and one sentence
 * Source: docs/formats.md
 */
export async function runAnyCommand(args: readonly string[], folder: string): Promise<CommandOutcome> {
  const [name = '', ...rest] = args;
  const command = Object.hasOwn(WAITING, name) ? WAITING[name] : undefined;
  if (!command) return runCommand(args, folder);
  return command(rest, folder).then((text) => ({ exitCode: 0, text }), refused);
}

/** A person's mistake as an outcome; every other error goes on. */
function refused(error: unknown): CommandOutcome {
  if (error instanceof CommandError) return { exitCode: 2, text: error.message };
  throw error;
}

/**
 * Runs one command line that waits for nothing.
 * Shape:  never throws for bad input
 * Errors: exit code 2 and one sentence
 * Source: docs/formats.md
 */
export function runCommand(args: readonly string[], folder: string): CommandOutcome {
  const [name = '', ...rest] = args;
  if (name === '' || name === 'help' || name === '--help')
    return { exitCode: name === '' ? 2 : 0, text: USAGE };
  const command = Object.hasOwn(COMMANDS, name) ? COMMANDS[name] : undefined;
  if (!command)
    return {
      exitCode: 2,
      text: `There is no command "${name}"; there are ${[...Object.keys(COMMANDS), ...Object.keys(WAITING)].join(', ')}.`,
    };
  try {
    return { exitCode: 0, text: command(rest, folder) };
  } catch (error) {
    return refused(error);
  }
}
