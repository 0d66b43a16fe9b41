import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { writeMidi, type MidiEvent } from 'midi-file';
import { programOf, SNARE } from '../../midi/index.js';
import { readWav } from '../sound/wav.js';
import type { Sound } from '../sound/sound.js';
import type { PlayedNote } from './performer.js';

/** A General MIDI sound font, as Debian has it. */
const SOUND_FONT = '/usr/share/sounds/sf2/TimGM6mb.sf2';
/** A tick is a millisecond: so many of them are a quarter of half a second. */
const TICKS = 500;
const DRUMS = 9;

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
  const timed = played.flatMap(({ start, end, midi, loud }) => {
    const [noteNumber, from] = [Math.round(midi ?? SNARE), Math.round(start * 1000)];
    const velocity = Math.max(20, Math.min(127, Math.round(30 + 90 * loud)));
    const to = Math.max(from + 20, Math.round(end * 1000));
    return [
      { at: from, order: 1, event: { type: 'noteOn', channel, noteNumber, velocity } },
      { at: to, order: 0, event: { type: 'noteOff', channel, noteNumber, velocity: 0 } },
    ];
  });
  let last = 0;
  const events = timed
    .sort((a, b) => a.at - b.at || a.order - b.order)
    .map(({ at, event }) => {
      const deltaTime = at - last;
      last = at;
      return { deltaTime, ...event } as MidiEvent;
    });
  const track: MidiEvent[] = [
    { deltaTime: 0, channel, type: 'programChange', programNumber: programOf(instrument) },
    ...events,
    // What rings on is part of the take.
    { deltaTime: 1500, meta: true, type: 'endOfTrack' },
  ];
  return Uint8Array.from(
    writeMidi({ header: { format: 0, numTracks: 1, ticksPerBeat: TICKS }, tracks: [track] }),
  );
}
