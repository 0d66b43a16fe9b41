/** How a microphone is turned up, in a word. */
export type LevelWord = 'silent' | 'too soft' | 'good' | 'too loud';

/** Above this samples are about to be cut off. Units: dB of full scale (common practice, no source) */
const TOO_LOUD = -1;
/** The loudest place of playing that a microphone is well turned up for lies above this (common practice, no source). */
const TOO_SOFT = -30;
const SILENT = -60;

/** The loudest sample. Shape: 0 where there is none. Units: those of the samples */
export function peakOf(samples: Float32Array | Int16Array): number {
  let peak = 0;
  for (const sample of samples) peak = Math.max(peak, Math.abs(sample));
  return peak;
}

/** A peak in decibels. Shape: `peak` 0 to 1. Units: dB of full scale; -120 for nothing */
export function decibels(peak: number): number {
  return peak > 1e-6 ? 20 * Math.log10(peak) : -120;
}

/** The word for the loudest sample of some seconds. Shape: `peak` 0 to 1 */
export function levelWord(peak: number): LevelWord {
  const level = decibels(peak);
  if (level >= TOO_LOUD) return 'too loud';
  if (level >= TOO_SOFT) return 'good';
  return level >= SILENT ? 'too soft' : 'silent';
}
