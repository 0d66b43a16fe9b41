import { abcToMusicXml } from '../abc/index.js';
import { soloLine } from '../reading/index.js';
import { readScore } from '../score/index.js';
import { cuedTwoWays, likePlaces, noteFigures, type NoteFigures, type SignedCue } from './index.js';

function figuresOf(abc: string): NoteFigures {
  const xml = abcToMusicXml(`X:1\nM:4/4\nL:1/8\nK:C\n${abc} |\n`);
  if (!xml.ok) throw new Error(xml.issues[0]?.message);
  const score = readScore(new TextEncoder().encode(xml.value));
  if (!score.ok) throw new Error(score.issues[0]?.message);
  return noteFigures(soloLine(score.value));
}

const at = (
  fromIndex: number,
  note: number | null,
): { fromIndex: number; endIndex: number; note: number | null } => ({
  fromIndex,
  endIndex: fromIndex + 1,
  note,
});

// What comes again is played the same way each time (common practice, no source); which notes are the same follows from
// the notes themselves.
describe('like places', () => {
  const figures = figuresOf('cdef gfed | c8 | GABc cdef | gfed c4 | cdef gfed | cdef gf^ed | c8');

  it('are measures of the same notes, and never the place itself', () => {
    expect(likePlaces(figures, at(0, null))).toEqual([at(4, null)]);
    expect(likePlaces(figures, { fromIndex: 0, endIndex: 2, note: null })).toEqual([]);
    expect(likePlaces(figures, at(1, null))).toEqual([at(6, null)]);
  });

  it('are notes with the same notes around them, over the bar line too', () => {
    // The top G stands between D E F and F E D three times more; in measure 6 an E sharp follows it.
    expect(likePlaces(figures, at(0, 5))).toEqual([at(3, 1), at(4, 5)]);
    expect(likePlaces(figures, at(5, 8))).toEqual([]);
  });

  it('are not guessed from strokes or a repeated note alone', () => {
    const drum = figuresOf('cccc cccc | cccc cccc | cc c2 cccc');
    expect(likePlaces(drum, at(0, 3))).toEqual([at(1, 3)]);
  });

  it('that are cued two ways are named once, with all their cues', () => {
    const cue = (place: ReturnType<typeof at>, kind: SignedCue['kind'], sign: string): SignedCue => ({
      ...place,
      kind,
      sign,
    });
    const cues = [
      cue(at(4, 5), 'fingering', 'L'),
      cue(at(0, 5), 'fingering', 'R'),
      cue(at(3, 1), 'fingering', 'R'),
      cue(at(0, 1), 'bow', 'V'),
      cue(at(4, 1), 'bow', 'V'),
      cue(at(4, 5), 'string', '2'),
      cue(at(0, null), 'fingering', 'x'),
    ];
    expect(cuedTwoWays(figures, cues)).toEqual([
      {
        kind: 'fingering',
        cues: [
          cue(at(0, 5), 'fingering', 'R'),
          cue(at(3, 1), 'fingering', 'R'),
          cue(at(4, 5), 'fingering', 'L'),
        ],
      },
    ]);
    expect(cuedTwoWays(figures, cues.slice(1))).toEqual([]);
  });
});
