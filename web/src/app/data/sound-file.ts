import { LONGEST_TAKE_MINUTES, readWav } from '@vivid-cue/core/takes';
import { ORIGINAL_KINDS, TAKE_LIMITS, type OriginalKind } from '@vivid-cue/contract/take-limits';

/** A sound that a file holds, in one channel. Units: 16-bit samples; samples a second */
export interface OpenedSound {
  readonly samples: Int16Array<ArrayBuffer>;
  readonly rate: number;
  readonly kind: OriginalKind | null;
}

/** Files that do not say how fast they run are opened at this. Units: samples a second */
const USUAL_RATE = 48_000;
const ENDINGS: Readonly<Record<string, OriginalKind>> = {
  wav: 'audio/wav',
  flac: 'audio/flac',
  mp3: 'audio/mpeg',
  m4a: 'audio/mp4',
  mp4: 'audio/mp4',
  aac: 'audio/aac',
  ogg: 'audio/ogg',
  opus: 'audio/ogg',
  webm: 'audio/webm',
};

/**
 * Opens a sound file that somebody brought: WAV, and whatever this browser plays.
 * Errors: rejects with one sentence for what is no sound, damaged or too long
 */
export async function openSound(file: File): Promise<OpenedSound> {
  if (file.size > TAKE_LIMITS.formBytes)
    throw new Error(
      `A take has at most ${Math.round(TAKE_LIMITS.formBytes / 1024 / 1024)} MB; this file has ${Math.round(file.size / 1024 / 1024)}. Cut it down to what was played.`,
    );
  const seconds = await lengthOf(file);
  if (seconds > TAKE_LIMITS.seconds)
    throw new Error(
      `A take lasts at most ${LONGEST_TAKE_MINUTES} minutes; this one has ${Math.round(seconds / 60)}. Cut it and bring the parts one by one.`,
    );
  const bytes = await file.arrayBuffer();
  const rate = rateOf(new DataView(bytes));
  const sound = await new OfflineAudioContext(1, 1, rate).decodeAudioData(bytes.slice(0)).catch(() => null);
  if (!sound || sound.length === 0) throw new Error(whyNot(bytes));
  return { samples: mixed(sound), rate, kind: kindOf(file) };
}

/** How long a file lasts by its own word; 0 where it has none. Units: seconds */
function lengthOf(file: File): Promise<number> {
  const url = URL.createObjectURL(file);
  const audio = new Audio();
  return new Promise<number>((done) => {
    audio.preload = 'metadata';
    audio.onloadedmetadata = () => done(Number.isFinite(audio.duration) ? audio.duration : 0);
    audio.onerror = () => done(0);
    audio.src = url;
  }).finally(() => URL.revokeObjectURL(url));
}

/** A WAV file keeps its own rate. */
function rateOf(view: DataView): number {
  const isWav = view.byteLength > 44 && view.getUint32(0) === 0x52494646 && view.getUint32(8) === 0x57415645;
  const rate = isWav ? view.getUint32(24, true) : USUAL_RATE;
  return rate >= 8000 && rate <= 96_000 ? rate : USUAL_RATE;
}

/** What the reader of WAV files says; of others nothing more is known. */
function whyNot(bytes: ArrayBuffer): string {
  const read = readWav(new Uint8Array(bytes));
  if (!read.ok && read.issues[0]?.code !== 'wav-not-wav')
    return read.issues[0]?.message ?? 'This WAV file cannot be read.';
  return 'This is no sound that this browser can play, or it is damaged. Bring a WAV, FLAC, MP3 or M4A file.';
}

function kindOf({ type, name }: File): OriginalKind | null {
  const known = ORIGINAL_KINDS.find((kind) => kind === type.replace('x-', '').replace('wave', 'wav'));
  return known ?? ENDINGS[name.split('.').at(-1)?.toLowerCase() ?? ''] ?? null;
}

/** All channels as one. */
function mixed(sound: AudioBuffer): Int16Array<ArrayBuffer> {
  const channels = Array.from({ length: sound.numberOfChannels }, (_, n) => sound.getChannelData(n));
  return Int16Array.from({ length: sound.length }, (_, n) => {
    const sum = channels.reduce((all, channel) => all + (channel[n] ?? 0), 0) / channels.length;
    return Math.max(-32_768, Math.min(32_767, Math.round(sum * 32_767)));
  });
}
