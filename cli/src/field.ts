import { checkBpm } from '@vivid-cue/core/music';
import { CommandError } from './command-error.js';

/** A value with its path in the record, for sentences that name the place. */
export class Field {
  constructor(
    readonly value: unknown,
    readonly path: string,
    private readonly whole: string,
  ) {}

  member(name: string): Field {
    if (typeof this.value !== 'object' || this.value === null || Array.isArray(this.value))
      throw this.wrong('an object');
    return new Field(
      (this.value as Readonly<Record<string, unknown>>)[name],
      this.path === '' ? name : `${this.path}.${name}`,
      this.whole,
    );
  }

  items(): Field[] {
    if (!Array.isArray(this.value)) throw this.wrong('a list');
    return this.value.map((value: unknown, n) => new Field(value, `${this.path}[${n}]`, this.whole));
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

  /** A number between two bounds, both included; `fallback` where nothing stands. */
  number(low: number, high: number, fallback?: number): number {
    if (this.value === undefined && fallback !== undefined) return fallback;
    if (typeof this.value !== 'number' || !(this.value >= low && this.value <= high))
      throw this.wrong(`a number from ${low} to ${high}`);
    return this.value;
  }

  /** A list of such numbers, empty where nothing stands. */
  numbers(low: number, high: number): number[] {
    return this.value === undefined ? [] : this.items().map((item) => item.number(low, high));
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
    return new CommandError(`${this.path === '' ? this.whole : this.path} must be ${wanted}; ${came} came.`);
  }
}

/**
 * The value of a JSON text, with `whole` as its name in sentences.
 * Errors: CommandError for what is no JSON
 */
export function jsonField(text: string, whole: string): Field {
  try {
    return new Field(JSON.parse(text), '', whole);
  } catch (error) {
    throw new CommandError(`${whole} is no JSON: ${error instanceof Error ? error.message : ''}.`);
  }
}
