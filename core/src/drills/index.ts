export { DRILL_KINDS, type Drill, type DrillKind, type DrillMeasure, type DrillNote } from './drill.js';
export { drillsOf, type DrillOptions } from './drills.js';
export { drillScore, drillSound, type DrillHead, type SoundedDrillNote } from './drill-score.js';
export { totalQuarters } from './rhythms.js';
export { wideningSpans } from './widening.js';
