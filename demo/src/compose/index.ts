export { FERRY_LINES, HARBOR_BELL, SLACK_WATER, STUDIES } from './studies.data.js';
export { writeMusicXml } from './write-music-xml.js';
export type { StudyText } from './study-text.js';
