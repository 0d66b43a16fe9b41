import {
  airMusic,
  breathPlan,
  capacityFor,
  placeText,
  slowestBpm,
  usableAir,
  waysToBreathe,
  type AirMusic,
  type AirPin,
  type AirWish,
} from '@vivid-cue/core/air';
import { roundTo } from '@vivid-cue/core/base';
import { asSeconds, toNumber, type Seconds } from '@vivid-cue/core/music';
import { wholePace } from '@vivid-cue/core/reading';
import type { Score } from '@vivid-cue/core/score';
import { CommandError, readArgs } from '../command-error.js';
import { readScoreFile } from '../read-score-file.js';
import { readSpan } from './drills.js';
import { readBpm } from './read.js';

/** The air of the longest tone that is taken for one (our own). Units: seconds */
const MOST_AIR = 120;

/**
 * `breath FILE --air 15 [--span 1-16] [--bpm 126] [--must 8:1] [--never 9:1] [--part ID]`: where to breathe.
 * Shape:  JSON text, see docs/formats.md; measures by printed number
 * Units:  `--air` seconds of a steady full tone; `--bpm` beats of the first full measure
 * Errors: CommandError for what is missing or is no place of the span
 * Source: docs/formats.md
 */
export function breathCommand(args: readonly string[], folder: string): string {
  const { values, positionals } = readArgs(args, {
    span: { type: 'string' },
    air: { type: 'string' },
    bpm: { type: 'string' },
    part: { type: 'string' },
    must: { type: 'string' },
    never: { type: 'string' },
  });
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0)
    throw new CommandError('Name one score file: vivid-cue breath FILE --span 1-16 --air 15 --json.');
  const score = readScoreFile(folder, file, values.part);
  const music = airMusic(score, readSpan(score, values.span));
  if (!music) throw new CommandError('The span has no note; give measures in which something is played.');
  const pace = wholePace(score, values.bpm === undefined ? null : readBpm(values.bpm));
  if (!pace) throw new CommandError('The file states no tempo; give one such as --bpm 126.');
  const pins = [...pinsOf(values.must, 'must'), ...pinsOf(values.never, 'never')].map((pin) =>
    placed(pin, music, score),
  );
  const wish = { pace, capacity: readAir(values.air), pins };
  const bpm = (pace.segments[0]?.quarterBpm ?? 0) / pace.beatQuarters;
  return JSON.stringify(told(score, { music, wish, bpm }), null, 2);
}

interface Planned {
  readonly music: AirMusic;
  readonly wish: AirWish;
  readonly bpm: number;
}

function told(score: Score, { music, wish, bpm }: Planned): object {
  const plan = breathPlan(music, wish);
  const numberAt = (at: number): string =>
    score.measures.findLast(({ start }) => toNumber(start) <= at + 1e-6)?.number ?? '';
  return {
    stretches: plan.stretches.map(({ from, to, seconds }) => ({
      from: numberAt(from),
      to: numberAt(to - 1e-3),
      quarters: roundTo(to - from, 6),
      seconds: roundTo(seconds, 3),
    })),
    breaths: plan.breaths.map(({ place, needlessAt, isPinned }) => ({
      measure: score.measures[place.measureIndex]?.number ?? '',
      beat: place.beat,
      harm: place.harm,
      why: isPinned ? `settled: ${placeText(place)}` : placeText(place),
      needlessFromBpm: needlessAt === null ? null : roundTo(needlessAt * bpm, 1),
    })),
    feasible: plan.isFeasible,
    slowestOneBreathBpm: roundTo(plan.oneBreathSpeed * bpm, 1),
    leastAirSeconds: roundTo(plan.leastCapacity, 2),
    oneBreathAirSeconds: roundTo(plan.oneBreathCapacity, 2),
    ways: waysToBreathe(music, wish, plan).map((way) =>
      way.kind === 'air'
        ? { kind: 'air', seconds: roundTo(way.capacity, 2) }
        : way.kind === 'tempo'
          ? { kind: 'tempo', bpm: roundTo(way.speed * bpm, 1) }
          : { kind: 'place', measure: score.measures[way.place.measureIndex]?.number, beat: way.place.beat },
    ),
  };
}

interface Named {
  readonly measure: string;
  readonly beat: number;
  readonly kind: AirPin['kind'];
}

function pinsOf(text: string | undefined, kind: AirPin['kind']): Named[] {
  return (text ?? '')
    .split(',')
    .filter((one) => one.trim() !== '')
    .map((one) => {
      const match = /^\s*(\w+):(\d+(?:\.\d+)?)\s*$/u.exec(one);
      if (!match)
        throw new CommandError(`--${kind} takes measures with beats such as 8:5 or 8:5,12:3; "${one}" came.`);
      return { measure: match[1] ?? '', beat: Number(match[2]), kind };
    });
}

function placed({ measure, beat, kind }: Named, { places }: AirMusic, { measures }: Score): AirPin {
  const place = places.find(
    (one) => measures[one.measureIndex]?.number === measure && Math.abs(one.beat - beat) < 0.01,
  );
  if (!place) {
    const own = places.filter((one) => measures[one.measureIndex]?.number === measure);
    const there = own.length === 0 ? 'none in that measure' : own.map((one) => one.beat).join(', ');
    throw new CommandError(
      `--${kind} ${measure}:${beat} is no place between two notes; there is ${there}. The end of a measure is one beat past its last.`,
    );
  }
  return { at: place.at, kind };
}

/** Seconds of a long tone as `--air` takes them. Errors: CommandError. */
export function readAir(text: string | undefined): Seconds {
  const seconds = Number(text);
  if (text === undefined || !(seconds > 0 && seconds <= MOST_AIR))
    throw new CommandError(
      `--air takes the seconds of a long tone, up to ${MOST_AIR}, such as --air 15; ${text === undefined ? 'nothing' : `"${text}"`} came.`,
    );
  return asSeconds(seconds);
}

/**
 * `fit --quarters 32 --air 15` or `fit --quarters 32 --seconds 12.75`: the slowest tempo at which a phrase is one breath.
 * Shape:  JSON text `{bpm, usableSeconds}`
 * Units:  quarter notes a minute, seconds; of `--air` the usual share may be used, of `--seconds` all
 * Errors: CommandError for a number that is missing
 * Source: docs/computation.md §5
 */
export function fitCommand(args: readonly string[]): string {
  const { values } = readArgs(args, {
    quarters: { type: 'string' },
    air: { type: 'string' },
    seconds: { type: 'string' },
  });
  const quarters = Number(values.quarters);
  if (values.quarters === undefined || !(quarters > 0 && quarters <= 10_000))
    throw new CommandError('Give how long the phrase is, such as --quarters 32.');
  if ((values.air === undefined) === (values.seconds === undefined))
    throw new CommandError(
      'Give either --air with the seconds of a long tone, or --seconds that may be used.',
    );
  const usable = values.seconds === undefined ? usableAir(readAir(values.air)) : readAir(values.seconds);
  return JSON.stringify(
    {
      bpm: roundTo(slowestBpm(quarters, usable), 2),
      usableSeconds: roundTo(usable, 3),
      airSeconds: roundTo(values.seconds === undefined ? Number(values.air) : capacityFor(usable), 3),
    },
    null,
    2,
  );
}
