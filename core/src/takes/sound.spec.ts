import { PitchDetector } from 'pitchy';
import wavefile from 'wavefile';
import { seededRandom } from '../base/index.js';
import { hear } from './hear/heard.js';
import { CANDIDATES } from './hear/yin.js';
import { longTone, loudnessOf, readWav, writeWav, type Sound } from './index.js';
import { kWeighting } from './sound/loudness.js';
import { resampled } from './sound/resample.js';

function sine(hertz: number, seconds: number, rate = 22_050, gain = 1): Sound {
  const samples = Float32Array.from(
    { length: Math.round(seconds * rate) },
    (_, n) => gain * Math.sin((2 * Math.PI * hertz * n) / rate),
  );
  return { samples, rate };
}

describe('loudness', () => {
  it('has the K-weighting of ITU-R BS.1770-4, annex 1, tables 1 and 2, at 48 kHz (from memory)', () => {
    const [shelf, pass] = kWeighting(48_000);
    const published = [
      [shelf.b, [1.53512485958697, -2.69169618940638, 1.19839281085285]],
      [shelf.a, [-1.69065929318241, 0.73248077421585]],
      [pass.b, [1, -2, 1]],
      [pass.a, [-1.99004745483398, 0.99007225036621]],
    ] as const;
    for (const [own, table] of published)
      own.forEach((one, n) => {
        expect(one).toBeCloseTo(table[n] ?? NaN, 7);
      });
  });

  it('reads a sine of 1 kHz at full scale in one channel as -3.01 LKFS (ITU-R BS.1770-4, annex 1)', () => {
    expect(loudnessOf(sine(997, 5, 48_000)).integrated).toBeCloseTo(-3.01, 1);
    // The same at the rate of analysis, and 20 dB less is 20 LU less.
    expect(loudnessOf(sine(997, 5)).integrated).toBeCloseTo(-3.01, 1);
    expect(loudnessOf(sine(997, 5, 48_000, 0.1)).integrated).toBeCloseTo(-23.01, 1);
  });

  it('leaves out silence by its gates: half a minute of nothing changes nothing (ITU-R BS.1770-4)', () => {
    const { samples, rate } = sine(997, 5, 48_000, 0.2);
    const padded = new Float32Array(samples.length + 30 * rate);
    padded.set(samples);
    expect(loudnessOf({ samples: padded, rate }).integrated).toBeCloseTo(
      loudnessOf({ samples, rate }).integrated ?? 0,
      0,
    );
  });
});

describe('a WAV file', () => {
  // wavefile 11 (npm) writes the files.
  for (const [coding, close] of [
    ['8', 1],
    ['16', 4],
    ['24', 6],
    ['32', 6],
    ['32f', 6],
    ['64', 6],
  ] as const) {
    it(`of coding ${coding} in two channels is read as one`, () => {
      const { samples } = sine(441, 0.2, 44_100, 0.5);
      const file = new wavefile.WaveFile();
      const full = coding.length > 2 || coding === '64' ? 1 : 2 ** (Number(coding) - 1) - 1;
      const whole = Array.from(samples, (one) =>
        coding === '8' ? Math.round(128 + one * 127) : full === 1 ? one : Math.round(one * full),
      );
      file.fromScratch(2, 44_100, coding, [whole, whole]);
      const read = readWav(file.toBuffer());
      if (!read.ok) throw new Error(read.issues[0]?.message);
      expect(read.value.rate).toBe(44_100);
      expect(read.value.samples.length).toBe(samples.length);
      for (const n of [25, 1000, 8000]) expect(read.value.samples[n]).toBeCloseTo(samples[n] ?? NaN, close);
    });
  }

  it('that was written here is read by wavefile as the same', () => {
    const sound = sine(300, 0.1, 22_050, 0.7);
    const file = new wavefile.WaveFile(writeWav(sound));
    const told = file.getSamples(false) as unknown as Float64Array;
    expect(told.length).toBe(sound.samples.length);
    expect((told[500] ?? 0) / 32_767).toBeCloseTo(sound.samples[500] ?? NaN, 3);
  });

  it('that is damaged, empty, too long or none is refused in one sentence', () => {
    const good = writeWav(sine(300, 1));
    const codeOf = (bytes: Uint8Array): string | undefined => {
      const read = readWav(bytes);
      return read.ok ? undefined : read.issues[0]?.code;
    };
    expect(codeOf(new TextEncoder().encode('ID3 no sound'))).toBe('wav-not-wav');
    expect(codeOf(good.slice(0, 20))).toBe('wav-damaged');
    expect(codeOf(writeWav({ samples: new Float32Array(0), rate: 22_050 }))).toBe('wav-empty');
    expect(codeOf(writeWav({ samples: new Float32Array(4000 * 60 * 13), rate: 4000 }))).toBe('wav-too-long');
    const other = good.slice();
    other[20] = 85;
    expect(codeOf(other)).toBe('wav-coding');
    // What broke off in the middle gives what is there.
    const half = readWav(good.slice(0, 22_094));
    expect(half.ok && half.value.samples.length).toBe(11_025);
  });
});

describe('another rate', () => {
  it('keeps a tone below half of it, and takes out what is above (arithmetic of sampling)', () => {
    const low = resampled(sine(1000, 1, 48_000));
    const power = (sound: Sound): number =>
      sound.samples.slice(2000, 18_000).reduce((sum, one) => sum + one * one, 0) / 16_000;
    expect(power(low)).toBeCloseTo(0.5, 2);
    expect(10 * Math.log10(power(resampled(sine(15_000, 1, 48_000))) / 0.5)).toBeLessThan(-50);
  });
});

describe('pitch', () => {
  it('is that of pitchy 4 (McLeod 2005) within two cents on tones of every register', () => {
    for (const midi of [40, 45, 52, 59, 64, 71, 78, 85]) {
      const hertz = 440 * 2 ** ((midi + 0.13 - 69) / 12);
      const samples = Float32Array.from({ length: 22_050 }, (_, n) =>
        [1, 0.6, 0.4, 0.3].reduce(
          (sum, gain, k) => sum + 0.3 * gain * Math.sin((2 * Math.PI * hertz * (k + 1) * n) / 22_050 + k),
          0,
        ),
      );
      const heard = hear({ samples, rate: 22_050 }, { lowest: 38, highest: 88 });
      const own = heard.pitch.midi[40 * CANDIDATES] ?? 0;
      const [other] = PitchDetector.forFloat32Array(2048).findPitch(samples.slice(9000, 11_048), 22_050);
      expect(Math.abs(own - (69 + 12 * Math.log2(other / 440))))
        .withContext(`MIDI ${midi}`)
        .toBeLessThan(0.02);
    }
  });
});

describe('a long tone', () => {
  it('is told as it was made: seconds, spread of level and pitch, drift (sine by formula)', () => {
    const [rate, seconds] = [44_100, 9];
    const random = seededRandom(3);
    let phase = 0;
    const tone = Array.from({ length: seconds * rate }, (_, n) => {
      const time = n / rate;
      // A slow swell of 2 dB, a waver of 6 cents, and 12 cents from beginning to end.
      const cents = (12 * time) / seconds + 6 * Math.sin(2 * Math.PI * 0.7 * time);
      phase += (220 * 2 ** (cents / 1200)) / rate;
      const level = 10 ** ((2 * Math.sin(2 * Math.PI * 0.4 * time)) / 20);
      const edge = Math.min(1, time / 0.05, (seconds - time) / 0.05);
      return 0.2 * level * edge * (Math.sin(2 * Math.PI * phase) + 0.5 * Math.sin(4 * Math.PI * phase));
    });
    const still = Array.from({ length: rate }, () => 0.0005 * (random() - 0.5));
    const told = longTone({ samples: Float32Array.from([...still, ...tone, ...still]), rate });
    expect(told).not.toBeNull();
    expect(Math.abs((told?.seconds ?? 0) - 9)).toBeLessThan(0.15);
    // The deviation of a sine is its height over the square root of two.
    expect(told?.levelSpreadDb).toBeCloseTo(2 / Math.SQRT2, 0);
    expect(
      Math.abs((told?.pitchSpreadCents ?? 0) - Math.hypot(6 / Math.SQRT2, 12 / Math.sqrt(12))),
    ).toBeLessThan(1);
    expect(Math.abs((told?.driftCents ?? 0) - 12)).toBeLessThan(3);
    expect(Math.abs(1200 * Math.log2((told?.hertz ?? 1) / 220) - 6)).toBeLessThan(4);
  });

  it('is none where nothing is held', () => {
    const random = seededRandom(5);
    expect(
      longTone({ samples: Float32Array.from({ length: 22_050 }, () => random() - 0.5), rate: 22_050 }),
    ).toBeNull();
  });
});
