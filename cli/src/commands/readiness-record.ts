import { BEAT_UNITS, type BeatUnit, type Bpm } from '@vivid-cue/core/music';
import type { RepContext, Witness } from '@vivid-cue/core/readiness';
import { jsonField, type Field } from '../field.js';

/** A tempo to reach. Units: beats of the unit per minute. */
export interface TargetInput {
  readonly bpm: Bpm;
  readonly beatUnit: BeatUnit;
}

/** One attempt. Units: milliseconds since 1970; beats of the passage's unit per minute. */
export interface RepInput {
  readonly atMs: number;
  readonly bpm: Bpm;
  readonly isClean: boolean;
  readonly context: RepContext;
  readonly witness: Witness;
}

/** A tracked stretch with its reps. Shape: first and last measure, both included. */
export interface PassageInput {
  readonly id: string;
  readonly from: number | string;
  readonly to: number | string;
  readonly isSeam: boolean;
  readonly target: TargetInput;
  readonly reps: readonly RepInput[];
}

/** What a person practised of one part. Units: milliseconds since 1970. */
export interface PracticeRecord {
  readonly nowMs: number;
  readonly part: Pick<PassageInput, 'from' | 'to' | 'target'>;
  readonly passages: readonly PassageInput[];
}

const CONTEXTS: readonly RepContext[] = ['alone', 'joined', 'run', 'mock'];
const WITNESSES: readonly Witness[] = ['instructor', 'student', 'take'];

/**
 * Reads one record of practice.
 * Shape:  docs/formats.md
 * Errors: CommandError that names the field, what is wanted and what came
 * Source: docs/formats.md; ISO 8601 for instants
 */
export function readRecord(text: string): PracticeRecord {
  const record = jsonField(text, 'The record');
  const part = record.member('part');
  const partTarget = targetOf(part.member('target'));
  return {
    nowMs: record.member('now').instant(),
    part: { from: part.member('from').measure(), to: part.member('to').measure(), target: partTarget },
    passages: record
      .member('passages')
      .items()
      .map((passage) => passageOf(passage, partTarget)),
  };
}

function targetOf(field: Field): TargetInput {
  return { bpm: field.member('bpm').bpm(), beatUnit: field.member('beatUnit').oneOf(BEAT_UNITS) };
}

function passageOf(field: Field, partTarget: TargetInput): PassageInput {
  const [target, isSeam] = [field.member('target'), field.member('isSeam')];
  return {
    id: field.member('id').text(),
    from: field.member('from').measure(),
    to: field.member('to').measure(),
    isSeam: isSeam.value === undefined ? false : isSeam.isTrue(),
    target: target.value == null ? partTarget : targetOf(target),
    reps: field.member('reps').items().map(repOf),
  };
}

function repOf(field: Field): RepInput {
  const heardBy = field.member('heardBy');
  return {
    witness: heardBy.value == null ? 'instructor' : heardBy.oneOf(WITNESSES),
    atMs: field.member('at').instant(),
    bpm: field.member('bpm').bpm(),
    isClean: field.member('isClean').isTrue(),
    context: field.member('context').oneOf(CONTEXTS),
  };
}
