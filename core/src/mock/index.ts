export { concordance, concordanceWords, panelResult, type PanelResult } from './agreement.js';
export { sightStudy, type SightCode, type SightStudy, type SightWish } from './sight-study.js';
export { SIGHT_LEVELS, type SightLevel } from './sight-levels.data.js';
