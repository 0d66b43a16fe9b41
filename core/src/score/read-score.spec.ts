import { readFileSync } from 'node:fs';
import { asQuarterBpm } from '../music/index.js';
import { digestScore, readScore, soundedNotes, type ScoreDigest } from './index.js';
import { bytesOf, head, measure, metronome, note, partwise, rest, solo } from './testing/music-xml.js';
import { referenceEngine, type TimemapEntry } from './testing/verovio.js';

function digestOf(text: string, partId?: string): ScoreDigest {
  const read = readScore(bytesOf(text), { partId: partId ?? null });
  if (!read.ok) throw new Error(read.issues.map(({ message }) => message).join(' '));
  return digestScore(read.value);
}

const warnings = (digest: ScoreDigest): readonly string[] => digest.warnings.map(({ code }) => code);

describe('readScore against the MusicXML 4.0 specification', () => {
  it('counts exactly through divisions, backup, forward, chords, grace notes and a second voice', () => {
    const digest = digestOf(
      solo(
        measure(
          '1',
          head(8) +
            note('C4', 16) +
            note('E4', 16, '<chord/>') +
            note('D4', 16) +
            '<backup><duration>32</duration></backup>' +
            '<forward><duration>8</duration></forward>' +
            note('A3', 24, '<voice>2</voice>'),
        ) +
          measure(
            '2',
            '<note><grace/><pitch><step>B</step><octave>4</octave></pitch></note>' + note('C5', 32),
          ),
      ),
    );
    expect(digest.measures.map(({ quarters }) => quarters)).toEqual([4, 4]);
    expect(digest.notes.written).toEqual(['C4', 'E4', 'D4', 'A3', 'B4', 'C5']);
  });

  it('keeps printed numbers, implicit pickups and inserted measures, and counts a pickup as long as it lasts', () => {
    const digest = digestOf(
      solo(
        measure('0', head(2, '6', '8') + note('C4', 1), ' implicit="yes"') +
          measure('21', note('C4', 6)) +
          measure('22A', note('C4', 6)) +
          measure('22', note('C4', 6)),
      ),
    );
    expect(
      digest.measures.map(({ number, implicit, quarters, time }) => [number, implicit, quarters, time]),
    ).toEqual([
      ['0', true, 0.5, '6/8'],
      ['21', false, 3, '6/8'],
      ['22A', false, 3, '6/8'],
      ['22', false, 3, '6/8'],
    ]);
  });

  it('reads a dotted beat unit, a meter change and a key change in the middle', () => {
    const digest = digestOf(
      solo(
        measure('1', head(2, '6', '8') + metronome('quarter', '60', 1) + note('C4', 6)) +
          measure(
            '2',
            `<attributes><key><fifths>-3</fifths></key><time><beats>3+2</beats><beat-type>8</beat-type></time></attributes>${note('C4', 5)}`,
          ),
      ),
    );
    expect(digest.measures.map(({ quarterBpm }) => quarterBpm)).toEqual([asQuarterBpm(90), asQuarterBpm(90)]);
    expect(digest.measures[1]).toEqual(
      jasmine.objectContaining({ time: '3+2/8', fifths: -3, quarters: 2.5 }),
    );
    expect(digest.seconds.straight).toBeCloseTo((5.5 * 60) / 90, 9);
  });

  it('splits the seconds of a measure where the tempo changes inside it', () => {
    const digest = digestOf(
      solo(
        measure(
          '1',
          head() + metronome('quarter', '60') + note('C4', 8) + metronome('half', '60') + note('D4', 8),
        ),
      ),
    );
    expect(digest.seconds.straight).toBeCloseTo(2 + 1, 9);
  });

  it('takes the sounding tempo where the printed mark is empty or broken, and says so', () => {
    const digest = digestOf(solo(measure('1', head() + metronome('quarter', '', 0, '88') + note('C4', 16))));
    expect(digest.measures[0]?.quarterBpm).toBe(asQuarterBpm(88));
    expect(warnings(digest)).toEqual(['tempo-from-sound']);
  });

  it('keeps the printed tempo where the file plays another, and says so', () => {
    const digest = digestOf(
      solo(measure('1', head() + metronome('quarter', '66', 1, '66') + note('C4', 16))),
    );
    expect(digest.measures[0]?.quarterBpm).toBe(asQuarterBpm(99));
    expect(warnings(digest)).toEqual(['tempo-conflict']);
  });

  it('borrows a tempo that stands only in another part', () => {
    const file = partwise({
      P1: { name: 'Piano', measures: measure('1', head() + metronome('quarter', '72') + note('C4', 16)) },
      P2: { name: 'Oboe', measures: measure('1', head() + note('C5', 16)) },
    });
    const digest = digestOf(file);
    expect([digest.partId, digest.instrument, digest.measures[0]?.quarterBpm]).toEqual([
      'P2',
      'Oboe',
      asQuarterBpm(72),
    ]);
    expect(warnings(digest)).toEqual(['tempo-borrowed']);
    expect(digestOf(file, 'P1').instrument).toBe('Piano');
  });

  it('never makes up a tempo', () => {
    const digest = digestOf(solo(measure('1', head() + note('C4', 16))));
    expect([digest.measures[0]?.quarterBpm, digest.seconds.straight]).toEqual([null, null]);
    expect(warnings(digest)).toEqual(['tempo-unknown']);
  });

  it('warns of repeated and missing numbers', () => {
    const numbers = ['1', '2', '2', '5'].map((number, n) =>
      measure(number, (n === 0 ? head() + metronome('quarter', '60') : '') + note('C4', 16)),
    );
    expect(warnings(digestOf(solo(numbers.join(''))))).toEqual(['number-repeated', 'number-missing']);
  });

  it('joins ties across the bar line into one sounding note, transposed for a horn in F', () => {
    const transpose = '<transpose><diatonic>-4</diatonic><chromatic>-7</chromatic></transpose>';
    const digest = digestOf(
      solo(
        measure('1', head(4, '4', '4', transpose) + note('G4', 12) + note('C5', 4, '<tie type="start"/>')) +
          measure('2', note('C5', 8, '<tie type="stop"/>') + rest(8)),
      ),
    );
    expect(digest.notes).toEqual({ written: ['G4', 'C5'], sounding: ['C4', 'F4'] });
  });

  it('sounds every note by the transposition in force where it stands, for players who change instruments', () => {
    const inB = '<transpose><diatonic>-1</diatonic><chromatic>-2</chromatic></transpose>';
    const inA =
      '<attributes><transpose><diatonic>-2</diatonic><chromatic>-3</chromatic></transpose></attributes>';
    const digest = digestOf(
      solo(measure('1', head(4, '4', '4', inB) + note('D5', 16)) + measure('2', inA + note('D5', 16))),
    );
    expect(digest.notes.sounding).toEqual(['C5', 'B4']);
    expect(digest.transpose.chromatic).toBe(-2);
  });

  it('reads a timewise file like its partwise twin', () => {
    const timewise = `<score-timewise version="4.0"><part-list><score-part id="P1"><part-name>Flute</part-name></score-part></part-list><measure number="1"><part id="P1">${head()}${metronome('quarter', '60')}${note('C4', 16)}</part></measure><measure number="2"><part id="P1">${note('D4', 16)}</part></measure></score-timewise>`;
    const partwiseTwin = solo(
      measure('1', head() + metronome('quarter', '60') + note('C4', 16)) + measure('2', note('D4', 16)),
    );
    expect(digestOf(timewise)).toEqual(digestOf(partwiseTwin));
  });

  it('names the parts there are when the wanted one is not', () => {
    const read = readScore(bytesOf(solo(measure('1', head() + note('C4', 16)))), { partId: 'P9' });
    expect(read.ok ? '' : read.issues[0]?.message).toBe('The file has no part "P9"; it has P1 (Flute).');
  });
});

describe('readScore against Verovio 6.3 (timemap)', () => {
  const files = [
    ...['ferry-lines', 'glass-harbour', 'harbor-bell', 'lee-shore', 'petrel-song', 'slack-water'].map(
      (name) => `demo/studies/${name}`,
    ),
    'core/testdata/lantern-walk',
    'core/testdata/ebb-and-return',
  ];
  let play: (musicXml: string, repeats: boolean) => readonly TimemapEntry[];

  beforeAll(async () => {
    play = await referenceEngine();
  });

  for (const file of files) {
    for (const repeats of [false, true]) {
      it(`starts every measure of ${file} where Verovio does, ${repeats ? 'repeats taken' : 'straight'}`, () => {
        const text = readFileSync(new URL(`../../../${file}.musicxml`, import.meta.url), 'utf8');
        const digest = digestOf(text);
        const order = repeats ? digest.order : digest.measures.map(({ index }) => index);
        let quarterCount = 0;
        let seconds = 0;
        const ours = order.map((index) => {
          const start = { q: quarterCount, ms: seconds * 1000 };
          quarterCount += digest.measures[index]?.quarters ?? 0;
          seconds += digest.measures[index]?.seconds ?? 0;
          return start;
        });
        const theirs = play(text, repeats).filter(({ measureOn }) => measureOn !== undefined);
        expect(theirs.length).toBe(ours.length);
        theirs.forEach(({ qstamp, tstamp }, n) => {
          expect(qstamp).toBeCloseTo(ours[n]?.q ?? -1, 9);
          // The timemap rounds to whole milliseconds; the design allows 1 ms.
          expect(Math.abs(tstamp - (ours[n]?.ms ?? -1000))).toBeLessThanOrEqual(1);
        });
      });
    }

    // Verovio switches a tied note on again; MusicXML's tie joins it to the one before, so printed notes are compared.
    it(`finds as many printed notes in ${file} as Verovio switches on`, () => {
      const text = readFileSync(new URL(`../../../${file}.musicxml`, import.meta.url), 'utf8');
      const switchedOn = play(text, false).reduce((count, entry) => count + (entry.on?.length ?? 0), 0);
      const read = readScore(bytesOf(text));
      const printed = read.ok ? soundedNotes(read.value).map((sounded) => sounded.printed) : [];
      expect(printed.reduce((sum, count) => sum + count, 0)).toBe(switchedOn);
    });
  }
});
