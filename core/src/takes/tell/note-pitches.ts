import { groupBy, roundTo, upperMedian } from '../../base/index.js';
import type { AskedMusic } from '../follow/asked-notes.js';
import type { FollowedTake } from '../follow/follow.js';
import { surestChance, surestMidi } from '../hear/yin.js';

/** Where a pitch stands in a take. Units: sounding MIDI number; cents from the take's own centre */
export interface NotePitch {
  readonly midi: number;
  readonly cents: number;
  readonly notes: number;
}

/** Beginning and end of a note are left out: there its pitch is on its way. Shape: a share of its time */
const EDGE = 0.25;
/** Of shorter notes no pitch is told. Units: seconds */
const SHORTEST = 0.18;
const SURE = 0.5;
/** What strays farther is another note. Units: semitones */
const ANOTHER = 0.6;

/**
 * How far each pitch of a take stands from the take's own centre.
 * Shape:  ascending; only of single notes that were followed surely, the middle of their frames
 * Units:  see NotePitch
 * Source: the design; YIN (2002) for the pitches
 */
export function notePitches(music: AskedMusic, { notes, heard, shift, tuning }: FollowedTake): NotePitch[] {
  const told = notes.flatMap(({ asked, seconds, end, isSure }) => {
    const midi = music.notes[asked]?.midis;
    const own = midi?.length === 1 ? midi[0] : undefined;
    const lasts = end - seconds;
    if (own === undefined || !isSure || lasts < SHORTEST) return [];
    const [from, to] = [seconds + lasts * EDGE, end - lasts * EDGE].map((at) => Math.round(at / heard.hop));
    const strays: number[] = [];
    for (let frame = from ?? 0; frame <= (to ?? 0); frame += 1) {
      const stray = surestMidi(heard.pitch, frame) - own - shift - tuning / 100;
      if (surestChance(heard.pitch, frame) >= SURE && Math.abs(stray) < ANOTHER) strays.push(stray * 100);
    }
    const cents = strays.length < 3 ? null : upperMedian(strays);
    return cents === null ? [] : [{ midi: own, cents }];
  });
  return [...groupBy(told, ({ midi }) => midi)]
    .map(([midi, all]) => ({
      midi,
      cents: roundTo(upperMedian(all.map(({ cents }) => cents)) ?? 0, 1),
      notes: all.length,
    }))
    .sort((a, b) => a.midi - b.midi);
}
