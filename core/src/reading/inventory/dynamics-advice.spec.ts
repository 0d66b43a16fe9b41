import { readMusic } from '../index.js';
import { writtenStudy } from '../testing/written-studies.js';

/** Wider readings of a printed band: common practice, no source. */
function advice(...lines: readonly string[]): string[] {
  const score = writtenStudy({ instrument: 'Flute', fifths: 0, meter: '4/4', bpm: 80 }, lines);
  return readMusic(score, { instrument: 'flute', bpm: null }).dynamicsAdvice.map(
    ({ measure, mark, why }) => `${measure ?? 'all'} ${mark ?? '–'} ${why.replace(/[:,.;].*$/u, '')}`,
  );
}

const PLAIN = 'C5 q; E5 q; D5 q; F5 q';
const plain = (count: number): string[] => Array.from({ length: count }, () => PLAIN);

describe('Advice on dynamics', () => {
  it('asks for the level at the start where none is printed, and for a shape where none is printed at all', () => {
    expect(advice(PLAIN, PLAIN)).toEqual([
      '1 mf No dynamic is printed at the start',
      'all – No dynamic is printed at all',
    ]);
    expect(advice(`C5 h; {p} D5 h`, ...plain(2), `{ff} ${PLAIN}`)[0]).toBe(
      '1 mf No dynamic is printed at the start',
    );
    expect(advice(`{p} ${PLAIN}`, ...plain(2), `{ff} ${PLAIN}`)).toEqual([]);
  });

  it('plays the softest of a narrow band softer and keeps the top for the loudest place', () => {
    expect(advice(`{mp} ${PLAIN}`, `{mf} ${PLAIN}`, `{f} ${PLAIN}`, `{mp} ${PLAIN}`)).toEqual([
      '1 p The printed band is narrow',
      '4 p The printed band is narrow',
      '3 f The printed band is narrow',
    ]);
    // Four levels are wide enough.
    expect(advice(`{p} ${PLAIN}`, `{f} ${PLAIN}`)).toEqual([]);
    expect(advice(`{mf} ${PLAIN}`, PLAIN)).toEqual(['1 mp Only mf is printed']);
    expect(advice(`{ppp} ${PLAIN}`, `{pp} ${PLAIN}`)[0]).toBe('1 ppp The printed band is narrow');
  });

  it('says where the first level comes late, though the band is wide', () => {
    expect(advice(...plain(3), `{p} ${PLAIN}`, `{ff} ${PLAIN}`, ...plain(3))).toEqual([
      '1 mf No dynamic is printed at the start',
      '4 pp The first dynamic comes late',
      '5 ff The first dynamic comes late',
    ]);
  });

  it('counts a long hairpin measure by measure up to the level it leads to, and down the same way', () => {
    expect(
      advice(
        `{p} {crescendo} ${PLAIN}`,
        ...plain(5),
        `{stop} {f} ${PLAIN}`,
        `{diminuendo} ${PLAIN}`,
        ...plain(2),
        `{stop} {p} ${PLAIN}`,
      ),
    ).toEqual([
      '1 p Step 1 of 6 of the crescendo to f',
      '2 mp Step 2 of 6 of the crescendo to f',
      '3 mp Step 3 of 6 of the crescendo to f',
      '4 mf Step 4 of 6 of the crescendo to f',
      '5 mf Step 5 of 6 of the crescendo to f',
      '6 f Step 6 of 6 of the crescendo to f',
      '8 mf Step 1 of 3 of the diminuendo to p',
      '9 mp Step 2 of 3 of the diminuendo to p',
      '10 p Step 3 of 3 of the diminuendo to p',
    ]);
  });

  it('leads a hairpin two levels on where no level of its direction follows it', () => {
    // The piano behind it is another thing, and the fortissimo comes too late to be meant.
    expect(
      advice(`{mp} {crescendo} ${PLAIN}`, PLAIN, `{stop} {p} ${PLAIN}`, PLAIN, `{ff} ${PLAIN}`).filter(
        (one) => one.includes('Step'),
      ),
    ).toEqual(['1 mf Step 1 of 2 of the crescendo to f', '2 f Step 2 of 2 of the crescendo to f']);
    // Nothing is louder than the loudest.
    expect(
      advice(`{fff} {crescendo} ${PLAIN}`, PLAIN, `{stop} ${PLAIN}`, `{p} ${PLAIN}`).filter((one) =>
        one.includes('Step'),
      ),
    ).toEqual([]);
  });

  it('lifts accents over their surroundings from the first one on', () => {
    expect(advice(`{p} ${PLAIN}`, `{f} C5 h accent; D5 h`, `C5 h strong-accent; D5 h`)).toEqual([
      '2 – Accents one level above their surroundings',
    ]);
  });
});
