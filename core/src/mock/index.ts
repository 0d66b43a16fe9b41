export { concordance, concordanceWords, panelResult, type PanelResult } from './agreement.js';
export { sightStudy, type SightCode, type SightStudy, type SightWish } from './sight-study.js';
export { SIGHT_LEVELS, type SightLevel } from './sight-levels.data.js';
export {
  criteriaOf,
  drawnFor,
  itemSeed,
  mockItems,
  shuffled,
  splitPoints,
  USUAL_CRITERIA,
  type CallKind,
  type Criterion,
  type CriterionShare,
  type Drawn,
  type MockItem,
  type PartForMock,
} from './day.js';
export {
  dayResults,
  panelSlips,
  TAPPED_BY,
  type DayResults,
  type GivenScore,
  type ItemResult,
  type PlayerResult,
} from './results.js';
export { accompaniment, hasOthers, type AccompanyingNote, type OwnPart } from './accompaniment.js';
export { auralQuestions, type AuralQuestion } from './aural.js';
export {
  EAR_KINDS,
  earTest,
  sungResult,
  tapResult,
  type EarKind,
  type EarNote,
  type EarResult,
  type EarTest,
  type SungPitch,
} from './ear.js';
