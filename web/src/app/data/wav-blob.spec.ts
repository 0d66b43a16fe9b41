import { readWav } from '@vivid-cue/core/takes';
import { joined } from './joined';
import { wavBlob } from './wav-blob';

describe('a recording as WAV', () => {
  // core reads WAV as its spec says, which is held against another reader.
  it('is read as what was recorded, over all pieces', async () => {
    const pieces = [Int16Array.of(0, 1000, -1000), Int16Array.of(32_767, -32_768)];
    const read = readWav(new Uint8Array(await wavBlob(pieces, 44_100).arrayBuffer()));
    if (!read.ok) throw new Error(read.issues[0]?.message);
    expect(read.value.rate).toBe(44_100);
    expect([...read.value.samples].map((one) => Math.round(one * 32_768))).toEqual([
      0, 1000, -1000, 32_767, -32_768,
    ]);
    expect([...joined(pieces)]).toEqual([...read.value.samples]);
  });
});
