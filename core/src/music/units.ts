declare const unit: unique symbol;

/** A number of one unit: a number of another does not pass for it. Arithmetic drops the unit; it is named again after. */
type In<Unit extends string> = number & { readonly [unit]: Unit };

/**
 * A number as it comes from a file, a form or a row: any plain number passes for it, one of another unit does not, and
 * what is reckoned from it is named again.
 */
type As<Unit extends string> = number & { readonly [unit]?: Unit };

/** Tempo counted in beats of the unit that stands beside it. */
export type Bpm = As<'beats a minute'>;

/** A length in quarter notes where it need not be exact; `Quarters` is the exact one. */
export type QuarterCount = As<'quarter notes'>;

/** A height or a distance between two pitches; MIDI numbers are heights of whole semitones. */
export type Semitones = As<'semitones'>;

/** Tempo counted in quarter notes a minute, the common measure of the whole program. */
export type QuarterBpm = In<'quarter notes a minute'>;

/** Time. */
export type Seconds = In<'seconds'>;

/** Names a number as quarter notes a minute. Units: quarter notes per minute */
export function asQuarterBpm(count: number): QuarterBpm {
  return count as QuarterBpm;
}

/** Names a number as seconds. Units: seconds */
export function asSeconds(count: number): Seconds {
  return count as Seconds;
}
