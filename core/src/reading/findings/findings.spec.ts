import { readFileSync } from 'node:fs';
import { inVocabulary, midiOf, parsePitch } from '../../music/index.js';
import { readScore, type Span, type Score } from '../../score/index.js';
import { drawnNotes } from '../../score/testing/verovio.js';
import { bytesOf, head, measure, metronome, note, rest, solo } from '../../score/testing/music-xml.js';
import {
  compareEditions,
  differingNotes,
  engravedNotes,
  findingsOf,
  followedSpan,
  followMusic,
  inFamilyWords,
  instrumentProfile,
  matchMarks,
  measureFacts,
  measurePrints,
  pinKey,
  readMusic,
  shortRhythm,
  soloLine,
  spanFacts,
  withPin,
  type Finding,
} from '../index.js';
import { pairRules } from '../demands/awkward-pairs.js';
import { readOrnamentRule } from './ornament-rules.js';
import { beamed, copyOf, plainStudy, scoreOf, type Study } from '../testing/planted-studies.js';
import { writtenStudy } from '../testing/written-studies.js';

const SEEDS = Array.from({ length: 25 }, (_, n) => n + 1);

function findings(score: Score, instrument = 'clarinet'): Finding[] {
  return findingsOf(score, soloLine(score), { reading: readMusic(score, { instrument, bpm: null }) });
}

function scoreOfXml(xml: string): Score {
  const read = readScore(bytesOf(xml), { partId: null });
  if (!read.ok) throw new Error(read.issues.map(({ message }) => message).join(' '));
  return read.value;
}

const EXPORTS = ['lantern-walk', 'ebb-and-return'];
const fileOf = (name: string): Uint8Array =>
  readFileSync(new URL(`../../../testdata/${name}.musicxml`, import.meta.url));

/** A study with a return that is not the same, an accidental that stands once, and a lost accent. */
function trapped(seed: number): Study {
  const study = plainStudy(seed, { measures: 24 });
  const [source, off] = [study.measures[2], study.measures[9]?.notes[1]];
  if (!source || !off) throw new Error('a study has measures');
  const copy = copyOf(source);
  const moved = copy.notes[1];
  if (moved) moved.place += 1;
  study.measures[14] = copy;
  off.off = 1;
  for (let n = 17; n < 24; n += 1) {
    const downbeat = study.measures[n]?.notes[0];
    if (downbeat && n !== 20) downbeat.articulation = 'accent';
  }
  return study;
}

/** The same study with one more measure in front: every number moves on by one. */
function withOneMore(study: Study): Study {
  return {
    ...study,
    measures: [
      { notes: [{ place: 30, off: 0, quarters: 1, articulation: null }], hairpinFrom: null },
      ...study.measures,
    ],
  };
}

describe('Findings', () => {
  it('name planted traps with measure, note and the pair to be seen side by side', () => {
    for (const seed of SEEDS) {
      const all = findings(scoreOf(trapped(seed)));
      const back = all.find(({ kind, places }) => kind === 'return' && places.includes(14));
      expect(back?.pair)
        .withContext(`seed ${seed}`)
        .toEqual({
          a: { fromIndex: 2, endIndex: 3 },
          b: { fromIndex: 14, endIndex: 15 },
          aNotes: [{ index: 2, note: 2 }],
          bNotes: [{ index: 14, note: 2 }],
        });
      expect(back?.notes).toContain({ index: 14, note: 2 });
      expect(all.some(({ kind, notes }) => kind === 'odd-one-out' && notes[0]?.index === 20)).toBeTrue();
      expect(all[0]?.kind).toBe('deciding');
    }
  });

  it('are in order of importance and each has an id of its own', () => {
    for (const seed of SEEDS) {
      const all = findings(scoreOf(trapped(seed)));
      expect(new Set(all.map(({ id }) => id)).size).toBe(all.length);
      const order = all.map(({ importance }) => importance);
      expect(order).toEqual([...order].sort((a, b) => b - a));
    }
  });

  it('name the places that stand in lantern-walk by construction: E♭ twice in 11, B♮ only in 7, the double dot in 15', () => {
    const score = scoreOfXml(new TextDecoder().decode(fileOf('lantern-walk')));
    const all = findings(score);
    const at = (kind: string): string[] => all.filter((one) => one.kind === kind).map(({ title }) => title);
    expect(at('rare-note')).toEqual(['The only B♮ in the piece.', 'E♭ comes twice.']);
    expect(all.find(({ kind }) => kind === 'double-dot')?.places).toEqual([14]);
    expect(all.find(({ kind }) => kind === 'return')?.sentence).toBe(
      'Measures 5–7 come back to 1–3 and leave them at 7. In 7, not as in 3: note 2 is B4, not B♭4; note 3 is C♯5, not C5.',
    );
  });

  it('speak of bars and crotchets where the studio does', () => {
    const words = [
      ...SEEDS.map((seed) => scoreOf(trapped(seed))),
      scoreOfXml(new TextDecoder().decode(fileOf('lantern-walk'))),
    ]
      .flatMap((score) => findings(score))
      .map(({ title, sentence }) => inVocabulary(`${title} ${sentence}`, 'uk'))
      .join(' ');
    expect(words).toContain('crotchet');
    expect(words).not.toMatch(/measure|quarter|eighth|sixteenth/iu);
  });
});

describe('A study read backwards, measure by measure', () => {
  const backwards = (study: Study): Study => ({ ...study, measures: study.measures.toReversed() });

  it('has its traps in the mirrored places', () => {
    // A measure that is more alike to another by chance is paired with that one: one in ten may be.
    const both = SEEDS.filter((seed) => {
      const study = plainStudy(seed, { measures: 24, meter: '6/8' });
      const [source, place] = [study.measures[4], 10 + (seed % 8)];
      if (!source) throw new Error('a study has measures');
      const copy = copyOf(source);
      const moved = copy.notes[1];
      if (moved) moved.place += 2;
      study.measures[20] = copy;
      study.measures[place] = { notes: beamed([35, 36, 37, 36, 38, 37], 2), hairpinFrom: null };
      const traps = (one: Study): string[] => {
        const { nearRepeats, meterTraps } = readMusic(scoreOf(one), { instrument: null, bpm: null });
        expect(meterTraps.length).toBe(1);
        return [
          ...nearRepeats.map(({ a, b }) => `${a}~${b}`),
          ...meterTraps.map(({ measures }) => measures.join()),
        ];
      };
      const [there, back] = [traps(study), traps(backwards(study))];
      expect([there.includes(String(place + 1)), back.includes(String(24 - place))]).toEqual([true, true]);
      return there.includes('5~21') && back.includes('4~20');
    });
    expect(both.length).toBeGreaterThanOrEqual(SEEDS.length * 0.9);
  });

  it('has none where none was planted', () => {
    for (const seed of SEEDS) {
      const { surprises, oddOnesOut, meterTraps } = readMusic(scoreOf(backwards(plainStudy(seed))), {
        instrument: null,
        bpm: null,
      });
      expect([surprises, oddOnesOut, meterTraps]).withContext(`seed ${seed}`).toEqual([[], [], []]);
    }
  });
});

describe('Marks on findings', () => {
  it('stay with every measure of a corrected file that is still the same, whatever its number', () => {
    for (const seed of SEEDS) {
      const before = scoreOf(trapped(seed));
      const marks = findings(before).map(({ key, places, kind, title }) => ({
        key,
        kind,
        title,
        measure: before.measures[places[0] ?? 0]?.number ?? '',
      }));
      const study = trapped(seed);
      const changed = study.measures[9]?.notes[0];
      if (changed) changed.place -= 2;
      const after = scoreOf(withOneMore(study));
      const matched = matchMarks(findings(after), marks, (index) => after.measures[index]?.number ?? '');
      for (const finding of findings(after)) {
        const mark = matched.get(finding.id);
        if (mark) expect(mark.kind).toBe(finding.kind);
        // What was found in measures that did not change keeps its mark: the return at 15, now 16, and the accent.
        const isKept =
          ['return', 'odd-one-out'].includes(finding.kind) &&
          finding.places.some((p) => p === 15 || p === 21);
        if (isKept) expect(mark).withContext(`seed ${seed} ${finding.title}`).toBeDefined();
        if (finding.places.includes(10) && finding.kind === 'rare-note') expect(mark).toBeUndefined();
      }
    }
  });

  it('of two findings alike belong to the one with the same number', () => {
    const tune = note('C5', 4) + note('D5', 4) + note('F#5', 4) + note('E5', 4);
    const plain = note('C5', 4) + note('D5', 4) + note('E5', 8);
    const body = [tune, plain, plain, tune].map((own, n) =>
      measure(String(n + 1), (n === 0 ? head() : '') + own),
    );
    const score = scoreOfXml(solo(body.join('')));
    const [first] = findings(score);
    if (!first) throw new Error('a score has findings');
    const twins: Finding[] = [
      { ...first, id: 'x', key: 'k', places: [0] },
      { ...first, id: 'x~1', key: 'k', places: [3] },
    ];
    const number = (index: number): string => String(index + 1);
    const mark = { key: 'k', measure: '4' };
    expect([...matchMarks(twins, [mark], number)]).toEqual([['x~1', mark]]);
    const moved = { key: 'k', measure: '9' };
    expect([...matchMarks(twins, [moved, mark], number).keys()].sort()).toEqual(['x', 'x~1']);
  });
});

describe('A pinned measure', () => {
  it('decides instead of the one that was read, and follows its music into a corrected file', () => {
    const score = scoreOf(trapped(2));
    const line = soloLine(score);
    const reading = readMusic(score, { instrument: 'clarinet', bpm: null });
    const facts = measureFacts(score, line, { reading, bpm: null });
    const prints = measurePrints(score, line);
    const pin = { key: pinKey(prints[6] ?? ''), measure: '7' };
    const pinned = withPin(findingsOf(score, line, { reading }), {
      pin,
      prints,
      facts,
      numberOf: (index) => String(index + 1),
    });
    expect(pinned.map(({ kind }) => kind).filter((kind) => kind === 'deciding')).toHaveSize(1);
    expect(pinned[0]).toEqual(
      jasmine.objectContaining({ title: 'Measure 7 decides the tempo.', places: [6] }),
    );
    const later = withPin(findingsOf(score, line, { reading }), {
      pin,
      prints: ['x', ...prints],
      facts,
      numberOf: (index) => String(index),
    });
    expect(later[0]?.places).toEqual([7]);
    const gone = withPin(findingsOf(score, line, { reading }), {
      pin: { key: 'deciding:0', measure: '7' },
      prints,
      facts,
      numberOf: String,
    });
    expect(gone).toEqual(findingsOf(score, line, { reading }));
  });
});

describe('A rhythm in short', () => {
  it('counts equal values in a row', () => {
    expect(shortRhythm('eighth, eighth, quarter')).toBe('2 eighths, quarter');
    expect(shortRhythm('dotted half, half, half')).toBe('dotted half, 2 halves');
  });
});

describe('Ornament findings', () => {
  const score = writtenStudy({ instrument: 'Oboe', fifths: 1, meter: '4/4', bpm: 72 }, [
    'B4 q trill-mark; C#5 q !#; B4 q trill-mark; E5 q turn',
    'F#5 h mordent; G5 h',
  ]);
  const said = (...rules: string[]): string[] =>
    findingsOf(score, soloLine(score), {
      reading: readMusic(score, { instrument: null, bpm: null }),
      ornamentRules: rules,
    })
      .filter(({ kind }) => kind === 'ornament')
      .map(({ title, sentence }) => `${title} ${sentence}`);

  it('say what makes the neighbour what it is', () => {
    expect(said()).toEqual([
      'Trill with C. On B the key gives C as the neighbour; the sheet’s own rule comes first.',
      'Trill with C♯. On B the neighbour is C♯, which stands earlier in the measure; the sheet’s own rule comes first.',
      'Turn with F♯ and D. On E the key gives F♯ as the neighbour, and D on the other side; the sheet’s own rule comes first.',
      'Mordent with E. On F♯ the key gives E as the neighbour; the sheet’s own rule comes first.',
    ]);
  });

  it('follow what the sheet says of their note, else of their kind', () => {
    const [first, second, turn, mordent] = said('Trill on B: C natural.', 'Trills start on the main note.');
    expect(first).toBe(
      'Trill with C. On B the key gives C as the neighbour. The sheet says: “Trill on B: C natural.”',
    );
    expect(second).toContain('Trill with C. On B the neighbour is C♯');
    expect(turn).toContain('the sheet’s own rule comes first');
    expect(mordent).toContain('the sheet’s own rule comes first');
    expect(said('Play every ornament before the beat.')[3]).toContain(
      'The sheet says: “Play every ornament before the beat.”',
    );
  });

  it('read the note and the neighbour that a rule names (phrases of common practice, no source)', () => {
    const pair = (text: string): (string | null)[] => {
      const { note: on, neighbour } = readOrnamentRule(text);
      return [on, neighbour];
    };
    expect(pair('Trill on B: C natural.')).toEqual(['B', 'C']);
    expect(pair('In measure 14, trill from E♭ to F.')).toEqual(['Eb', 'F']);
    expect(pair('The trill on E uses F sharp throughout')).toEqual(['E', 'F#']);
    expect(pair('Trill the A with B-flat')).toEqual(['A', 'Bb']);
    expect(pair('Begin each trill on the note above, in the key.')).toEqual([null, null]);
    expect(pair('Trills at letter B to be played without an ending')).toEqual([null, null]);
  });
});

describe('Readings in the words of an instrument (common practice, no source)', () => {
  const text =
    '7.2 tongued notes a second; note 2 is tongued, not accent; settle where to breathe or let go; keep breaths and fingerings the same.';
  const said = (instrument: string): string => inFamilyWords(text, instrumentProfile(instrument));

  it('tongue and breathe with a wind instrument', () => {
    for (const one of ['Clarinet in B♭', 'Bass Trombone', 'Alto Saxophone']) expect(said(one)).toBe(text);
  });

  it('bow, pluck, strike, press and sing with the others', () => {
    expect(said('Violoncello')).toBe(
      '7.2 bowed notes a second; note 2 is bowed, not accent; settle where the bow lifts; keep bowings and fingerings the same.',
    );
    expect(said('Guitar')).toContain('7.2 plucked notes a second; note 2 is plucked');
    expect(said('Snare Drum')).toBe(
      '7.2 strokes a second; note 2 is plain, not accent; settle where the hands let go; keep stickings the same.',
    );
    expect(said('Marimba')).toContain('keep stickings the same');
    const graces = 'note 1 has a slashed grace note; note 3 has a grace note, grace note, accent';
    expect(inFamilyWords(graces, instrumentProfile('Snare Drum'))).toBe(
      'note 1 has a flam; note 3 has a drag, accent',
    );
    expect(inFamilyWords(graces, instrumentProfile('Xylophone'))).toBe(graces);
    expect(said('Piano')).toContain('7.2 separate notes a second');
    expect(said('Mezzo-soprano')).toContain('note 2 is sung apart, not accent; settle where to breathe');
  });
});

describe('Notes that differ', () => {
  it('are counted in each measure by itself, behind an added and a missing note too', () => {
    const differences = [
      { note: 1, what: 'missing' as const },
      { note: 2, what: 'pitch' as const },
      { note: 4, what: 'added' as const },
      { note: 5, what: 'articulation' as const },
      { note: 0, what: 'dynamic' as const },
    ];
    expect(differingNotes(differences)).toEqual({ a: [1, 3, 5], b: [2, 4, 5] });
  });
});

describe('Beat to feel', () => {
  const at = (beats: string, beatType: string, unit: string, bpm: string, dots = 0) =>
    readMusic(
      scoreOfXml(
        solo(
          measure(
            '1',
            head(4, beats, beatType) +
              metronome(unit, bpm, dots) +
              note('C5', (Number(beats) * 16) / Number(beatType)),
          ),
        ),
      ),
      { instrument: 'flute', bpm: null },
    ).beatToFeel.map(({ unit: felt, bpm: feltBpm }) => `${felt} ${feltBpm}`);

  // Common practice, no source: a fast waltz goes in one, a fast cut measure in two, a slow compound one in its eighths.
  it('is a whole measure in a fast 3/4, two beats together in a fast 4/4', () => {
    expect(at('3', '4', 'quarter', '184')).toEqual(['dotted half 61']);
    expect(at('4', '4', 'quarter', '176')).toEqual(['half 88']);
  });
  it('is the eighth in a slow 6/8 and in a slow 4/4', () => {
    expect(at('6', '8', 'quarter', '40', 1)).toEqual(['eighth 120']);
    expect(at('4', '4', 'quarter', '40')).toEqual(['eighth 80']);
  });
  it('is the printed beat at moderate tempos', () => {
    expect(at('4', '4', 'quarter', '96')).toEqual([]);
    expect(at('6', '8', 'quarter', '66', 1)).toEqual([]);
  });
});

describe('Awkward pairs', () => {
  // Fingering charts, from memory: throat A and the B above it change nearly every finger of the clarinet.
  it('are found for the instrument whose fingers they concern, in both directions, not across a rest', () => {
    const xml = solo(
      measure('1', head() + note('A4', 4) + note('B4', 4) + note('A4', 4) + rest(2) + note('B4', 2)),
    );
    const pairs = (instrument: string) =>
      readMusic(scoreOfXml(xml), { instrument, bpm: 96 }).awkwardPairs.map(
        ({ note: at, from, to }) => `${at} ${from} ${to}`,
      );
    expect(pairs('clarinet')).toEqual(['1 A4 B4', '2 B4 A4']);
    expect(pairs('violin')).toEqual([]);
    const [own] = readMusic(scoreOfXml(xml), { instrument: 'clarinet', bpm: 96 }).demands;
    // At 0.625 s a note each counts for what is left of a quarter of a second.
    expect(own?.facts.awkward).toBeCloseTo(2 * (0.25 / 0.625), 6);
  });

  const midi = (name: string): number => {
    const pitch = parsePitch(name);
    if (!pitch) throw new Error(name);
    return midiOf(pitch);
  };
  const isAwkward = (instrument: string, a: number, b: number): boolean =>
    pairRules(instrument).has(`${Math.min(a, b)} ${Math.max(a, b)}`);

  // The chart of slide positions without a valve, from memory: the first gives F3 and B♭2, a half tone lower is a position on; octaves have nearer ones.
  it('are far apart on the trombone’s slide, by its positions', () => {
    const position = new Map<number, number>();
    for (const partial of ['F3', 'Bb2'])
      for (let n = 0; n < 7; n += 1) position.set(midi(partial) - n, n + 1);
    for (const [a, at] of position)
      for (const [b, to] of position)
        if (a < b)
          expect(isAwkward('trombone', a, b))
            .withContext(`${a} in ${at}, ${b} in ${to}`)
            .toBe(Math.abs(at - to) >= 5 && b - a < 12);
  });

  // Tunings of the strings, a fact of the trade: a stopped fifth lies under one finger, a tritone does not, an open string needs none.
  it('lie under one finger on two strings where they are a fifth, and only there', () => {
    const tunings: readonly (readonly [string, readonly string[]])[] = [
      ['violin', ['G3', 'D4', 'A4', 'E5']],
      ['viola', ['C3', 'G3', 'D4', 'A4']],
      ['cello', ['C2', 'G2', 'D3', 'A3']],
    ];
    for (const [instrument, strings] of tunings) {
      const open = new Set(strings.map(midi));
      const low = Math.min(...open);
      for (let a = low; a < Math.max(...open); a += 1)
        for (const interval of [5, 6, 7, 8])
          expect(isAwkward(instrument, a, a + interval))
            .withContext(`${instrument} ${a} ${interval}`)
            .toBe(interval === 7 && !open.has(a));
    }
  });

  // Fingering charts, from memory: each pair beside a neighbour that needs no thought.
  it('are those of the fingering charts, and not their easy neighbours', () => {
    const cases: readonly (readonly [string, string, string])[] = [
      ['trumpet', 'F4 F#4, Bb4 B4, D4 Eb4', 'Ab4 Eb4, G4 C5'],
      ['clarinet', 'B4 C5, C5 C#5, B4 D#5, E3 F3, A5 Bb5', 'C4 D4, G5 A5'],
      ['saxophone', 'D6 Eb6, A4 Bb4, B4 C5, C4 Eb4', 'G4 A4, D4 E4'],
      ['bassoon', 'D3 A3, Eb3 C4, F#3 G#3, Bb1 C2', 'C3 D3, B2 C3'],
      ['oboe', 'Eb5 E5, D5 F5', 'G4 A4, A4 B4'],
      ['flute', 'E6 F#6, C5 D5', 'G4 A4, E5 F5'],
    ];
    for (const [instrument, yes, no] of cases)
      for (const [list, expected] of [
        [yes, true],
        [no, false],
      ] as const)
        for (const pair of list.split(', ')) {
          const [a, b] = pair.split(' ').map(midi) as [number, number];
          expect(isAwkward(instrument, a, b))
            .withContext(`${instrument} ${pair}`)
            .toBe(expected);
        }
  });
});

describe('Two editions', () => {
  it('agree with themselves', () => {
    for (const seed of SEEDS)
      expect(compareEditions(scoreOf(trapped(seed)), scoreOf(trapped(seed)))).toEqual([]);
  });

  it('differ in exactly the measures that were changed, also behind an inserted and a missing one', () => {
    for (const seed of SEEDS) {
      const study = trapped(seed);
      const other = trapped(seed);
      const note = other.measures[4]?.notes[2];
      if (note) note.place += 1;
      const sign = other.measures[18]?.notes[1];
      if (sign) sign.articulation = 'tenuto';
      other.measures.splice(11, 1);
      other.measures.splice(7, 0, {
        notes: [...(plainStudy(seed + 500, { measures: 1 }).measures[0]?.notes ?? [])].map((one) => ({
          ...one,
          place: one.place + 9,
        })),
        hairpinFrom: null,
      });
      const found = compareEditions(scoreOf(study), scoreOf(other));
      const places = found.map(({ aIndex, bIndex }) => `${aIndex ?? '-'}:${bIndex ?? '-'}`);
      // In a the changed measures are 4 and 18, 11 is missing in b; in b 7 is new.
      expect(places).withContext(`seed ${seed}`).toEqual(['4:4', '-:7', '11:-', '18:18']);
      expect(found[0]?.differences.map(({ what, note: at }) => `${what} ${at}`)).toEqual(['pitch 3']);
      expect(found[3]?.differences.map(({ what, b }) => `${what} ${b}`)).toEqual(['articulation tenuto']);
    }
  });

  it('let a span follow its music past what was put in, taken out and corrected', () => {
    for (const seed of SEEDS) {
      const study = trapped(seed);
      const other = trapped(seed);
      const note = other.measures[16]?.notes[0];
      if (note) note.place += 1;
      other.measures.splice(20, 1);
      other.measures.splice(5, 0, ...plainStudy(seed + 500, { measures: 2 }).measures);
      const music = followMusic(scoreOf(study), scoreOf(other));
      const follow = (span: Span): Span | null => followedSpan(music, span);
      const at = (fromIndex: number, endIndex: number): readonly (number | undefined)[] => {
        const found = follow({ fromIndex, endIndex });
        return [found?.fromIndex, found?.endIndex];
      };
      // Two measures come before 5, 20 is gone: before them nothing moves, behind both all moves by one.
      expect([at(0, 4), at(6, 10), at(15, 18), at(21, 24)])
        .withContext(`seed ${seed}`)
        .toEqual([
          [0, 4],
          [8, 12],
          [17, 20],
          [22, 25],
        ]);
      expect(at(3, 7)).toEqual([3, 9]);
      expect(at(20, 21)).toEqual([undefined, undefined]);
    }
  });

  it('leave a span alone in another piece', () => {
    for (const seed of SEEDS) {
      const music = followMusic(scoreOf(trapped(seed)), scoreOf(plainStudy(seed + 900, { measures: 24 })));
      const follow = (span: Span): Span | null => followedSpan(music, span);
      expect(follow({ fromIndex: 8, endIndex: 16 }))
        .withContext(`seed ${seed}`)
        .toBeNull();
    }
  });

  it('tell another meter and key once, where they begin', () => {
    const body = (key: string) =>
      Array.from({ length: 3 }, (_, n) =>
        measure(
          String(n + 1),
          (n === 0 ? head().replace('<fifths>0', `<fifths>${key}`) : '') + note('C5', 16),
        ),
      ).join('');
    const found = compareEditions(scoreOfXml(solo(body('0'))), scoreOfXml(solo(body('-2'))));
    expect(found.map(({ a, differences }) => [a, differences.map(({ what, b }) => `${what} ${b}`)])).toEqual([
      ['1', ['key 2 flats']],
    ]);
  });
});

describe('Notes on paper', () => {
  it('stand in the order and number in which Verovio 6.3 draws them, measure by measure', async () => {
    const drawn = await drawnNotes();
    for (const name of EXPORTS) {
      const text = new TextDecoder().decode(fileOf(name));
      const score = scoreOfXml(text);
      const own = engravedNotes(score, soloLine(score)).map((notes) =>
        notes.map((one) => one.name?.[0] ?? 'x').join(''),
      );
      expect(own).withContext(name).toEqual(drawn(text));
    }
  });

  it('are drawn with cue notes and hidden ones between them, which nobody reads as played', async () => {
    const drawn = await drawnNotes();
    const cue = (pitch: string): string =>
      note(pitch, 4, '<voice>1</voice><type>quarter</type>').replace('<note>', '<note><cue/>');
    const hidden = (pitch: string): string =>
      note(pitch, 4, '<voice>2</voice><type>quarter</type>').replace('<note>', '<note print-object="no">');
    const own = (pitch: string, voice = '1'): string =>
      note(pitch, 4, `<voice>${voice}</voice><type>quarter</type>`);
    const xml = solo(
      measure('1', head(4) + cue('A5') + cue('B5') + own('C5') + own('D5')) +
        // What sounds in playback only is the highest here.
        measure(
          '2',
          ['E5', 'F5', 'G5', 'E5'].map((pitch) => own(pitch)).join('') +
            '<backup><duration>16</duration></backup>' +
            ['A6', 'B6', 'A6', 'B6'].map((pitch) => hidden(pitch)).join(''),
        ) +
        measure('3', own('C5') + cue('G5') + cue('A5') + own('D5')),
    );
    const score = scoreOfXml(xml);
    const line = soloLine(score);
    expect(line.notes.map(({ written }) => written?.step).join('')).toBe('CDEFGECD');
    expect(readMusic(score, { instrument: 'flute', bpm: null }).range.written).toEqual({
      low: 'C5',
      high: 'G5',
    });
    const all = engravedNotes(score, line).map((notes) => notes.map(({ name }) => name ?? '.').join(''));
    expect(all).toEqual(['..CD', 'EFGE....', 'C..D']);
    const letters = drawn(xml);
    expect(letters).toEqual(['ABCD', 'EFGEABAB', 'CGAD']);
  });

  it('carry the ordinal that findings speak of', () => {
    const score = scoreOf(trapped(3));
    const all = engravedNotes(score, soloLine(score));
    for (const { notes } of findings(score))
      for (const { index, note: at } of notes) expect(all[index]?.some((one) => one.note === at)).toBeTrue();
  });
});

describe('Facts of a selection', () => {
  it('add up: every note, sign and second of the parts is in the whole', () => {
    for (const name of EXPORTS) {
      const score = scoreOfXml(new TextDecoder().decode(fileOf(name)));
      const line = soloLine(score);
      const facts = measureFacts(score, line, {
        reading: readMusic(score, { instrument: null, bpm: null }),
        bpm: null,
      });
      const size = facts.length;
      const whole = spanFacts(facts, [{ fromIndex: 0, endIndex: size }]);
      const [a, b] = [
        spanFacts(facts, [{ fromIndex: 0, endIndex: 5 }]),
        spanFacts(facts, [{ fromIndex: 5, endIndex: size }]),
      ];
      const sum = (of: (one: typeof whole) => number): void =>
        expect(of(a) + of(b)).toBeCloseTo(of(whole), 6);
      sum(({ notes }) => notes);
      sum(({ quarters }) => quarters);
      sum(({ seconds }) => seconds ?? NaN);
      sum(({ articulations }) => articulations.reduce((all, [, count]) => all + count, 0));
      sum(({ names }) => names.reduce((all, [, count]) => all + count, 0));
      expect(whole.notes).toBe(line.played.flat().length);
      expect(whole.low?.midi).toBe(Math.min(a.low?.midi ?? 999, b.low?.midi ?? 999));
    }
  });
});
