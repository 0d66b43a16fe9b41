import { measuresText, type Vocabulary } from '../music/index.js';
import { printedSpan, type Span } from './span.js';

/** A run of measures as a sheet names it. Shape: a printed number or an anchor such as "K-6" at each end. */
export interface NamedRun {
  readonly from: number | string;
  readonly to: number | string;
  readonly anchorText?: string | null;
}

function isNumbered({ from, to }: NamedRun): boolean {
  return [from, to].every((point) => /^\d/u.test(String(point)));
}

/**
 * A run in words of the studio's vocabulary.
 * Shape:  "mm. 9–12", "K-6 to the end", "the whole piece"
 * Units:  printed numbers
 */
export function runText(run: NamedRun, vocabulary: Vocabulary): string {
  const [from, to] = [String(run.from), String(run.to)];
  if (from === 'start' && to === 'end') return 'the whole piece';
  if (isNumbered(run)) return measuresText(from, to, vocabulary);
  return `${from} to ${to}`;
}

/** A span of a score in its printed numbers: "mm. 9–12". Units: printed numbers */
export function spanInWords(
  measures: readonly { readonly number: string }[],
  span: Span,
  vocabulary: Vocabulary,
): string {
  const { from, to } = printedSpan(measures, span);
  return measuresText(from, to, vocabulary);
}

/** All runs in the order in which they are played: "mm. 29 to end, then mm. 1–12". Shape: "" for no run. */
export function runsText(runs: readonly NamedRun[], vocabulary: Vocabulary): string {
  return runs.map((run) => runText(run, vocabulary)).join(', then ');
}

/** A numbered run as a person types it: "9–12", one measure as its number. Units: printed numbers */
export function spanPhrase({ from, to }: { readonly from: string; readonly to: string }): string {
  return from === to ? from : `${from}–${to}`;
}

/** All runs as a person types them, so that they read back the same: "9–24, 30". Shape: "" for no run. */
export function runsPhrase(runs: readonly NamedRun[]): string {
  return runs
    .map((run) => {
      const [from, to] = [String(run.from), String(run.to)];
      if (isNumbered(run)) return spanPhrase({ from, to });
      return run.anchorText ?? `${from} to ${to}`;
    })
    .join(', ');
}
