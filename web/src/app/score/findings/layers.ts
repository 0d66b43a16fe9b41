import { computed, inject, Injectable, signal } from '@angular/core';
import { lookOf } from '@vivid-cue/core/cue-kinds';
import { beatCount, inVocabulary, measureSign, meterFrom, withSigns } from '@vivid-cue/core/music';
import type { NotePlace } from '@vivid-cue/core/reading';
import { indexesOf, inRuns, measureIndexes } from '@vivid-cue/core/score';
import { SessionStore } from '../../data/session-store';
import type { RibbonMarks } from '../ribbon/ribbon-model';
import { ReadingStore } from './reading-store';
import { RoomStore } from '../room/room-store';
import { signPlace } from '../engraving/sign-place';
import { RoomWords } from '../room/room-words';
import {
  OFF_KEY,
  shapeOf,
  type ArticulationShape,
  type ChosenMarks,
  type ScoreMarks,
  type ScoreSign,
} from '../engraving/score-marks';

/** The layers over the music, in the order of their keys 1 to 7. */
export const LAYERS = [
  { name: 'findings', label: 'Findings' },
  { name: 'demand', label: 'Demand' },
  { name: 'articulation', label: 'Articulation' },
  { name: 'dynamics', label: 'Dynamics' },
  { name: 'names', label: 'Accidentals' },
  { name: 'rhythm', label: 'Rhythm' },
  { name: 'alike', label: 'Alike' },
] as const;

/** One of the layers. */
export type LayerName = (typeof LAYERS)[number]['name'];

/** Findings of less weight make no tick on the ribbon: it would be full of them (our own knee). */
const TICK_IMPORTANCE = 0.5;

/** As many rhythms as there are tints to tell them apart. */
const MOST_RHYTHMS = 4;

/** Which layers are on, and what they draw into the music and onto the ribbon. */
@Injectable()
export class LayerStore {
  private readonly reading = inject(ReadingStore);
  private readonly room = inject(RoomStore);
  private readonly session = inject(SessionStore);
  private readonly words = inject(RoomWords);

  readonly on = signal<ReadonlySet<LayerName>>(new Set(['findings']));
  /** The note that is asked for; null takes the first of the list. */
  readonly askedName = signal<string | null>(null);

  private readonly runs = computed(() => this.room.room()?.runs ?? []);
  private readonly facts = computed(() =>
    (this.reading.result()?.facts ?? []).filter(({ index }) => inRuns(this.runs(), index)),
  );
  /** The notes that can be asked for, those off the key first. */
  readonly names = computed(() => {
    const offKey = new Set<string>();
    const counts = new Map<string, number>();
    const runs = this.runs();
    let off = 0;
    const asked = (this.reading.result()?.engraved ?? []).filter((_, index) => inRuns(runs, index));
    for (const note of asked.flat()) {
      if (note.isOffKey && note.note > 0) off += 1;
      if (note.name === null || note.note === 0) continue;
      counts.set(note.name, (counts.get(note.name) ?? 0) + 1);
      if (note.isOffKey) offKey.add(note.name);
    }
    const list = [...counts]
      .map(([name, count]) => ({ name, count, isOffKey: offKey.has(name) }))
      .sort((a, b) => Number(b.isOffKey) - Number(a.isOffKey) || a.name.localeCompare(b.name));
    return [
      ...(off > 0 ? [{ value: OFF_KEY, label: `every note off the key, ${off}` }] : []),
      ...list.map(({ name, count, isOffKey }) => ({
        value: name,
        label: `every ${this.nameText(name)}, ${count}${isOffKey ? ', off the key' : ''}`,
      })),
    ];
  });
  readonly name = computed(() => this.askedName() ?? this.names()[0]?.value ?? null);
  /** Counts of the asked note by measure index. */
  private readonly nameCounts = computed(() => {
    const name = this.name();
    const runs = this.runs();
    return (this.reading.result()?.engraved ?? []).map((notes, index) =>
      !inRuns(runs, index)
        ? 0
        : notes.filter((note) => note.note > 0 && (name === OFF_KEY ? note.isOffKey : note.name === name))
            .length,
    );
  });
  readonly nameSentence = computed(() => {
    const counts = this.nameCounts();
    const total = counts.reduce((sum, count) => sum + count, 0);
    const numbers = counts.flatMap((count, index) => (count > 0 ? [this.numberAt(index)] : []));
    if (total === 0) return inVocabulary('none in the asked measures', this.session.vocabulary());
    const sign = measureSign(numbers.length, this.session.vocabulary());
    return `${total} in ${sign} ${numbers.join(', ')}`;
  });
  /** Articulations of the asked measures by frequency. */
  readonly articulations = computed(
    (): readonly { kind: string; count: number; shape: ArticulationShape }[] => {
      const counts = new Map<string, number>();
      for (const { articulations } of this.facts())
        for (const [kind, count] of articulations) counts.set(kind, (counts.get(kind) ?? 0) + count);
      return [...counts]
        .sort((a, b) => b[1] - a[1])
        .map(([kind, count]) => ({
          kind: this.words.say(kind.replaceAll('+', ' + ')),
          count,
          shape: shapeOf(kind),
        }));
    },
  );
  readonly dynamics = computed(() => {
    return this.facts()
      .filter(({ dynamics }) => dynamics.length > 0)
      .map(({ index, dynamics }) => ({
        number: this.numberAt(index),
        text: dynamics.map((one) => (one === 'crescendo' ? '<' : one === 'diminuendo' ? '>' : one)).join(' '),
      }));
  });
  readonly rhythms = computed(() => (this.reading.result()?.reading.patterns ?? []).slice(0, MOST_RHYTHMS));
  /** Pairs of measures that are alike, as findings. */
  readonly pairs = computed(() => this.reading.findings().filter(({ pair }) => pair !== null));

  readonly hasDynamics = computed(() => this.on().has('dynamics'));
  readonly score = computed((): ScoreMarks | null => {
    const result = this.reading.result();
    if (!result) return null;
    const on = this.on();
    return {
      engraved: result.engraved,
      heat: on.has('demand') ? this.heat() : null,
      articulations: on.has('articulation'),
      name: on.has('names') ? this.name() : null,
      rhythms: on.has('rhythm') ? this.rhythmLetters() : null,
      alike: on.has('alike') ? this.alike() : null,
      findings: on.has('findings') ? this.findingTones() : null,
      signs: this.signs(),
    };
  });
  /** Whether cues stand on the music: a layer of their own. */
  readonly areCuesOn = signal(true);
  /** The note that is looked at. */
  readonly note = signal<NotePlace | null>(null);
  readonly chosen = computed((): ChosenMarks | null => {
    const [finding, note] = [this.reading.chosen(), this.note()];
    if (note) return { places: new Set([note.index]), notes: [note] };
    return finding && { places: new Set(finding.places), notes: finding.notes };
  });
  readonly ribbon = computed((): RibbonMarks | null => {
    const result = this.reading.result();
    if (!result) return null;
    const on = this.on();
    const breaths = result.reading.breathingPlaces.filter(({ kind }) => kind === 'breath mark');
    return {
      heat: on.has('demand') ? this.heat() : null,
      findings: on.has('findings') ? this.findingTones() : new Map(),
      texts: on.has('names')
        ? this.nameCounts().map((count) => (count > 0 ? String(count) : null))
        : on.has('rhythm')
          ? this.rhythmLetters()
          : null,
      breaths: new Set(breaths.map(({ measure }) => this.indexOf(measure))),
      cues: new Set(indexesOf(this.room.room()?.cues ?? [])),
    };
  });

  toggle(name: LayerName): void {
    this.on.update((on) => {
      const next = new Set(on);
      if (!next.delete(name)) next.add(name);
      return next;
    });
  }

  /** What air and hands offer while they are looked at. Shape: by measure index */
  readonly offered = signal<ReadonlyMap<number, readonly ScoreSign[]>>(new Map());
  /** Cues with a sign, and over them what is offered. */
  private readonly signs = computed((): ReadonlyMap<number, readonly ScoreSign[]> => {
    const all = new Map<number, readonly ScoreSign[]>();
    const add = (index: number, sign: ScoreSign): unknown =>
      all.set(index, [...(all.get(index) ?? []), sign]);
    const looks = this.room.room()?.book.looks ?? [];
    const measures = this.room.room()?.score?.digest.measures ?? [];
    for (const { id, sign, note, beat, fromIndex, kind, status } of this.areCuesOn()
      ? (this.room.room()?.cues ?? [])
      : [])
      if (sign !== '')
        add(fromIndex, {
          share: beat === null ? null : beatShare(beat, measures[fromIndex]?.time ?? ''),
          ...{ cueId: id, note, text: sign, place: signPlace(kind), look: lookOf(kind, looks) },
          isOffered: status !== 'settled',
        });
    for (const [index, signs] of this.offered())
      for (const sign of signs) {
        const isThere = all.get(index)?.some((one) => one.note === sign.note && one.place === sign.place);
        if (isThere !== true) add(index, sign);
      }
    return all;
  });

  /** Every measure's demand beside the most demanding one's. */
  private readonly heat = computed(() => {
    const facts = this.reading.result()?.facts ?? [];
    const most = Math.max(0.001, ...this.facts().map(({ demand }) => demand?.score ?? 0));
    return facts.map(({ demand }) => (demand ? Math.min(1, demand.score / most) : null));
  });
  private readonly rhythmLetters = computed(() => {
    const shown = new Set(this.rhythms().map(({ id }) => id));
    return (this.reading.result()?.facts ?? []).map(({ rhythm }) =>
      rhythm !== null && shown.has(rhythm) ? rhythm : null,
    );
  });
  private readonly findingTones = computed((): ReadonlyMap<number, 'open' | 'kept'> => {
    const tones = new Map<number, 'open' | 'kept'>();
    for (const { places, mark, importance } of this.reading.findings()) {
      if (importance < TICK_IMPORTANCE || places.length > 4) continue;
      for (const index of places)
        if (mark === null || mark === 'pinned' || !tones.has(index))
          tones.set(index, mark === null || tones.get(index) === 'open' ? 'open' : 'kept');
    }
    return tones;
  });
  private readonly alike = computed(() => {
    const texts: (string | null)[] = (this.reading.result()?.facts ?? []).map(() => null);
    const { exactRepeats = [], nearRepeats = [] } = this.reading.result()?.reading ?? {};
    for (const { a, b } of nearRepeats) texts[this.indexOf(b)] = `like ${a}`;
    for (const { a, b } of exactRepeats) {
      const [from = 0, start = 0, end = start] = [
        this.indexOf(a.split('-')[0] ?? ''),
        ...b.split('-').map((number) => this.indexOf(number)),
      ];
      for (let n = 0; n <= end - start; n += 1) texts[start + n] = `= ${this.numberAt(from + n)}`;
    }
    return texts;
  });
  private readonly indexes = computed(() => measureIndexes(this.room.room()?.score?.digest.measures ?? []));

  private indexOf(number: string): number {
    return this.indexes().get(number) ?? 0;
  }

  private numberAt(index: number): string {
    return this.room.room()?.score?.digest.measures[index]?.number ?? '';
  }

  private nameText(name: string): string {
    return name.length === 1 ? `${name}♮` : withSigns(name);
  }
}

/** How far into its measure a printed beat is. Shape: 0 to 1 */
function beatShare(beat: number, time: string): number {
  const meter = meterFrom(time);
  return meter ? Math.min(1, (beat - 1) / beatCount(meter)) : 0;
}
