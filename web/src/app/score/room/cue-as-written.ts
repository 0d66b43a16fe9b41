import type { CueChange, CueView } from '@vivid-cue/contract';

/** What is sent of a cue that is changed. */
export function cueAsWritten({
  kind,
  from,
  to,
  text,
  note,
  sign,
  status,
  reason,
  alternatives,
  beat,
}: CueView): CueChange {
  return { kind, from, to, text, note, beat, sign, status, reason, alternatives: [...alternatives] };
}
