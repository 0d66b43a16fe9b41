import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { STUDIES } from './studies.data.js';
import { writeMusicXml } from './write-music-xml.js';

for (const study of STUDIES) {
  const path = fileURLToPath(new URL(`../../studies/${study.file}.musicxml`, import.meta.url));
  writeFileSync(path, writeMusicXml(study));
  process.stdout.write(`${path}\n`);
}
