import { BEAT_UNITS, checkBpm, type BeatUnit, type Bpm } from '@vivid-cue/core/music';
import type { RepContext } from '@vivid-cue/core/readiness';
import { CommandError } from '../command-error.js';

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
const HEARD_BY = ['instructor', 'student', 'take'];

/** A value with its path in the record, for sentences that name the place. */
class Field {
  constructor(
    readonly value: unknown,
    readonly path: string,
  ) {}

  member(name: string): Field {
    if (typeof this.value !== 'object' || this.value === null || Array.isArray(this.value))
      throw this.wrong('an object');
    return new Field(
      (this.value as Readonly<Record<string, unknown>>)[name],
      this.path === '' ? name : `${this.path}.${name}`,
    );
  }

  items(): Field[] {
    if (!Array.isArray(this.value)) throw this.wrong('a list');
    return this.value.map((value: unknown, n) => new Field(value, `${this.path}[${n}]`));
  }

  text(): string {
    if (typeof this.value !== 'string' || this.value === '') throw this.wrong('a text');
    return this.value;
  }

  isTrue(): boolean {
    if (typeof this.value !== 'boolean') throw this.wrong('true or false');
    return this.value;
  }

  oneOf<Value extends string>(values: readonly Value[]): Value {
    const found = values.find((value) => value === this.value);
    if (found === undefined) throw this.wrong(`one of ${values.join(', ')}`);
    return found;
  }

  bpm(): number {
    if (typeof this.value !== 'number') throw this.wrong('a number of beats a minute');
    const checked = checkBpm(this.value, this.path);
    if (!checked.ok) throw new CommandError(`${this.path}: ${checked.issues[0]?.message ?? ''}`);
    return checked.value;
  }

  instant(): number {
    const ms = typeof this.value === 'string' ? Date.parse(this.value) : Number.NaN;
    if (Number.isNaN(ms)) throw this.wrong('an instant such as 2026-11-28T16:00:00Z');
    return ms;
  }

  measure(): number | string {
    if (typeof this.value === 'number' || typeof this.value === 'string') return this.value;
    throw this.wrong('a measure');
  }

  wrong(wanted: string): CommandError {
    const came = this.value === undefined ? 'nothing' : JSON.stringify(this.value).slice(0, 60);
    return new CommandError(
      `${this.path === '' ? 'The record' : this.path} must be ${wanted}; ${came} came.`,
    );
  }
}

/**
 * Reads one record of practice.
 * Shape:  docs/formats.md
 * Errors: CommandError that names the field, what is wanted and what came
 * Source: docs/formats.md; ISO 8601 for instants
 */
export function readRecord(text: string): PracticeRecord {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    throw new CommandError(`The record is no JSON: ${error instanceof Error ? error.message : ''}.`);
  }
  const record = new Field(value, '');
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
  if (heardBy.value != null) heardBy.oneOf(HEARD_BY);
  return {
    atMs: field.member('at').instant(),
    bpm: field.member('bpm').bpm(),
    isClean: field.member('isClean').isTrue(),
    context: field.member('context').oneOf(CONTEXTS),
  };
}
