import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { writeWav } from '@vivid-cue/core/takes';
import { runCommand } from './run-command.js';

const RATE = 22_050;

/** Tones with a bright sound, one after the other. Units: hertz, seconds */
function tones(all: readonly (readonly [hertz: number, seconds: number])[], quiet = 1): Uint8Array {
  const samples = [...new Float32Array(quiet * RATE)];
  for (const [hertz, seconds] of all)
    for (let n = 0; n < seconds * RATE; n += 1) {
      const edge = Math.min(1, n / 300, (seconds * RATE - n) / 900);
      const wave = [1, 2, 3, 4].reduce(
        (sum, k) => sum + Math.sin((2 * Math.PI * hertz * k * n) / RATE) / k,
        0,
      );
      samples.push(0.2 * edge * wave);
    }
  return writeWav({ samples: Float32Array.from([...samples, ...new Float32Array(RATE)]), rate: RATE });
}

describe('vivid-cue take, tone and sight', () => {
  let folder = '';
  const run = (...args: string[]): ReturnType<typeof runCommand> => runCommand(args, folder);
  const json = <T>(...args: string[]): T => JSON.parse(run(...args, '--json').text) as T;
  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'take-'));
    // Eight quarters from A4 to A5 over two measures, as ABC.
    writeFileSync(join(folder, 'scale.abc'), 'X:1\nT:Scale\nM:4/4\nL:1/4\nQ:1/4=100\nK:A\nABcd|efga|\n');
  });
  afterEach(() => {
    rmSync(folder, { recursive: true });
  });

  it('take tells notes and measures of eight tones at ♩=120 after a second of silence (arithmetic)', () => {
    const scale = [0, 2, 4, 5, 7, 9, 11, 12].map((up) => [440 * 2 ** (up / 12), 0.5] as const);
    writeFileSync(join(folder, 'take.wav'), tones(scale));
    const told = json<{
      notes: { measure: string; index: number; seconds: number }[];
      measures: { measure: string; startSeconds: number; bpm: number }[];
      opening: { bpm: number };
      slips: unknown[];
    }>('take', 'take.wav', '--score', 'scale.abc');
    expect(told.notes.map(({ measure, index }) => `${measure}:${index}`)).toEqual([
      '1:1',
      '1:2',
      '1:3',
      '1:4',
      '2:1',
      '2:2',
      '2:3',
      '2:4',
    ]);
    told.notes.forEach(({ seconds }, n) => {
      expect(Math.abs(seconds - 1 - n / 2))
        .withContext(`note ${n + 1}`)
        .toBeLessThan(0.02);
    });
    expect(told.measures.map(({ measure }) => measure)).toEqual(['1', '2']);
    for (const { bpm } of told.measures) expect(Math.abs(bpm / 120 - 1)).toBeLessThan(0.03);
    expect(told.slips).toEqual([]);
    const keys = [
      'notes',
      'measures',
      'opening',
      'deciding',
      'drift',
      'evenness',
      'dynamics',
      'hairpins',
      'pauses',
      'restarts',
      'slips',
      'notices',
    ];
    expect(Object.keys(told)).toEqual(jasmine.arrayWithExactContents(keys));
  });

  it('take and tone refuse what tells nothing with one sentence', () => {
    writeFileSync(join(folder, 'silence.wav'), writeWav({ samples: new Float32Array(RATE * 3), rate: RATE }));
    writeFileSync(join(folder, 'broken.wav'), 'RIFF');
    expect(run('take', 'silence.wav', '--score', 'scale.abc')).toEqual({
      exitCode: 2,
      text: jasmine.stringMatching(/^The take is silent\./u) as unknown as string,
    });
    expect(run('take', 'broken.wav', '--score', 'scale.abc').text).toMatch(/^This is no WAV file/u);
    expect(run('take', 'silence.wav').text).toMatch(/^Name one take and its score/u);
    expect(run('take', 'silence.wav', '--score', 'scale.abc', '--repeats', 'some').text).toMatch(
      /^--repeats takes/u,
    );
    expect(run('tone', 'silence.wav').text).toMatch(/^No tone is held/u);
  });

  it('tone tells a held A as it was held', () => {
    writeFileSync(join(folder, 'tone.wav'), tones([[220, 6]]));
    const told = json<Record<string, number>>('tone', 'tone.wav');
    expect(Math.abs((told['seconds'] ?? 0) - 6)).toBeLessThan(0.1);
    expect(Math.abs((told['hertz'] ?? 0) - 220)).toBeLessThan(0.3);
    expect(told['levelSpreadDb']).toBeLessThan(0.3);
  });

  it('sight writes a study that score reads, the same for the same seed', () => {
    const wish = ['sight', '--level', '3', '--instrument', 'clarinet', '--seed', '7', '--out'];
    const told = json<{ title: string; meter: string }>(...wish, 'one.musicxml');
    json(...wish, 'two.musicxml');
    const one = readFileSync(join(folder, 'one.musicxml'), 'utf8');
    expect(readFileSync(join(folder, 'two.musicxml'), 'utf8')).toBe(one);
    const map = json<{ measures: { time: string }[] }>('score', 'one.musicxml');
    expect(map.measures.length).toBe(8);
    expect(map.measures[0]?.time).toBe(told.meter);
    expect(run('sight', '--level', '12', '--instrument', 'flute', '--out', 'x.musicxml').text).toMatch(
      /^There are levels 1 to 8/u,
    );
  });
});
