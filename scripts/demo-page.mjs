// Makes the printed page of the demo: a study of our own, engraved, printed on warm paper and scanned a little askew.
// Needs the packages and a Chromium; the picture is committed, so this runs only where the study changes.
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { chromium } from '@playwright/test';
import { executablePath } from './chromium.mjs';
import sharp from 'sharp';
import createModule from 'verovio/wasm';
import { VerovioToolkit } from 'verovio/esm';

const [name = 'harbor-bell', askewDegrees = '-0.7'] = process.argv.slice(2);
const root = fileURLToPath(new URL('../', import.meta.url));
const engine = new VerovioToolkit(await createModule());
// A page of 8½ × 11 inches at 200 dots an inch.
engine.setOptions({
  ...{ pageWidth: 2125, pageHeight: 2750, scale: 80, font: 'Leland', smuflTextFont: 'embedded' },
  ...{
    header: 'auto',
    footer: 'none',
    breaks: 'auto',
    pageMarginLeft: 190,
    pageMarginRight: 170,
    pageMarginTop: 190,
  },
  ...{ spacingSystem: 9, spacingLinear: 0.28, justifyVertically: false },
});
engine.loadData(readFileSync(`${root}demo/studies/${name}.musicxml`, 'utf8'));
const browser = await chromium.launch({
  executablePath,
  args: ['--no-sandbox', '--headless', '--disable-gpu'],
});
const page = await browser.newPage({ viewport: { width: 1700, height: 2200 } });
await page.setContent(`<body style="margin:0;background:#fff">${engine.renderToSVG(1)}</body>`);
await page.evaluate(() => document.fonts.ready);
const printed = await page.screenshot();
await browser.close();
await sharp(printed)
  .rotate(Number(askewDegrees), { background: '#ffffff' })
  .resize({ width: 1700, height: 2200, fit: 'cover' })
  .blur(0.7)
  .linear([0.86, 0.85, 0.82], [26, 24, 18])
  .jpeg({ quality: 78 })
  .toFile(`${root}demo/pages/${name}.jpg`);
