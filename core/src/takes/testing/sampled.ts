import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { DRUMS, noteEvents, programOf, SNARE, trackFile } from '../../midi/index.js';
import { readWav } from '../sound/wav.js';
import type { Sound } from '../sound/sound.js';
import type { PlayedNote } from './performer.js';

/** A General MIDI sound font, as Debian has it. */
const SOUND_FONT = '/usr/share/sounds/sf2/TimGM6mb.sf2';
/** Without a tempo a quarter is half a second, and with so many ticks to it a tick is a millisecond. */
const TICKS = 500;
/** A note sounds so long at least, and what rings on after the last is part of the take. Units: milliseconds */
const SHORTEST = 20;
const RINGING = 1500;

/**
 * Notes as sampled instruments sound in FluidSynth 2, with its reverberation: nothing of it is ours.
 * Errors: throws where FluidSynth or the sound font is not installed
 */
export function sampled(played: readonly PlayedNote[], instrument: string): Sound {
  const folder = mkdtempSync(join(tmpdir(), 'vivid-cue-'));
  const [midi, wav] = [join(folder, 'take.mid'), join(folder, 'take.wav')];
  try {
    writeFileSync(midi, midiOfPlayed(played, instrument));
    execFileSync('fluidsynth', ['-ni', '-q', '-g', '0.6', '-r', '44100', '-F', wav, SOUND_FONT, midi], {
      stdio: 'ignore',
    });
    const sound = readWav(readFileSync(wav));
    if (!sound.ok) throw new Error(sound.issues[0]?.message);
    return sound.value;
  } finally {
    rmSync(folder, { recursive: true });
  }
}

function midiOfPlayed(played: readonly PlayedNote[], instrument: string): Uint8Array {
  const channel = played.some(({ midi }) => midi === null) ? DRUMS : 0;
  const sounding = played.flatMap(({ start, end, midi, loud }) => {
    const from = Math.round(start * 1000);
    return noteEvents({
      ...{ start: from / TICKS, end: Math.max(from + SHORTEST, Math.round(end * 1000)) / TICKS },
      key: Math.round(midi ?? SNARE),
      velocity: Math.max(20, Math.min(127, Math.round(30 + 90 * loud))),
      channel,
    });
  });
  const program = {
    deltaTime: 0,
    channel,
    type: 'programChange',
    programNumber: programOf(instrument),
  } as const;
  return trackFile([program], sounding, { ticks: TICKS, ringing: RINGING / TICKS });
}
