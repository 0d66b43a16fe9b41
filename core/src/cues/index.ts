export { CUE_KINDS, type CueKind } from './kinds.js';
export { CUE_TEXT_LIMIT, cueOfFinding } from './cue-of-finding.js';
