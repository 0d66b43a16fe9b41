export {
  cuesIn,
  withCues,
  withoutCues,
  type CueWriting,
  type FileAlternative,
  type FileCue,
} from './write-cues.js';
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
