export {
  CUE_AUTHORS,
  CUE_KINDS,
  CUE_STATUSES,
  STRING_NAMES,
  type CueAuthor,
  type CueKind,
  type CueStatus,
} from './kinds.js';
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
