import { CLICK_SOUNDS, type Click } from '@vivid-cue/core/climb';

/** Units: seconds */
const FADE_SECONDS = 0.03;

/** Sounds a click at a time of the sound card's clock; what is returned may be stopped before. Units: seconds */
export function soundClick(
  context: AudioContext,
  { level }: Pick<Click, 'level'>,
  time: number,
): OscillatorNode {
  const { hertz, gain } = CLICK_SOUNDS[level] ?? { hertz: 1320, gain: 0.6 };
  const tone = context.createOscillator();
  const volume = context.createGain();
  tone.frequency.value = hertz;
  volume.gain.setValueAtTime(gain, time);
  volume.gain.exponentialRampToValueAtTime(0.001, time + FADE_SECONDS);
  tone.connect(volume).connect(context.destination);
  tone.start(time);
  tone.stop(time + FADE_SECONDS);
  return tone;
}
