import { cleanText } from '../text/raw-lines.js';
import { outlineOf } from './outline.js';

/** The parts of a text with whom each is for. */
function partsOf(text: string): string[] {
  let last = 0;
  const { seeds } = outlineOf(cleanText(text), () => `p${(last += 1)}`);
  return seeds.map(({ label, kind, place: { scope, section } }) => {
    const names = [
      ...scope.instruments,
      ...scope.divisions,
      ...scope.options,
      ...(section?.list ? [section.list] : []),
    ];
    return `${label} [${kind}]${names.length === 0 ? '' : ` for ${names.join(', ')}`}`;
  });
}

const ETUDE = ', no. 3, p. 8, ♩ = 80';

// Outlines written by hand: which heading a reader of the page would put each line under.
describe('outlineOf', () => {
  it('closes an instrument where one of its level opens, and a section of all closes every instrument', () => {
    expect(
      partsOf(
        `BAND BOARD 2027\n\nFLUTE\n  Etude: "Ebb"${ETUDE}\n\nTUBA\n  Etude: "Flow"${ETUDE}\n\nALL INSTRUMENTS\n  Sight-reading, 10 points`,
      ),
    ).toEqual(['Etude [etude] for Flute', 'Etude [etude] for Tuba', 'Sight-reading [sight-reading]']);
  });

  it('nests instruments in a section that was opened before them, until the next section', () => {
    expect(
      partsOf(
        'BAND BOARD 2027\n\nMAJOR SCALES\n\nOBOE\nC, G and D\n\nTUBA\nB♭, E♭\n\nSIGHT-READING: 8 measures',
      ),
    ).toEqual([
      'C major [scale] for Oboe',
      'G major [scale] for Oboe',
      'D major [scale] for Oboe',
      'Bb major [scale] for Tuba',
      'Eb major [scale] for Tuba',
      'Sight-reading [sight-reading]',
    ]);
  });

  it('puts items under their division, their option and their list', () => {
    expect(
      partsOf(
        'BOARD 2027\n\nJUNIOR DIVISION (grades 6-8)\n* Scale: F major\n\nSENIOR DIVISION (grades 9-12)\n* Scale: D major',
      ),
    ).toEqual(['Scale [scale] for JUNIOR DIVISION', 'Scale [scale] for SENIOR DIVISION']);
    expect(
      partsOf(
        `BOARD 2027\n\nOPTION 1: KEYBOARD\n(a) ETUDE [40]. "Ebb"${ETUDE}\n\nOPTION 2: TIMPANI\n(b) ETUDE [40]. "Flow"${ETUDE}`,
      ),
    ).toEqual(['Etude [etude] for Option 1', 'Etude [etude] for Option 2']);
    expect(
      partsOf(
        'BOARD 2027\n\nLIST A\n1. Odd Marrin: Lullaby\n2. Petra Lunde: Ebb\nLIST B\n1. Jo Ferrow: Weir\n\nAural tests: 12 marks',
      ),
    ).toEqual([
      'A1 [solo] for List A',
      'A2 [solo] for List A',
      'B1 [solo] for List B',
      'Aural tests [aural]',
    ]);
  });

  it('an instrument alone on its sheet limits nothing', () => {
    expect(partsOf(`BOARD 2027\n\nV I O L I N\n\nEtude: "Ebb"${ETUDE}`)).toEqual(['Etude [etude]']);
  });

  it('takes page heads, feet and the menus of a page for nothing, and a quoted mail for its text', () => {
    const page =
      'BAND BOARD OF THE ISLES      2027      1\n\nExcerpt 1: "Ebb", mm. 1-8\n\nBAND BOARD OF THE ISLES      2027      2\n\nShare   Print   Log in';
    expect(partsOf(page)).toEqual(['Excerpt 1 [excerpt]']);
    expect(partsOf('> From: the band board, 2027\n>\n> Excerpt 1: "Ebb",\n> mm. 1-8')).toEqual([
      'Excerpt 1 [excerpt]',
    ]);
  });

  it('gives what a footnote says to the parts that carry its sign', () => {
    const { seeds } = outlineOf(
      'BOARD 2027\n\n\tFlute\tOboe\nEtude A\tno. 3*\tno. 4\nEtude B\tno. 5\tno. 6\n\n* Play the small notes.',
      () => 'p',
    );
    const noted = seeds.filter(({ evidence }) =>
      evidence.some(({ piece }) => piece.text.includes('small notes')),
    );
    expect(noted.map(({ label, place }) => [label, place.scope.instruments[0]])).toEqual([
      ['Etude A', 'Flute'],
    ]);
  });
});
