// Takes the font of notes within words out of the engraving engine, so that the page has it as a file of its own: a font
// that comes with a picture would make the browser lay out the whole page anew.
import { mkdirSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import createModule from 'verovio/wasm';
import { VerovioToolkit } from 'verovio/esm';

const engine = new VerovioToolkit(await createModule());
engine.setOptions({ smuflTextFont: 'embedded' });
engine.loadData(`<score-partwise version="4.0">
  <part-list><score-part id="P1"><part-name/></score-part></part-list>
  <part id="P1"><measure number="1">
    <attributes><divisions>1</divisions><time><beats>1</beats><beat-type>4</beat-type></time></attributes>
    <direction><direction-type><metronome><beat-unit>quarter</beat-unit><per-minute>60</per-minute></metronome></direction-type></direction>
    <note><rest/><duration>1</duration></note>
  </measure></part>
</score-partwise>`);
const [, family, data] =
  /font-family:\s*'([^']+)';\s*src:\s*url\(data:application\/font-woff2[^,]*,([\w+/=]+)\)/u.exec(
    engine.renderToSVG(1),
  ) ?? [];
if (!data) throw new Error('The engraving engine brought no font; see what its pictures hold now.');
const folder = fileURLToPath(new URL('../web/public/verovio/', import.meta.url));
mkdirSync(folder, { recursive: true });
writeFileSync(`${folder}${family.toLowerCase()}.woff2`, Buffer.from(data, 'base64'));
