import { fail, ok, type Result } from '../../base/index.js';
import type { Sound } from './sound.js';

/** Why a file is not read as sound. */
export type WavCode = 'wav-not-wav' | 'wav-damaged' | 'wav-coding' | 'wav-empty' | 'wav-too-long';

/** A take is at most so long. Units: minutes (the design) */
export const LONGEST_TAKE_MINUTES = 12;

const PCM = 1;
const FLOAT = 3;
const EXTENSIBLE = 0xfffe;
const HEADER_BYTES = 44;

interface WavForm {
  readonly coding: number;
  readonly channels: number;
  readonly rate: number;
  readonly bits: number;
}

/**
 * The sound of a WAV file, its channels mixed into one. A file that ends early gives what is there.
 * Shape:  at least one sample
 * Units:  as Sound
 * Errors: wav-not-wav (no RIFF/WAVE head), wav-damaged (no format or no sound in it), wav-coding (neither 8 to 32 bit
 *         PCM nor float), wav-empty (no sample), wav-too-long (more than 12 minutes)
 * Source: Multimedia Programming Interface and Data Specifications 1.0, chapter 3 (from memory)
 */
export function readWav(bytes: Uint8Array): Result<Sound, WavCode> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (nameAt(view, 0) !== 'RIFF' || nameAt(view, 8) !== 'WAVE')
    return refused(
      'wav-not-wav',
      'This is no WAV file: it does not begin as one. Export the recording as WAV and try again.',
    );
  const chunks = chunksOf(view);
  const form = chunks.get('fmt ');
  const data = chunks.get('data');
  if (!form || !data || form.length < 16)
    return refused(
      'wav-damaged',
      'This WAV file is damaged: it does not say how its sound is stored. Export it again.',
    );
  const told = formOf(view, form.at, form.length);
  if (!isKnown(told))
    return refused(
      'wav-coding',
      `This WAV file holds ${told.bits} bit sound of coding ${told.coding}; PCM of 8, 16, 24 or 32 bits and float are read.`,
    );
  return mixed(view, data, told);
}

function refused(code: WavCode, message: string): Result<never, WavCode> {
  return fail(code, 'file', message);
}

function nameAt(view: DataView, at: number): string {
  if (at + 4 > view.byteLength) return '';
  return String.fromCharCode(...[0, 1, 2, 3].map((n) => view.getUint8(at + n)));
}

interface Chunk {
  readonly at: number;
  readonly length: number;
}

/** The chunks of a file by name, the first of each; one that claims more than is there ends with the file. */
function chunksOf(view: DataView): ReadonlyMap<string, Chunk> {
  const chunks = new Map<string, Chunk>();
  for (let at = 12; at + 8 <= view.byteLength;) {
    const name = nameAt(view, at);
    const claimed = view.getUint32(at + 4, true);
    const length = Math.min(claimed, view.byteLength - at - 8);
    if (!chunks.has(name)) chunks.set(name, { at: at + 8, length });
    at += 8 + claimed + (claimed % 2);
  }
  return chunks;
}

function formOf(view: DataView, at: number, length: number): WavForm {
  const coding = view.getUint16(at, true);
  return {
    coding: coding === EXTENSIBLE && length >= 26 ? view.getUint16(at + 24, true) : coding,
    channels: view.getUint16(at + 2, true),
    rate: view.getUint32(at + 4, true),
    bits: view.getUint16(at + 14, true),
  };
}

function isKnown({ coding, channels, rate, bits }: WavForm): boolean {
  const isPcm = coding === PCM && [8, 16, 24, 32].includes(bits);
  const isFloat = coding === FLOAT && (bits === 32 || bits === 64);
  return (isPcm || isFloat) && channels > 0 && channels <= 32 && rate >= 4000 && rate <= 400_000;
}

function mixed(view: DataView, { at, length }: Chunk, form: WavForm): Result<Sound, WavCode> {
  const width = form.bits / 8;
  const count = Math.floor(length / (width * form.channels));
  if (count === 0) return refused('wav-empty', 'This WAV file holds no sound at all. Record it again.');
  if (count > form.rate * 60 * LONGEST_TAKE_MINUTES)
    return refused(
      'wav-too-long',
      `This file lasts ${Math.round(count / form.rate / 60)} minutes; a take is at most ${LONGEST_TAKE_MINUTES}. Cut out the part that was asked.`,
    );
  const read = readerOf(view, form);
  const samples = new Float32Array(count);
  for (let n = 0; n < count; n += 1) {
    let sum = 0;
    for (let channel = 0; channel < form.channels; channel += 1)
      sum += read(at + (n * form.channels + channel) * width);
    const mean = sum / form.channels;
    samples[n] = Number.isFinite(mean) ? mean : 0;
  }
  return ok({ samples, rate: form.rate });
}

function readerOf(view: DataView, { coding, bits }: WavForm): (at: number) => number {
  if (coding === FLOAT) return (at) => (bits === 64 ? view.getFloat64(at, true) : view.getFloat32(at, true));
  if (bits === 8) return (at) => (view.getUint8(at) - 128) / 128;
  if (bits === 16) return (at) => view.getInt16(at, true) / 0x8000;
  if (bits === 24) return (at) => (view.getUint16(at, true) + view.getInt8(at + 2) * 0x10000) / 0x800000;
  return (at) => view.getInt32(at, true) / 0x80000000;
}

/**
 * A sound as a WAV file of one channel, 16 bits.
 * Shape:  what is beyond full scale is cut
 * Units:  bytes
 * Source: as readWav
 */
export function writeWav({ samples, rate }: Sound): Uint8Array {
  const bytes = new Uint8Array(HEADER_BYTES + samples.length * 2);
  const view = new DataView(bytes.buffer);
  const name = (at: number, text: string): void => {
    for (let n = 0; n < text.length; n += 1) view.setUint8(at + n, text.charCodeAt(n));
  };
  name(0, 'RIFF');
  view.setUint32(4, bytes.length - 8, true);
  name(8, 'WAVEfmt ');
  view.setUint32(16, 16, true);
  view.setUint16(20, PCM, true);
  view.setUint16(22, 1, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, rate * 2, true);
  view.setUint16(32, 2, true);
  view.setUint16(34, 16, true);
  name(36, 'data');
  view.setUint32(40, samples.length * 2, true);
  samples.forEach((sample, n) => {
    const held = Math.max(-1, Math.min(1, sample));
    view.setInt16(HEADER_BYTES + n * 2, Math.round(held < 0 ? held * 0x8000 : held * 0x7fff), true);
  });
  return bytes;
}
