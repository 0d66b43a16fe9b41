export { ABC_LIMIT, abcToMusicXml, isAbc, type AbcCode } from './abc-to-music-xml.js';
