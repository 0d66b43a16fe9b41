declare const unit: unique symbol;

/** A number of one unit: a number of another does not pass for it. Arithmetic drops the unit; it is named again after. */
type In<Unit extends string> = number & { readonly [unit]: Unit };

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
