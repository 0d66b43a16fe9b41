import { addQuarters, midiOf, toNumber } from '../../music/index.js';
import { readMusic, soloLine } from '../index.js';
import { readScore, soundedNotes, type Score } from '../../score/index.js';
import {
  bytesOf,
  head,
  measure,
  metronome,
  note,
  partwise,
  rest,
  solo,
} from '../../score/testing/music-xml.js';
import { referenceEngine, type TimemapEntry } from '../../score/testing/verovio.js';

function scoreOf(xml: string, partId: string | null = null): Score {
  const read = readScore(bytesOf(xml), { partId });
  if (!read.ok) throw new Error(read.issues.map(({ message }) => message).join(' '));
  return read.value;
}

/** Where every printed note begins, grace notes and rests left out. Units: quarters. */
function onsets({ measures, notes }: Score): number[] {
  return notes
    .filter(({ isRest, isGrace }) => !isRest && !isGrace)
    .map(({ measureIndex, onset }) => toNumber(addQuarters(measures[measureIndex]?.start ?? onset, onset)))
    .sort((a, b) => a - b);
}

const QUARTER = '<type>quarter</type>';
const tie = (type: 'start' | 'stop'): string => `<tie type="${type}"/>`;
const tied = (type: 'start' | 'stop'): string => `<notations><tied type="${type}"/></notations>`;

const inTime = (actual: number, normal: number): string =>
  `<time-modification><actual-notes>${actual}</actual-notes><normal-notes>${normal}</normal-notes></time-modification>`;
const tuplet = (type: 'start' | 'stop', number: number): string =>
  `<notations><tuplet type="${type}" number="${number}"/></notations>`;

/** Every case is one measure's or a few measures' worth of what notation programs export for solo parts. */
const CASES: Readonly<Record<string, string>> = {
  'nested tuplets: a triplet of eighths within a triplet of quarters': solo(
    measure(
      '1',
      head(18, '2', '4') +
        note('C5', 12, '<type>quarter</type>' + inTime(3, 2) + tuplet('start', 1)) +
        note('D5', 4, '<type>eighth</type>' + inTime(9, 4) + tuplet('start', 2)) +
        note('E5', 4, '<type>eighth</type>' + inTime(9, 4)) +
        note('F5', 4, '<type>eighth</type>' + inTime(9, 4) + tuplet('stop', 2)) +
        note('G5', 12, '<type>quarter</type>' + inTime(3, 2) + tuplet('stop', 1)),
    ),
  ),
  'double dots': solo(
    measure(
      '1',
      head(8) +
        note('C5', 14, '<type>quarter</type><dot/><dot/>') +
        note('D5', 2, '<type>16th</type>') +
        note('E5', 16, '<type>half</type>'),
    ),
  ),
  'ties over bar lines, over a key and a meter change': solo(
    measure('1', head(1) + note('C5', 4, tie('start') + '<type>whole</type>' + tied('start'))) +
      measure(
        '2',
        '<attributes><key><fifths>2</fifths></key><time><beats>3</beats><beat-type>4</beat-type></time></attributes>' +
          note(
            'C5',
            3,
            tie('stop') +
              tie('start') +
              '<type>half</type><dot/>' +
              '<notations><tied type="stop"/><tied type="start"/></notations>',
          ),
      ) +
      measure('3', note('C5', 1, tie('stop') + QUARTER + tied('stop')) + note('D5', 2, '<type>half</type>')),
  ),
  'two voices and a backup': solo(
    measure(
      '1',
      head(2) +
        note('C5', 4, '<voice>1</voice><type>half</type>') +
        note('D5', 4, '<voice>1</voice><type>half</type>') +
        '<backup><duration>8</duration></backup>' +
        note('E4', 2, `<voice>2</voice>${QUARTER}`) +
        '<forward><duration>2</duration><voice>2</voice></forward>' +
        note('F4', 4, '<voice>2</voice><type>half</type>'),
    ),
  ),
  'a roll on an unpitched drum and a tremolo': solo(
    measure(
      '1',
      head(2) +
        '<note><unpitched><display-step>C</display-step><display-octave>5</display-octave></unpitched><duration>4</duration><type>half</type><notations><ornaments><tremolo type="single">3</tremolo></ornaments></notations></note>' +
        note(
          'C5',
          4,
          '<type>half</type><notations><ornaments><tremolo type="single">2</tremolo></ornaments></notations>',
        ),
    ),
  ),
  'clef and octave changes: the written pitch stays what it is': solo(
    measure(
      '1',
      head(1, '4', '4', '<clef><sign>G</sign><line>2</line></clef>') +
        note('C5', 2, '<type>half</type>') +
        '<attributes><clef><sign>F</sign><line>4</line></clef></attributes>' +
        '<direction><direction-type><octave-shift type="down" size="8"/></direction-type></direction>' +
        note('C6', 2, '<type>half</type>') +
        '<direction><direction-type><octave-shift type="stop" size="8"/></direction-type></direction>',
    ),
  ),
  'a multi-measure rest, written measure by measure': solo(
    measure(
      '1',
      head(1) +
        '<attributes><measure-style><multiple-rest>3</multiple-rest></measure-style></attributes>' +
        '<note><rest measure="yes"/><duration>4</duration></note>',
    ) +
      ['2', '3']
        .map((number) => measure(number, '<note><rest measure="yes"/><duration>4</duration></note>'))
        .join('') +
      measure('4', note('C5', 4, '<type>whole</type>')),
  ),
  'sixteenths in 5/8, additive': solo(
    measure(
      '1',
      head(2, '3+2', '8') +
        ['C5', 'D5', 'E5', 'F5', 'G5'].map((pitch) => note(pitch, 1, '<type>eighth</type>')).join(''),
    ),
  ),
};

describe('What a solo part uses', () => {
  let play: (musicXml: string, repeats: boolean) => readonly TimemapEntry[];

  beforeAll(async () => {
    play = await referenceEngine();
  });

  for (const [name, xml] of Object.entries(CASES))
    it(`begins every note where Verovio 6.3 does: ${name}`, () => {
      const theirs = play(xml, false).flatMap(({ qstamp, on }) => (on ?? []).map(() => qstamp));
      const ours = onsets(scoreOf(xml));
      expect(ours.length).toBe(theirs.length);
      theirs.sort((a, b) => a - b).forEach((start, n) => expect(ours[n]).toBeCloseTo(start, 6));
    });

  it('joins ties across a meter and key change to one sounding note', () => {
    const sounded = soundedNotes(scoreOf(CASES['ties over bar lines, over a key and a meter change'] ?? ''));
    expect(sounded.map(({ length, printed }) => [toNumber(length), printed])).toEqual([
      [8, 3],
      [2, 1],
    ]);
  });

  // MusicXML 4.0, element octave-shift: pitches are not changed by it; nor by a clef.
  it('keeps pitches under clefs and octave lines', () => {
    const { notes } = scoreOf(CASES['clef and octave changes: the written pitch stays what it is'] ?? '');
    expect(notes.map(({ written }) => written && midiOf(written))).toEqual([72, 84]);
  });

  // MusicXML 4.0, element grace: no duration, whatever stealing is noted; Verovio gives them time, the specification decides.
  it('takes no time for grace notes, slashed or not, stealing from before or after', () => {
    const grace = (slash: string, steal: string): string =>
      `<note><grace slash="${slash}" ${steal}/><pitch><step>B</step><octave>4</octave></pitch><voice>1</voice><type>eighth</type></note>`;
    const xml = solo(
      measure(
        '1',
        head(1) +
          grace('yes', 'steal-time-previous="20"') +
          note('C5', 2) +
          grace('no', 'steal-time-following="50"') +
          note('D5', 2),
      ),
    );
    expect(onsets(scoreOf(xml))).toEqual([0, 2]);
    const { ornaments } = readMusic(scoreOf(xml), { instrument: 'flute', bpm: 96 });
    expect(ornaments.map(({ kind }) => kind)).toEqual(['grace-slashed', 'grace']);
  });

  it('reads tremolos and rolls as ornaments, and a drum part without pitches', () => {
    const read = readMusic(scoreOf(CASES['a roll on an unpitched drum and a tremolo'] ?? ''), {
      instrument: 'snare drum',
      bpm: 96,
    });
    expect(read.ornaments.map(({ kind, note: on }) => `${kind} ${on}`)).toEqual([
      'tremolo unpitched',
      'tremolo C5',
    ]);
  });

  it('picks the solo part of a score with piano whose voices cross the staves', () => {
    const piano =
      head(1, '4', '4', '<staves>2</staves>') +
      note('C3', 4, '<voice>1</voice><staff>2</staff>') +
      '<backup><duration>4</duration></backup>' +
      note('G5', 2, '<voice>2</voice><staff>1</staff>') +
      note('E3', 2, '<voice>2</voice><staff>2</staff>');
    const xml = partwise({
      P1: { name: 'Piano', measures: measure('1', piano) },
      P2: { name: 'Oboe', measures: measure('1', head(1) + note('A4', 2) + note('B4', 2)) },
    });
    const read = readScore(bytesOf(xml), { partId: null, instrument: 'oboe' });
    expect(read.ok && read.value.notes.map(({ written }) => written?.step)).toEqual(['A', 'B']);
    const line = soloLine(scoreOf(xml, 'P1'));
    // The voice with the highest note of the measure leads.
    expect(line.notes.map(({ midi }) => midi)).toEqual([79, 52]);
  });

  it('counts a measure as long as its longest voice and an empty one as its meter', () => {
    const { measures } = scoreOf(
      solo(measure('1', head(1, '3', '4') + note('C5', 3)) + measure('2', '') + measure('3', rest(3))),
    );
    expect(measures.map(({ length }) => toNumber(length))).toEqual([3, 3, 3]);
  });

  it('passes over elements it does not know, anywhere', () => {
    const odd = '<sprinkles kind="many"><inner/></sprinkles>';
    const xml = solo(
      measure('1', head(1) + odd + metronome('quarter', '96') + note('C5', 4, odd) + odd),
    ).replace('<part-list>', `${odd}<part-list>`);
    expect(onsets(scoreOf(xml))).toEqual([0]);
  });
});
