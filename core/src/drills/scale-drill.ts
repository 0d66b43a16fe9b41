import { midiOf, parsePitch, quarters, tonicOf, type Mode, type Pitch } from '../music/index.js';
import { readScaleKey, scaleInstrument, scaleNotes } from '../scale/index.js';
import type { DrillMeasure, DrillNote } from './drill.js';
import { groupsOf } from './groups.js';
import { restOf, type PassageMusic } from './passage-music.js';

/** A passage's key. Shape: `name` such as "E♭ major" in plain signs */
export interface PassageKey {
  readonly name: string;
  readonly mode: Mode;
}

/**
 * The key of a passage by its signature: minor where the raised leading note of the minor key stands in it and the
 * dominant of the major key's own does not lead back, else major.
 * Source: common practice, no source
 */
export function passageKey({ fifths, measures }: PassageMusic): PassageKey {
  const minor = tonicOf(fifths, 'minor');
  const tonic = parsePitch(`${minor}4`);
  const heard = pitchesOf(measures).map((pitch) => midiOf(pitch) % 12);
  const tonicClass = tonic === null ? -1 : midiOf(tonic) % 12;
  const leading = heard.filter((pitch) => pitch === (tonicClass + 11) % 12).length;
  const subtonic = heard.filter((pitch) => pitch === (tonicClass + 10) % 12).length;
  const mode: Mode = leading > 0 && leading >= subtonic ? 'minor' : 'major';
  return { mode, name: `${mode === 'minor' ? minor : tonicOf(fifths, 'major')} ${mode}` };
}

function pitchesOf(measures: readonly DrillMeasure[]): Pitch[] {
  return measures.flatMap(({ notes }) => notes.flatMap(({ pitches }) => pitches));
}

/**
 * The scale of a passage's key with the passage's own articulation.
 * Shape:  one or two octaves in eighths, as far as the instrument reaches; empty without pitches or where no octave fits
 * Source: common practice, no source
 */
export function keyScale(music: PassageMusic, { name, mode }: PassageKey): DrillMeasure[] {
  const pitches = pitchesOf(music.measures);
  const key = readScaleKey(mode === 'minor' ? name.replace('minor', 'harmonic minor') : name);
  const [first] = music.measures;
  if (pitches.length === 0 || !key.ok || !first) return [];
  const heights = pitches.map((pitch) => midiOf(pitch));
  const isWide = Math.max(...heights) - Math.min(...heights) > 14;
  const known = scaleInstrument(music.instrument);
  const bounds = known.ok
    ? known.value
    : { low: pitches[heights.indexOf(Math.min(...heights))] ?? LOW, high: HIGH };
  const [octaves] = (isWide ? [2, 1] : [1]).flatMap((count) => {
    const scale = scaleNotes(key.value, count, bounds);
    return scale.ok ? [scale.value] : [];
  });
  if (!octaves) return [];
  return inEighths(octaves, patternOf(music.measures), first);
}

const LOW: Pitch = { step: 'C', alter: 0, octave: 4 };
const HIGH: Pitch = { step: 'C', alter: 0, octave: 8 };

type Pattern = readonly Pick<DrillNote, 'slurStarts' | 'slurStops' | 'articulations'>[];

/** How the first group of fast notes with a sign of its own is played: a pattern for every four notes or three. */
function patternOf(measures: readonly DrillMeasure[]): Pattern {
  const groups = measures.flatMap((measure) =>
    groupsOf(measure)
      .filter(({ count }) => count >= 3)
      .map(({ from, count }) => measure.notes.slice(from, from + Math.min(count, 4))),
  );
  const marked = groups.find((notes) =>
    notes.some(({ slurStarts, articulations }) => slurStarts > 0 || articulations.length > 0),
  );
  return marked ?? [];
}

function inEighths(pitches: readonly Pitch[], pattern: Pattern, { fifths }: DrillMeasure): DrillMeasure[] {
  const size = pattern.length || 1;
  const notes = pitches.map((pitch, n): DrillNote => {
    const how = n < pitches.length - (pitches.length % size) ? pattern[n % size] : undefined;
    return {
      ...restOf(quarters(1, 2), ''),
      isRest: false,
      pitches: [pitch],
      slurStarts: how?.slurStarts ?? 0,
      slurStops: how?.slurStops ?? 0,
      articulations: how?.articulations ?? [],
    };
  });
  const measures: DrillMeasure[] = [];
  for (let from = 0; from < notes.length; from += 8) {
    const own = notes.slice(from, from + 8);
    const missing = 8 - own.length;
    measures.push({
      number: String(measures.length + 1),
      meter: { groups: [4], beatType: 4 },
      fifths,
      words: null,
      notes: missing > 0 ? [...own, restOf(quarters(missing, 2), '')] : own,
    });
  }
  return measures;
}
