import { soloLine, findingsOf, readMusic, type Finding, type FindingKind } from './index.js';
import { head, measure, note, solo } from '../score/testing/music-xml.js';
import { scoreOfStudy } from './testing/coach.js';
import { scoreOfXml } from './testing/readings.js';

/**
 * Cases that a coach decided before the reading was written, each with what should be told (common practice, no source).
 * The music was composed for them.
 */
interface Case {
  readonly instrument: string;
  readonly head: string;
  readonly music: string;
  readonly bpm?: number;
}

function told({ instrument, head, music }: Case): Finding[] {
  const score = scoreOfStudy({ name: 'Case', instrument, head, music });
  return findingsOf(score, soloLine(score), { reading: readMusic(score, { instrument, bpm: null }) });
}

function texts(all: readonly Finding[], ...kinds: readonly FindingKind[]): string[] {
  return all
    .filter(({ kind }) => kinds.length === 0 || kinds.includes(kind))
    .map(({ title, sentence }) => `${title} ${sentence}`);
}

const flute = (head: string, music: string): Case => ({ instrument: 'Flute', head, music });

describe('A return', () => {
  it('is a phrase that says where it leaves its model, short measures within it', () => {
    const all = told(
      flute(
        'M:3/4\nL:1/8\nQ:1/4=96\nK:F',
        'A4 B2|c3 d c2|A2 F2 E2|F6|g2 f2 e2|d4 c2|d2 e2 f2|c6|A4 B2|c3 d c2|A2 G2 F2|E6|]',
      ),
    );
    expect(texts(all, 'return', 'repeat')).toEqual([
      jasmine.stringMatching(/Measures 9–12 come back to 1–4 and leave them at 11\./u),
    ]);
  });

  it('is none where the strokes of a drum fall elsewhere, and one where a note is a little longer', () => {
    const drum = told({
      instrument: 'Snare Drum',
      head: 'M:4/4\nL:1/16\nQ:1/4=96\nK:C clef=perc',
      music: 'c2c2 cccc c4 c4|c8 c8|cc2c cc2c c4 c4|c16|]',
    });
    expect(texts(drum, 'return', 'repeat')).toEqual([]);
    const tune = told(
      flute('M:4/4\nL:1/16\nQ:1/4=96\nK:G', 'G4 B4 d4-defg|a8 g8|e4 f4 g4 a4|G4 B4 d4-d2fg|a8 g8|]'),
    );
    expect(texts(tune, 'return').join(' ')).toContain('4–5 come back to 1–2');
    expect(texts(tune, 'return').join(' ')).toMatch(/note 3 is (?:a sixteenth longer|dotted quarter, not)/u);
  });

  it('on strings tells a bow that goes the other way, and where groups of seven are other it is not exact', () => {
    const bowed = told({
      instrument: 'Violin',
      head: 'M:4/4\nL:1/8\nQ:1/4=96\nK:D',
      music: 'vd2 f2 a2 f2|e2 g2 b2 g2|f8|a4 e4|g2e2 c2A2|d8|b4 g4|e8|ud2 f2 a2 f2|e2 g2 b2 g2|f8|]',
    });
    expect(texts(bowed, 'return').join(' ')).toContain('note 1 is up-bow, not down-bow');
    const seven = told(flute('M:7/8\nL:1/8\nQ:1/8=168\nK:C', 'cd ef gab|c7|cde fg ab|c7|cd ef gab|]'));
    expect(texts(seven, 'return', 'repeat').join(' ')).toContain('grouped 3+2+2, not 2+2+3');
    expect(texts(seven, 'meter').join(' ')).toContain('3+2+2');
  });
});

describe('The map of changes', () => {
  it('names key, meter, beat and tempo of a place in one finding near the top', () => {
    const all = told(
      flute('M:6/8\nL:1/8\nQ:3/8=92\nK:C', `${'c3 e3|'.repeat(8)}[K:Eb][M:2/4][Q:1/4=66]E2 G2|B4|]`),
    );
    const found = all.filter(({ kind }) => kind === 'change');
    expect(found).toHaveSize(1);
    expect(found[0]?.places).toEqual([8]);
    expect(found[0]?.sentence).toMatch(/3 flats.*2\/4, the quarter has the beat; ♩=66/u);
    expect(all.indexOf(found[0] as Finding)).toBeLessThan(5);
  });

  it('tells the way through endings and jumps, a meter that changes often once, and another clef', () => {
    const way = told(
      flute('M:4/4\nL:1/4\nQ:1/4=96\nK:C', '|:c e g e|1 f d B G:|2 f d c2|!segno!e g e c|c4!D.S.!|]'),
    );
    expect(texts(way, 'change').join(' ')).toMatch(
      /The way through the repeats\. .*another ending at 2.*dal segno at 5/iu,
    );
    const often = told(
      flute(
        'M:4/4\nL:1/4\nQ:1/4=96\nK:C',
        'c e g e|f d B G|[M:3/4]c e g|e g c|g e c|[M:4/4]c d e f|g f e d|c B A G|[M:2/4]c e|g e|e c|c2|]',
      ),
    );
    expect(texts(often, 'change')).toEqual([
      jasmine.stringMatching(/^The meter changes 3 times\. 3\/4 at 3; 4\/4 at 6; 2\/4 at 9/u),
    ]);
    const clef = (sign: string, line: number): string =>
      `<attributes><clef><sign>${sign}</sign><line>${line}</line></clef></attributes>`;
    const score = scoreOfXml(
      solo(
        measure('1', head(4) + clef('F', 4) + note('C3', 16)) + measure('2', clef('C', 4) + note('G4', 16)),
      ),
    );
    const all = findingsOf(score, soloLine(score), {
      reading: readMusic(score, { instrument: 'cello', bpm: 96 }),
    });
    expect(texts(all, 'change')).toEqual(['Another clef at 2. From measure 2: tenor clef.']);
  });
});

describe('Notes against the key', () => {
  it('are never the only ones where the key had them before', () => {
    const all = told(flute('M:4/4\nL:1/4\nQ:1/4=96\nK:C', 'c B A B|G A B c|[K:Eb]e d =B c|B G E2|e4|]'));
    expect(texts(all).join(' ')).not.toContain('only B');
  });

  it('leave the key together where three letters and more do', () => {
    const all = told(
      flute(
        'M:4/4\nL:1/4\nQ:1/4=96\nK:C',
        'c e g e|f d B G|c e g e|f d B G|E ^F ^G A|B ^c ^d e|c e g e|c4|]',
      ),
    );
    expect(texts(all, 'off-key', 'rare-note', 'surprise')).toEqual([
      jasmine.stringMatching(/^5–6 leave the key: E major\./u),
    ]);
  });
});

describe('Ties and syncopation', () => {
  it('are counted in the value that runs, and told where no beat is struck', () => {
    const all = told(flute('M:4/4\nL:1/16\nQ:1/4=96\nK:G', 'a8-a2gf e2d2-|d4 c4 BAGA G4|G16|]'));
    expect(texts(all, 'tie')).toEqual([jasmine.stringMatching(/ten sixteenths.*D is held from 1 into 2/u)]);
  });
});

describe('What a measure asks', () => {
  it('weighs speed most, and slow breaks and leaps little', () => {
    const all = told({
      instrument: 'Clarinet',
      head: 'M:4/4\nL:1/4\nQ:1/4=60\nK:C',
      music: 'A2 c2|A2 c2|(e/4f/4g/4a/4) (g/4f/4e/4d/4) e2|]',
    });
    expect(all[0]?.title).toBe('Measure 3 decides the tempo.');
  });

  it('counts bursts shorter than a beat, and opens in the unit of the sheet', () => {
    const cello = told({
      instrument: 'Cello',
      head: 'M:C|\nL:1/16\nQ:1/2=60\nK:C clef=bass',
      music: 'C,8 G,8|(5:4:5C,D,E,F,G, A,4 G,8|C,16|]',
    });
    expect(cello[0]?.sentence).toMatch(/10\.0 notes a second.*open no faster than 𝅗𝅥=5[0-9]/u);
    const etude = told(flute('M:2/4\nL:1/32\nQ:1/8=132\nK:C', "c8 e8|cdefgabc' c'bagfedc|c16|]"));
    expect(etude[0]?.sentence).toMatch(/At the target of ♪=132 .*open no faster than ♪=\d+\./u);
  });

  it('limits a trombone by its slide, and no marimba by one quintuplet', () => {
    const slide = told({
      instrument: 'Trombone',
      head: 'M:4/4\nL:1/16\nQ:1/4=92\nK:C clef=bass',
      music: '_B,,4 F,4 _B,4 F,4|_B,,=B,,C,=B,, _B,,=B,,C,=B,, F,8|_B,,16|]',
    });
    expect(slide[0]?.title).toContain('Measure 2');
    expect(slide[0]?.sentence).toMatch(/slide travels .*no faster than ♩=[5-7]\d/u);
    const marimba = told({
      instrument: 'Marimba',
      head: 'M:4/4\nL:1/16\nQ:1/4=92\nK:C',
      music: 'c4 e4 g4 e4|(5:4:5cdefg a4 g8|c16|]',
    });
    expect(marimba[0]?.sentence).toContain('Open at the target, ♩=92');
  });

  it('tells line of a song with two accents, and the lowest note a trombone lacks as a question', () => {
    const song = told(
      flute(
        'M:4/4\nL:1/4\nQ:1/4=60\nK:C',
        '(cdef)|(gag2)|(!accent!efgf)|(edc2)|(cdef)|(gag2)|(!accent!efgf)|(edc2)|]',
      ),
    );
    expect(texts(song, 'shows').join(' ')).toMatch(/^It shows line and tone\./u);
    const low = told({
      instrument: 'Trombone',
      head: 'M:4/4\nL:1/4\nQ:1/4=80\nK:Bb clef=bass',
      music: 'B,, D, F, B,|E,, F,, B,,2|]',
    });
    expect(texts(low, 'range').join(' ')).toMatch(/E♭2 lies below the usual compass without the valve/u);
    const high = told({
      instrument: 'Alto Saxophone',
      head: 'M:4/4\nL:1/4\nQ:1/4=80\nK:C',
      music: "c e g c'|^f' e' c'2|]",
    });
    expect(texts(high, 'range').join(' ')).toMatch(
      /F♯6 lies above.*is it the octave, the clef, or meant so/u,
    );
  });
});

describe('Runs', () => {
  it('tell how many notes they have where the number is odd, graces too', () => {
    const all = told(
      flute('M:3/8\nL:1/32\nQ:1/8=60\nK:C', "c4 e4 g4|(GABcdefgabc')z|{cdefg}a12|(7:8:7cdefgab c'4|c12|]"),
    );
    const texts = all.filter(({ kind }) => kind === 'fast-run').map(({ sentence }) => sentence);
    expect(texts).toEqual([jasmine.stringMatching(/^Eleven in 2, five in 3, seven in 4:/u)]);
  });

  it('of two slurred and one tongued lead on, and plain threes do not', () => {
    const of = (music: string): Finding[] => told(flute('M:6/8\nL:1/8\nQ:3/8=72\nK:C', music));
    expect(of('(cd)e (fg)a|(gf)e (dc)B|c6|]').map(({ kind }) => kind)).toContain('lead');
    expect(of('(cde) (fga)|cde fga|c6|]').map(({ kind }) => kind)).not.toContain('lead');
  });

  it('of rest are counted, with the beat on which to enter', () => {
    const all = told(flute('M:4/4\nL:1/8\nQ:1/4=96\nK:C', `c8|${'z8|'.repeat(11)}z3 g f2e2|c8|]`));
    expect(texts(all, 'rest').join(' ')).toMatch(
      /Count 11 measures of rest\. .*enter on the and of 2 of 13, on G5/u,
    );
  });
});

describe('Breath', () => {
  it('is told with seconds to each printed place, and not to drums and bows', () => {
    const line = '(c d e f)|(g a g2)|(e f g a)|!breath!g4|';
    const music = `${line}${line.replace('!breath!', '')}]`;
    const head = 'M:4/4\nL:1/4\nQ:1/4=60\nK:C';
    expect(texts(told(flute(head, music)), 'breath').join(' ')).toMatch(
      /16 s to the breath in 4, then 16 s to the end/u,
    );
    expect(texts(told({ instrument: 'Violin', head, music }), 'breath', 'held')).not.toContain(
      jasmine.stringMatching(/breath/u),
    );
  });
});

describe('Groups', () => {
  it('are heard by accents and slurs as well as by beams', () => {
    for (const music of ['!accent!cd!accent!e f!accent!ga', '(cd)(ef)(ga)', 'cd ef ga']) {
      const all = told(flute('M:6/8\nL:1/8\nQ:3/8=72\nK:C', `c3 e3|g2e c3|${music}|c6|]`));
      expect(texts(all, 'meter'))
        .withContext(music)
        .toEqual([jasmine.stringMatching(/^6\/8 sounds as 3\/4\./u)]);
    }
  });
});

describe('Signs', () => {
  it('of a turn name both neighbours, those of a trill one', () => {
    const all = told(flute('M:4/4\nL:1/4\nQ:1/4=80\nK:Bb', '!turn!d2 B2|!trill!c2 B2|B4|]'));
    expect(texts(all, 'ornament').map((text) => text.split('.')[0])).toEqual([
      'Turn with E♭ and C',
      'Trill with D',
    ]);
  });

  it('that a slur takes away are not missed', () => {
    const all = told(
      flute('M:6/8\nL:1/8\nQ:3/8=72\nK:C', '.c.d.e g3|(cde) g3|.d.e.f a3|.e.f.g b3|.c.d.e g3|]'),
    );
    expect(texts(all, 'odd-one-out')).toEqual([]);
  });

  it('of the strings: an augmented fourth is no fifth for one finger', () => {
    const violin = (music: string): string[] =>
      texts(told({ instrument: 'Violin', head: 'M:4/4\nL:1/16\nQ:1/4=96\nK:C', music }), 'awkward');
    expect(violin('c^fc^f c^fc^f c8|c16|]')).toEqual([]);
    expect(violin('_B,F_B,F _B,F_B,F D8|D16|]').join(' ')).toContain('One finger');
  });
});
