import { createRequire } from 'node:module';

/** The little of libflac.js that is used here; its own types speak of browsers. Source: libflac.js 5.6 */
interface FlacLibrary {
  isReady(): boolean;
  on(event: 'ready', done: () => void): void;
  create_libflac_encoder(...settings: readonly number[]): number;
  init_encoder_stream(id: number, write: (data: Uint8Array) => void): number;
  FLAC__stream_encoder_process_interleaved(id: number, samples: Int32Array, count: number): boolean;
  FLAC__stream_encoder_finish(id: number): boolean;
  FLAC__stream_encoder_delete(id: number): void;
}

const flac = (createRequire(import.meta.url)('libflacjs') as (variant: string) => FlacLibrary)('release');
/** Units: samples */
const AT_ONCE = 65_536;
const COMPRESSION = 5;

/**
 * A sound as 16-bit FLAC of one channel, as browsers make it before a take is sent.
 * Units:  samples from -1 to 1; samples a second
 * Errors: throws where the encoder does not take it
 */
export async function flacOf(samples: Float32Array, rate: number): Promise<Buffer> {
  if (!flac.isReady()) await new Promise<void>((done) => flac.on('ready', done));
  const id = flac.create_libflac_encoder(rate, 1, 16, COMPRESSION, samples.length, 0);
  const parts: Uint8Array[] = [];
  if (flac.init_encoder_stream(id, (data) => parts.push(Uint8Array.from(data))) !== 0)
    throw new Error('The encoder does not begin.');
  for (let n = 0; n < samples.length; n += AT_ONCE) {
    const block = Int32Array.from(samples.subarray(n, n + AT_ONCE), (one) =>
      Math.max(-32_768, Math.min(32_767, Math.round(one * 32_767))),
    );
    flac.FLAC__stream_encoder_process_interleaved(id, block, block.length);
  }
  flac.FLAC__stream_encoder_finish(id);
  flac.FLAC__stream_encoder_delete(id);
  return Buffer.concat(parts);
}
