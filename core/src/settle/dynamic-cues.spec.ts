import { abcToMusicXml } from '../abc/index.js';
import { readMusic } from '../reading/index.js';
import { readScore } from '../score/index.js';
import { dynamicCues, phraseShapes, shapeCues, type DynamicCue } from './index.js';

function cuesOf(abc: string): DynamicCue[] {
  const xml = abcToMusicXml(`X:1\nM:4/4\nL:1/4\nK:C\n${abc} |\n`);
  if (!xml.ok) throw new Error(xml.issues[0]?.message);
  const score = readScore(new TextEncoder().encode(xml.value));
  if (!score.ok) throw new Error(score.issues[0]?.message);
  const { dynamicsAdvice } = readMusic(score.value, { instrument: 'flute', bpm: null });
  return dynamicCues(
    dynamicsAdvice,
    (number) => score.value.measures.find((one) => one.number === number)?.index,
  );
}

// Common practice, no source: the softest mark a step down, the top saved for the loudest place, room left before it, a long
// crescendo counted measure by measure, accents said once.
describe('dynamics as cues', () => {
  it('widen a narrow band, name the loudest place and leave room before it', () => {
    const cues = cuesOf('!mf!cdef | gfed | cdef | !mp!gfed | cdef | gfed | !f!c4 | c4');
    expect(cues.map(({ measureIndex, sign }) => [measureIndex, sign])).toEqual([
      [3, 'p'],
      [5, 'mp'],
      [6, 'f'],
    ]);
    expect(cues[1]?.text).toBe('Leave room: the loudest place, f, comes next');
  });

  it('count a long crescendo measure by measure', () => {
    const cues = cuesOf('!p!cdef | !<(!gfed | cdef | gfed | cdef!<)! | !ff!c4');
    const steps = cues.filter(({ text }) => text.startsWith('Step'));
    expect(steps.map(({ measureIndex }) => measureIndex)).toEqual([1, 2, 3, 4]);
    expect(steps.map(({ sign }) => sign)).toEqual(['mp', 'mf', 'f', 'ff']);
  });

  it('say accents once, as a matter of articulation', () => {
    const cues = cuesOf('!ppp!cdef | !fff!g4 | !>!c!>!d!>!e!>!f | !>!c4');
    expect(
      cues.filter(({ kind }) => kind === 'articulation').map(({ measureIndex }) => measureIndex),
    ).toEqual([2]);
  });

  it('offer four shapes where nothing is printed, which go where their names say', () => {
    const span = { fromIndex: 4, endIndex: 12 };
    const shapes = Object.fromEntries(phraseShapes(span).map(({ name, levels }) => [name, levels.join(' ')]));
    expect(shapes['arch']).toBe('mp mp mf mf f f mf mp');
    expect(shapes['rise']).toBe('mp mp mf mf mf mf f f');
    expect(shapes['fall']).toBe('f f mf mf mf mf mp mp');
    expect(shapes['echo']).toBe('mf mf mf mf p p p p');
    const [arch] = phraseShapes(span);
    expect(arch && shapeCues(arch, span).map(({ measureIndex, sign }) => `${measureIndex} ${sign}`)).toEqual([
      ...['4 mp', '6 mf', '8 f', '10 mf', '11 mp'],
    ]);
    for (const { levels } of phraseShapes({ fromIndex: 0, endIndex: 1 })) expect(levels).toHaveSize(1);
  });
});
