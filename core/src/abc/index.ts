export { abcToMusicXml, isAbc, withoutAbc, type AbcCode } from './abc-to-music-xml.js';
