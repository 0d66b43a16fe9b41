import type { Finding, FindingKind } from '../reading/index.js';
import type { CueKind } from '../cue-kinds/index.js';

/** The longest text of a cue. Units: characters. */
export const CUE_TEXT_LIMIT = 160;
/** The longest sign on the music, and the longest reason. Units: characters. */
export const CUE_SIGN_LIMIT = 12;
export const CUE_REASON_LIMIT = 600;

const KINDS: Partial<Readonly<Record<FindingKind, CueKind>>> = {
  ornament: 'ornament',
  dynamics: 'dynamic',
  awkward: 'fingering',
  technique: 'fingering',
  breath: 'breath',
  held: 'breath',
  tempo: 'character',
  rest: 'other',
  range: 'other',
  shows: 'character',
  feel: 'character',
  rhythm: 'rhythm',
  repeat: 'other',
  run: 'other',
};

/**
 * The cue that a finding becomes: short enough to stand above the measure.
 * Shape:  the finding's sentence; where that is too long, its title
 */
export function cueOfFinding({ kind, title, sentence }: Finding): {
  readonly kind: CueKind;
  readonly text: string;
} {
  const own = KINDS[kind] ?? 'trap';
  const [first = title] = sentence.split(/(?<=[.?])\s/u);
  const text = kind === 'return' ? sentence : kind === 'deciding' ? title : first;
  return { kind: own, text: text.length <= CUE_TEXT_LIMIT ? text : title.slice(0, CUE_TEXT_LIMIT) };
}
