import { seededRandom } from '../base/index.js';
import { pitchName, tempoText, toNumber, withSigns, type BeatUnit, type Bpm } from '../music/index.js';
import { type AwkwardPair } from '../reading/index.js';
import {
  hasKnownNotes,
  printedSpan,
  runsOf,
  type Score,
  type ScoreMeasure,
  type Span,
} from '../score/index.js';
import type { Drill, DrillKind, DrillMeasure } from './drill.js';
import { addedNotes, landings, pairRepeated, widestPair, type NotePair } from './fragments.js';
import { groupsOf } from './groups.js';
import { balanced, passageMusic, type PassageMusic } from './passage-music.js';
import { DOTTED, REVERSE_DOTTED, VARIANTS } from './rhythms.data.js';
import {
  hasLongNotes,
  onOnePitch,
  runningValue,
  sharedAnew,
  strongNotes,
  tongued,
  totalQuarters,
} from './rhythms.js';
import { keyScale, passageKey } from './scale-drill.js';
import { anywhereSpans, turnMinutes, wideningSpans } from './widening.js';

/**
 * What drills are made with.
 * Shape:  `flagged` measures that slipped or surprised; `pairs` those the instrument makes awkward; `tempo` at which the
 *         passage is worked on; `seed` for the places of the start-anywhere test
 * Units:  measure indexes; beats per minute
 */
export interface DrillOptions {
  readonly flagged?: readonly number[];
  readonly pairs?: readonly AwkwardPair[];
  readonly tempo?: { readonly bpm: Bpm; readonly unit: BeatUnit; readonly quarterBpm: number } | null;
  readonly seed?: number;
}

/** Where no tempo is known, minutes are told for one beat a second. Units: quarters a minute. */
const STAND_IN_QUARTER_BPM = 60;
/** How often a drill is played in a session (our own estimate). */
const ROUNDS = 4;

/**
 * The drills of a passage, from its own notes.
 * Shape:  in the order in which they are usually taken; none that the passage gives no reason for; for music on paper
 *         without notes only those that need none
 * Errors: none
 * Source: the design, chapter 7; which are offered is common practice, no source
 */
export function drillsOf(score: Score, span: Span, options: DrillOptions = {}): Drill[] {
  const around = new DrillMaker(score, span, options);
  return score.measures.slice(span.fromIndex, span.endIndex).every(hasKnownNotes)
    ? [...around.ofNotes(), ...around.ofTurns()]
    : [...around.ofPaper(), ...around.ofTurns()];
}

/** A drill as its maker says it, before minutes are counted. */
interface Made {
  readonly kind: DrillKind;
  readonly title: string;
  readonly why: string;
  readonly how: string;
  readonly measures: readonly DrillMeasure[];
  readonly keepsLengths?: boolean;
}

class DrillMaker {
  private readonly music: PassageMusic;
  private readonly places: readonly ScoreMeasure[];
  private readonly quarterBpm: number;

  constructor(
    score: Score,
    private readonly span: Span,
    private readonly options: DrillOptions,
  ) {
    this.music = passageMusic(score, span);
    this.places = score.measures;
    this.quarterBpm = options.tempo?.quarterBpm ?? STAND_IN_QUARTER_BPM;
  }

  ofNotes(): Drill[] {
    return [
      ...this.rhythmAlone(),
      ...this.scale(),
      ...this.pair(),
      ...this.fragments(),
      ...this.rhythms(),
      ...this.longNotes(),
    ].map((made) => this.drill(made));
  }

  /** Drills of music that is known by its measures only. */
  ofPaper(): Drill[] {
    const { fromIndex, endIndex } = this.span;
    const told = this.places.slice(fromIndex, endIndex).filter(({ toldNotes }) => toldNotes !== null);
    const where = this.numbers(this.span);
    const rhythm: Made = {
      kind: 'rhythm-told',
      title: 'Say the rhythm',
      why:
        told.length > 0
          ? `fast notes in ${told.map(({ number }) => number).join(', ')}: say them before you play them`
          : `${where} before the instrument`,
      how: 'Clap the beat and say the rhythm aloud, measure by measure, twice without a stumble.',
      measures: [],
    };
    const tones: Made = {
      kind: 'long-tones',
      title: 'Long tones',
      why: `the notes of ${where} with the sound you want`,
      how: 'Hold each note of the passage for four slow beats. Sit down and breathe normally if you feel light-headed.',
      measures: [],
    };
    return [this.drill(rhythm), this.drill(tones), this.halfSpeed()];
  }

  /** Drills that say which measures to play, and need no notes of their own. */
  ofTurns(): Drill[] {
    const { fromIndex, endIndex } = this.span;
    const count = endIndex - fromIndex;
    if (count < 2) return [];
    const widening = this.turns(wideningSpans(this.span), {
      kind: 'widening',
      title: 'Wider and wider',
      why: `${this.flaggedText()}${count} measures: each alone, then in twos, then in threes`,
      how: 'Each turn clean twice, then the next. After the last single measure come overlapping twos, and so on to the whole.',
      measures: [],
    });
    if (count < 3) return [widening];
    const starts = anywhereSpans(this.span, seededRandom(this.options.seed ?? 1));
    return [
      widening,
      this.turns(starts, {
        kind: 'start-anywhere',
        title: 'Start anywhere',
        why: 'who can begin at every measure can go on after a slip',
        how: 'Begin at each of these measures without playing up to it; go on for two measures.',
        measures: [],
      }),
    ];
  }

  private drill(made: Made, spans: readonly Span[] = []): Drill {
    const measures = balanced(made.measures.map((measure, n) => ({ ...measure, number: String(n + 1) })));
    const own = (totalQuarters(measures) / this.quarterBpm) * ROUNDS;
    return {
      ...made,
      measures,
      keepsLengths: made.keepsLengths ?? false,
      spans,
      minutes: Math.max(1, Math.round(spans.length > 0 ? this.minutesOf(spans) : own)),
    };
  }

  private turns(spans: readonly Span[], made: Made): Drill {
    return this.drill(made, spans);
  }

  private minutesOf(spans: readonly Span[]): number {
    return turnMinutes(spans, ({ fromIndex, endIndex }) => {
      const lengths = this.places.slice(fromIndex, endIndex).map(({ length }) => toNumber(length));
      return (lengths.reduce((sum, length) => sum + length, 0) * 60) / this.quarterBpm;
    });
  }

  private halfSpeed(): Drill {
    const { tempo } = this.options;
    const click = tempo ? `${tempoText(Math.round(tempo.bpm / 2), tempo.unit)}` : 'half the tempo';
    return this.drill({
      kind: 'half-speed-click',
      title: 'Half speed, twice the clicks',
      why: `${this.numbers(this.span)} at ${click} shows what the fingers do`,
      how: 'The metronome clicks twice a beat. Play on every click that is yours; stop where it is not sure.',
      measures: [],
    });
  }

  private rhythmAlone(): Made[] {
    const { measures } = this.music;
    const lengths = new Set(
      measures.flatMap(({ notes }) => notes.map(({ length, isRest }) => `${isRest} ${toNumber(length)}`)),
    );
    if (lengths.size < 2) return [];
    return [
      {
        kind: 'rhythm-alone',
        title: 'The rhythm alone',
        why: `${this.flaggedText()}${lengths.size} different lengths in ${this.numbers(this.span)}: the rhythm first, without the notes`,
        how: 'Everything on one note, tongued, with the click; then clap it without the instrument.',
        measures: onOnePitch(measures),
        keepsLengths: true,
      },
    ];
  }

  private scale(): Made[] {
    const key = passageKey(this.music);
    const measures = keyScale(this.music, key);
    if (measures.length === 0) return [];
    return [
      {
        kind: 'scale',
        title: `${withSigns(key.name)}, as the passage is played`,
        why: `${this.numbers(this.span)} ${this.span.endIndex - this.span.fromIndex === 1 ? 'lies' : 'lie'} in ${withSigns(key.name)}`,
        how: 'The scale of the key with the articulation of the passage, up and down without a stop.',
        measures,
      },
    ];
  }

  private pair(): Made[] {
    const known = this.knownPair();
    const pair = known?.pair ?? widestPair(this.music.measures);
    if (!pair) return [];
    const name = [pair.first, pair.second].map(({ pitches }) => nameOf(pitches.at(-1))).join(' and ');
    return [
      {
        kind: 'awkward-pair',
        title: `${name}, to and fro`,
        why: `${name} in ${pair.first.measure}${known ? `: ${known.why}` : ' lie far apart'}`,
        how: 'Slowly, twice as fast, then quick; stop as soon as it is not even.',
        measures: pairRepeated(pair),
      },
    ];
  }

  /** The first pair that the instrument makes awkward and that stands in the passage. */
  private knownPair(): { readonly pair: NotePair; readonly why: string } | null {
    for (const { measure: number, from, to, why } of this.options.pairs ?? [])
      for (const measure of this.music.measures) {
        if (measure.number !== number) continue;
        const at = measure.notes.findIndex(
          (note, n) => plainName(note.pitches) === from && plainName(measure.notes[n + 1]?.pitches) === to,
        );
        const [first, second] = [measure.notes[at], measure.notes[at + 1]];
        if (first && second) return { pair: { measure, first, second }, why };
      }
    return null;
  }

  private fragments(): Made[] {
    const { measures } = this.music;
    const where = this.fastPlaces(2);
    const made: Made[] = [
      {
        kind: 'beat-and-landing',
        title: 'A beat and its landing',
        why: `${this.flaggedText()}fast notes in ${where}: each beat with the note it lands on`,
        how: 'Play one beat and land; rest, look at the next, play it. Quick from the first day, since it is short.',
        measures: landings(measures, 1),
      },
      {
        kind: 'longer-segments',
        title: 'Two beats and the landing',
        why: `the beats of ${where} joined in twos`,
        how: 'The same with two beats at a time.',
        measures: landings(measures, 2),
      },
      {
        kind: 'add-from-start',
        title: 'A note more each time',
        why: `the longest run of ${where}, from its first note on`,
        how: 'Each line clean twice before the next note is added.',
        measures: addedNotes(measures, 'start'),
      },
      {
        kind: 'add-from-end',
        title: 'A note more each time, from the end',
        why: `the longest run of ${where} always runs into what is known`,
        how: 'Begin with the last two notes; each line adds one before them.',
        measures: addedNotes(measures, 'end'),
      },
    ];
    return made.filter((one) => one.measures.length > 0);
  }

  private rhythms(): Made[] {
    const { measures } = this.music;
    const threes = this.hasGroups([3]);
    const evens = this.hasGroups([4, 6, 8]);
    if (!threes && !evens && !this.hasGroups([2])) return [];
    const what = threes && !evens ? 'triplets' : 'even notes';
    const where = this.fastPlaces(2);
    const dotted: Made[] = [
      {
        kind: 'dotted',
        title: 'Dotted',
        why: `${this.flaggedText()}${what} in ${where}: dotted, then reverse-dotted`,
        how: 'The short note as late and as light as you can.',
        measures: sharedAnew(measures, DOTTED),
        keepsLengths: true,
      },
      {
        kind: 'reverse-dotted',
        title: 'Reverse-dotted',
        why: `${what} in ${where}: after the dotted rhythm the other notes are the quick ones`,
        how: 'The short note first, on the beat.',
        measures: sharedAnew(measures, REVERSE_DOTTED),
        keepsLengths: true,
      },
    ];
    const strong: Made[] =
      evens || threes
        ? [
            {
              kind: 'strong-notes',
              title: 'The strong notes',
              why: `what carries the run in ${this.fastPlaces(3)}, at the target’s own beat`,
              how: 'At the target tempo from the start: half of the notes, twice as long.',
              measures: strongNotes(measures),
              keepsLengths: true,
            },
          ]
        : [];
    return [...strong, ...dotted, ...this.variants()];
  }

  private variants(): Made[] {
    const sizes = new Set(
      this.music.measures.flatMap((measure) => groupsOf(measure).map(({ count }) => count)),
    );
    return VARIANTS.filter(({ rows }) => [...sizes].some((size) => rows[size] !== undefined)).map(
      ({ name, rows }) => ({
        kind: 'rhythm-variant',
        title: `Rhythm: ${name}`,
        why: `groups of ${[...sizes]
          .filter((size) => rows[size] !== undefined)
          .sort((a, b) => a - b)
          .join(' and ')} in ${this.fastPlaces(3)}`,
        how: 'Stop on the long note, think, then throw the short ones at once.',
        measures: sharedAnew(this.music.measures, rows),
        keepsLengths: true,
      }),
    );
  }

  private longNotes(): Made[] {
    const { measures } = this.music;
    const value = runningValue(measures);
    if (value === null || !hasLongNotes(measures, value)) return [];
    const where = this.numbersOf(measures.flatMap((one, n) => (hasLongNotes([one], value) ? [n] : [])));
    return [
      {
        kind: 'tongued',
        title: 'Ties and long notes tongued through',
        why: `long or tied notes in ${where}: tongue the running value and their length is sure`,
        how: 'Tongue every small value inside the long notes; then play them as written and hear it go on inside.',
        measures: tongued(measures, value),
        keepsLengths: true,
      },
      {
        kind: 'long-tones',
        title: 'Long tones',
        why: `held notes in ${where}`,
        how: 'Hold each for as long as it stays steady. Sit down and breathe normally if you feel light-headed.',
        measures: [],
      },
    ];
  }

  private hasGroups(sizes: readonly number[]): boolean {
    return this.music.measures.some((measure) =>
      groupsOf(measure).some(({ count }) => sizes.includes(count)),
    );
  }

  /** The measures in which groups of at least so many notes stand. */
  private fastPlaces(size: number): string {
    return this.numbersOf(
      this.music.measures.flatMap((measure, n) =>
        groupsOf(measure).some(({ count }) => count >= size) ? [n] : [],
      ),
    );
  }

  private numbersOf(places: readonly number[]): string {
    return runsOf(places.map((place) => place + this.span.fromIndex))
      .map((run) => this.numbers(run))
      .join(', ');
  }

  private numbers(span: Span): string {
    const { from, to } = printedSpan(this.places, span);
    return from === to ? from : `${from}–${to}`;
  }

  private flaggedText(): string {
    const inside = (this.options.flagged ?? []).filter(
      (index) => index >= this.span.fromIndex && index < this.span.endIndex,
    );
    if (inside.length === 0) return '';
    const where = runsOf([...new Set(inside)].sort((a, b) => a - b)).map((run) => this.numbers(run));
    return `slips in ${where.join(', ')}; `;
  }
}

function nameOf(pitch: Parameters<typeof pitchName>[0] | undefined): string {
  return pitch ? withSigns(pitchName(pitch).replace(/-?\d+$/u, '')) : 'a stroke';
}

function plainName(pitches: DrillMeasure['notes'][number]['pitches'] | undefined): string {
  const pitch = pitches?.at(-1);
  return pitch ? pitchName(pitch) : '';
}
