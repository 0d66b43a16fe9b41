export {
  CUE_AUTHORS,
  CUE_KINDS,
  CUE_STATUSES,
  type CueAuthor,
  type CueKind,
  type CueStatus,
} from './kinds.js';
export { cuesIn, withCues, type CueWriting, type FileAlternative, type FileCue } from './write-cues.js';
export { CUE_REASON_LIMIT, CUE_SIGN_LIMIT, CUE_TEXT_LIMIT, cueOfFinding } from './cue-of-finding.js';
export {
  cuedTwoWays,
  likePlaces,
  noteFigures,
  type CuePlace,
  type NoteFigures,
  type SignedCue,
  type TwoWays,
} from './like-places.js';
export {
  CUE_INKS,
  CUE_SHAPES,
  inkColour,
  lookOf,
  type CueInk,
  type CueLook,
  type CueShape,
  type KindLook,
} from './looks.js';
