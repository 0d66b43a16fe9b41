import { TrackBlocks, type Block } from './track-blocks';

const RATE = 48_000;

/** A piece of a track. Shape: `channels` of the same length. Units: seconds */
function piece(seconds: number, ...channels: readonly (readonly number[])[]): AudioData {
  return new AudioData({
    format: 'f32-planar',
    sampleRate: RATE,
    numberOfFrames: channels[0]?.length ?? 0,
    numberOfChannels: channels.length,
    timestamp: Math.round(seconds * 1e6),
    data: Float32Array.from(channels.flat()),
  });
}

/** What the blocks of pieces of ten milliseconds hold, each handed over at its own time. */
function heard(...seconds: readonly number[]): { samples: number[]; skipped: number; blocks: Block[] } {
  const blocks: Block[] = [];
  const track = new TrackBlocks((block) => blocks.push(block));
  seconds.forEach((at, n) => track.add(piece(at, new Array<number>(480).fill((n + 1) / 1024))));
  track.end();
  return {
    samples: blocks.flatMap(({ samples }) => [...samples]),
    skipped: blocks.reduce((sum, { skipped }) => sum + skipped, 0),
    blocks,
  };
}

describe('the blocks of a track', () => {
  it('hold every sample in its order, the last of them what is left', () => {
    const { samples, skipped, blocks } = heard(...Array.from({ length: 20 }, (_, n) => 3 + n * 0.01));
    expect(blocks.map((block) => block.samples.length)).toEqual([4096, 4096, 9600 - 2 * 4096]);
    expect(blocks.map(({ isLast }) => isLast)).toEqual([false, false, true]);
    expect(samples.length).toBe(20 * 480);
    expect(samples.every((sample, n) => sample === (Math.floor(n / 480) + 1) / 1024)).toBeTrue();
    expect(skipped).toBe(0);
  });

  it('have silence where the microphone was away, so that the time after it stays right', () => {
    const { samples, skipped } = heard(0, 0.01, 0.07, 0.08);
    // From 0.02 to 0.07 nothing came: 50 ms at 48 kHz are 2400 samples (arithmetic).
    expect(skipped).toBe(2400);
    expect(samples.length).toBe(4 * 480 + 2400);
    expect(samples.slice(960, 3360).every((sample) => sample === 0)).toBeTrue();
    expect(samples[3360]).toBe(3 / 1024);
    // A single piece that is missing.
    expect(heard(0, 0.01, 0.03, 0.04, 0.05).skipped).toBe(480);
  });

  it('do not take a piece that comes late, or a clock that is slow, for one that never came', () => {
    expect(heard(0, 0.01, 0.028, 0.03, 0.04).skipped).toBe(0);
    // 200 millionths apart for 100 s: 20 ms in all, never more than two millionths of a second at once.
    expect(heard(...Array.from({ length: 10_000 }, (_, n) => n * 0.010002)).skipped).toBe(0);
  });

  it('mix two channels into one', () => {
    const blocks: Block[] = [];
    const track = new TrackBlocks((block) => blocks.push(block));
    track.add(piece(0, [0.5, 0.25], [0.25, -0.25]));
    track.end();
    expect([...(blocks[0]?.samples ?? [])]).toEqual([0.375, 0]);
  });
});
