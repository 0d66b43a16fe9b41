import { abcToMusicXml } from '../abc/index.js';
import { handPace } from '../hands/index.js';
import { readScore, type Score } from '../score/index.js';
import { midiFile } from './index.js';

function scoreOf(abc: string, change: (xml: string) => string = (xml) => xml): Score {
  const xml = abcToMusicXml(abc);
  if (!xml.ok) throw new Error(xml.issues[0]?.message);
  const score = readScore(new TextEncoder().encode(change(xml.value)));
  if (!score.ok) throw new Error(score.issues[0]?.message);
  return score.value;
}

const hex = (bytes: Uint8Array): string =>
  [...bytes].map((byte) => byte.toString(16).padStart(2, '0')).join(' ');

// Standard MIDI Files 1.0: chunks, variable-length times, meta events 03, 51, 58 and 2F; worked out by hand.
describe('MIDI files', () => {
  it('hold a stretch as the standard writes it, ties joined, at the tempo that is asked', () => {
    const score = scoreOf('X:1\nM:3/4\nL:1/4\nK:C\nc2 c- | c z d |\n');
    const bytes = midiFile(score, {
      ...{ span: { fromIndex: 0, endIndex: 2 }, pace: handPace(score, 120) },
      ...{ instrument: 'flute', title: 'Tide é' },
    });
    const text = hex(bytes);
    // Header: format 0, one track, 960 ticks a quarter.
    expect(text.startsWith('4d 54 68 64 00 00 00 06 00 00 00 01 03 c0 4d 54 72 6b')).toBeTrue();
    expect(text).toContain(hex(new TextEncoder().encode('Tide e')));
    // General MIDI Level 1: the flute is program 74, counted from 1.
    expect(text).toContain('00 c0 49');
    // 120 quarters a minute are 500,000 microseconds; three quarters in a measure.
    expect(text).toContain('00 ff 51 03 07 a1 20');
    expect(text).toContain('00 ff 58 04 03 02 18 08');
    // C5 for two quarters (1,920 ticks are 8F 00), again for two that a tie joins, a rest, and D5 for one (87 40).
    expect(text).toContain(
      '00 90 48 58 8f 00 80 48 00 00 90 48 58 8f 00 80 48 00 87 40 90 4a 58 87 40 80 4a 00',
    );
    expect(text.endsWith('00 ff 2f 00')).toBeTrue();
  });

  it('begin with their stretch, sound as the instrument transposes, and strokes on the channel of drums', () => {
    const study = 'X:1\nM:4/4\nL:1/4\nK:C\nc4 | d4 |\n';
    const clarinet = scoreOf(study, (xml) =>
      xml.replace(
        '</clef>',
        '</clef><transpose><diatonic>-1</diatonic><chromatic>-2</chromatic></transpose>',
      ),
    );
    const wish = { span: { fromIndex: 1, endIndex: 2 }, pace: handPace(clarinet, 60), title: '' };
    expect(hex(midiFile(clarinet, { ...wish, instrument: 'clarinet' }))).toContain(
      '00 90 48 58 9e 00 80 48 00',
    );
    // General MIDI Level 1: channel 10 for drums, key 38 for the snare.
    const drum = scoreOf(study, (xml) => xml.replaceAll(/<pitch>.*?<\/pitch>/gsu, '<unpitched/>'));
    expect(hex(midiFile(drum, { ...wish, instrument: 'snare drum' }))).toContain(
      '00 99 26 58 9e 00 89 26 00',
    );
  });
});
