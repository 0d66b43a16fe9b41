import { InvariantError } from '@vivid-cue/core/base';
import { LADDER_START, passageLadder, placeOf, type ClimbSchool } from '@vivid-cue/core/climb';
import { asSeconds, BEAT_UNITS } from '@vivid-cue/core/music';
import {
  makePlan,
  planSentence,
  wayOutText,
  waysOut,
  type PartToPlan,
  type PassageToPlan,
  type Plan,
  type PlanInput,
} from '@vivid-cue/core/plan';
import { beliefReliableAt, PRIOR, STATES, type Belief, type ReadinessState } from '@vivid-cue/core/readiness';
import { CommandError, readArgs } from '../command-error.js';
import { jsonField, type Field } from '../field.js';
import { readText } from '../read-text.js';

const FILE_LIMIT = 2_000_000;
const SCHOOLS: readonly ClimbSchool[] = ['steady', 'reach', 'whole'];
/** Where only a state is told, this share of the target is taken for reliable (our own). */
const SHARE_OF_STATE: Readonly<Record<ReadinessState, number | null>> = {
  unopened: null,
  mapped: null,
  grounded: 0.6,
  climbing: 0.82,
  'at-tempo': 1,
  holding: 1.06,
};
const DAY_MS = 86_400_000;

/**
 * `plan FILE.json`: what is practised on which day until the deadlines, and whether it holds.
 * Shape:  JSON text, see docs/formats.md
 * Units:  minutes; days from today, or dates where the input gives today's
 * Errors: CommandError that names the field, what is wanted and what came
 * Source: docs/formats.md
 */
export function planCommand(args: readonly string[], folder: string): string {
  const { positionals } = readArgs(args, {});
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0)
    throw new CommandError('Name one file with what is to be planned: vivid-cue plan FILE.json --json.');
  const field = jsonField(readText(folder, file, FILE_LIMIT), 'The plan’s input');
  const today = field.member('today').value === undefined ? null : readDate(field.member('today'));
  const input = inputOf(field, today);
  return JSON.stringify(toldPlan(input, { field, today }), null, 2);
}

function inputOf(field: Field, today: number | null): PlanInput {
  const minutes = field.member('minutes').number(0, 600);
  const deadline = daysTo(field, today);
  const read = field
    .member('passages')
    .items()
    .map((one) => passageOf(one, { today, deadline }));
  const parts = partsOf(field, read, { today, deadline });
  return {
    weekday: today === null ? 1 : new Date(today).getUTCDay(),
    minutes,
    cap: field.member('cap').number(0, 600, minutes),
    restDays: field.member('restDays').numbers(0, 6),
    skipped: field.member('skipped').numbers(0, 1000),
    minutesOf: {},
    passages: read,
    parts,
    begunDaysAgo:
      field.member('begunDaysAgo').value === undefined ? 0 : field.member('begunDaysAgo').number(0, 1000),
    assembly: field.member('assembly').value === undefined ? null : field.member('assembly').number(0, 1000),
    rate: field.member('rate').number(0.1, 5, 1),
  };
}

/** The day everything is due: `days` from today, or the `date`. */
function daysTo(field: Field, today: number | null): number {
  const date = field.member('date');
  if (date.value === undefined) return field.member('days').number(1, 1000);
  if (today === null) throw date.wrong('beside "today", so that days can be counted');
  return Math.max(1, Math.round((readDate(date) - today) / DAY_MS));
}

function readDate(field: Field): number {
  const text = field.text();
  const ms = /^\d{4}-\d\d-\d\d$/u.test(text) ? Date.parse(`${text}T00:00:00Z`) : Number.NaN;
  if (Number.isNaN(ms)) throw field.wrong('a date such as 2026-11-28');
  return ms;
}

interface Dates {
  readonly today: number | null;
  readonly deadline: number;
}

function passageOf(field: Field, dates: Dates): PassageToPlan {
  const id = field.member('id').text();
  const target = field.member('target');
  const bpm = target.value === undefined ? 100 : target.member('bpm').bpm();
  const unit = target.value === undefined ? 'quarter' : target.member('beatUnit').oneOf(BEAT_UNITS);
  const ladder = passageLadder(bpm, unit);
  if (!ladder.ok) throw new CommandError(`${field.path}: ${ladder.issues[0]?.message ?? 'no ladder'}`);
  const rungBpms = ladder.value.map((rung) => rung.bpm);
  const share = shareOf(field, bpm);
  const after = field.member('after');
  const due = field.member('days').value !== undefined || field.member('date').value !== undefined;
  return {
    id,
    name: field.member('name').value === undefined ? id : field.member('name').text(),
    partId: field.member('part').value === undefined ? 'part' : field.member('part').text(),
    belief: beliefOf(share),
    practiceDays: field.member('practiceDays').number(0, 10_000, share === null ? 0 : 3),
    idleDays: share === null ? null : field.member('idleDays').number(0, 10_000, 1),
    seconds: asSeconds(field.member('seconds').number(0.5, 3600, 10)),
    weight: field.member('weight').number(0, 1e6, 1),
    deadline: due ? daysTo(field, dates.today) : dates.deadline,
    targetBpm: bpm,
    unit,
    rungBpms,
    place: { ...placeOf(LADDER_START, 'three-in-a-row'), rungIndex: rungAt(rungBpms, (share ?? 0) * bpm) },
    school: field.member('school').value === undefined ? 'steady' : field.member('school').oneOf(SCHOOLS),
    after: after.value === undefined ? [] : after.items().map((one) => one.text()),
    pinned: field.member('pinned').numbers(0, 1000),
    barred: field.member('barred').numbers(0, 1000),
  };
}

/** The share of the target that is reliable: from the tempo that is, else from the state; null for nobody has played. */
function shareOf(field: Field, bpm: number): number | null {
  const reliable = field.member('reliableBpm');
  if (reliable.value != null) return reliable.bpm() / bpm;
  const state = field.member('state');
  return state.value === undefined ? null : SHARE_OF_STATE[state.oneOf(STATES)];
}

function beliefOf(share: number | null): Belief {
  return share === null ? PRIOR : beliefReliableAt(share);
}

function rungAt(rungBpms: readonly number[], bpm: number): number {
  return Math.max(
    0,
    rungBpms.findLastIndex((rung) => rung <= bpm + 0.51),
  );
}

/** The parts that are put together; those that only passages name last as long as these. */
function partsOf(field: Field, passages: readonly PassageToPlan[], dates: Dates): PartToPlan[] {
  const told = field.member('parts');
  const listed = told.value === undefined ? [] : told.items();
  const named = listed.map((one): PartToPlan => {
    const due = one.member('days').value !== undefined || one.member('date').value !== undefined;
    return {
      id: one.member('id').text(),
      name: one.member('name').value === undefined ? one.member('id').text() : one.member('name').text(),
      seconds: asSeconds(one.member('seconds').number(1, 7200, 120)),
      deadline: due ? daysTo(one, dates.today) : dates.deadline,
    };
  });
  const others = [...new Set(passages.map(({ partId }) => partId))].filter(
    (id) => !named.some((part) => part.id === id),
  );
  return [
    ...named,
    ...others.map((id) => {
      const own = passages.filter(({ partId }) => partId === id);
      return {
        id,
        name: id,
        seconds: asSeconds(own.reduce((sum, { seconds }) => sum + seconds, 0)),
        deadline: Math.max(...own.map(({ deadline }) => deadline)),
      };
    }),
  ];
}

function toldPlan(
  input: PlanInput,
  { field, today }: { readonly field: Field; readonly today: number | null },
): object {
  const plan = makePlan(input);
  const dateOf = (day: number): string | null =>
    today === null ? null : new Date(today + day * DAY_MS).toISOString().slice(0, 10);
  const dayText = (day: number): string => dateOf(day) ?? `day ${day}`;
  const ways = waysOut(input, plan, {
    slowestShare: field.member('slowestPercent').number(1, 100, 100) / 100,
    mostMinutes: field.member('mostMinutes').number(1, 600, Math.max(input.cap, input.minutes * 2)),
  });
  return {
    holds: plan.holds,
    why: planSentence(input, plan, dayText),
    assembly: plan.assembly === null ? null : { day: plan.assembly, date: dateOf(plan.assembly) },
    tightest: plan.tightest,
    minutes: plan.minutes,
    waysOut: ways.map((way) => ({ ...way, text: wayOutText(way, input, dayText) })),
    passages: plan.courses.map(({ passageId, ...course }) => ({ id: passageId, ...course })),
    days: plan.days.map((one) => toldDay(one, input, dateOf)),
  };
}

function toldDay(
  { day, minutes, isRest, isLight, blocks, runs, breakAfter }: Plan['days'][number],
  { passages }: PlanInput,
  dateOf: (day: number) => string | null,
): object {
  return {
    day,
    date: dateOf(day),
    minutes,
    isRest,
    isLight,
    passages: blocks.map(({ passageId, bpm, rungIndex, ...block }) => ({
      id: passageId,
      minutes: block.minutes,
      rung: { index: rungIndex, bpm: Math.round(bpm * 100) / 100, beatUnit: unitOf(passages, passageId) },
      reason: block.reason,
    })),
    runs: runs.map(({ kind, partIds, minutes: long }) => ({ kind, parts: partIds, minutes: long })),
    breakAfter,
  };
}

function unitOf(passages: readonly PassageToPlan[], id: string): string {
  const passage = passages.find((one) => one.id === id);
  if (!passage) throw new InvariantError(`the plan names ${id}, which did not come`);
  return passage.unit;
}
