declare module 'abcjs/src/parse/abc_parse.js' {
  import type { AbcTune } from './abc-elements.js';

  export default class Parse {
    parse(text: string): void;
    getTune(): AbcTune;
  }
}
