import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import {
  findingsOf,
  engravedNotes,
  measureFacts,
  measurePrints,
  readMusic,
  soloLine,
} from '@vivid-cue/core/reading';
import { digestScore, readScore } from '@vivid-cue/core/score';
import { LayerStore } from './layers';
import { ReadingStore } from './reading-store';
import { RoomStore } from '../room/room-store';
import { RoomWords } from '../room/room-words';
import { OFF_KEY } from '../engraving/score-marks';
import { SessionStore } from '../../data/session-store';

/** G major in 4/4: measures 1 and 3 are the same, 2 and 4 but for its C♯; F♮ stands once, in 5. */
const BARS = ['G4 A4 B4 D5', 'C5 B4 A4 G4', 'G4 A4 B4 D5', 'C#5 B4 A4 G4', 'F5 E5 D5 B4', 'G4 B4 D5 G5'];

function studyOf(bars: readonly string[]): Uint8Array {
  const note = (name: string): string => {
    const [, step = '', sharp = '', octave = ''] = /^([A-G])(#?)(\d)$/u.exec(name) ?? [];
    return `<note><pitch><step>${step}</step>${alterOf(step, sharp)}<octave>${octave}</octave></pitch><duration>1</duration><type>quarter</type></note>`;
  };
  const alterOf = (step: string, sharp: string): string =>
    sharp === '#' && step !== 'F' ? '<alter>1</alter>' : '';
  const attributes =
    '<attributes><divisions>1</divisions><key><fifths>1</fifths></key><time><beats>4</beats><beat-type>4</beat-type></time></attributes>';
  const measures = bars.map(
    (bar, n) =>
      `<measure number="${n + 1}">${n === 0 ? attributes : ''}${bar.split(' ').map(note).join('')}</measure>`,
  );
  return new TextEncoder().encode(
    `<score-partwise version="4.0"><part-list><score-part id="P1"><part-name>Flute</part-name></score-part></part-list><part id="P1">${measures.join('')}</part></score-partwise>`,
  );
}

describe('LayerStore', () => {
  const runs = signal<{ fromIndex: number; endIndex: number }[]>([]);
  const vocabulary = signal<'us' | 'uk'>('us');
  const instrument = signal('flute');
  let layers: LayerStore;

  beforeEach(() => {
    const read = readScore(studyOf(BARS), { partId: null });
    if (!read.ok) throw new Error(read.issues[0]?.message);
    const score = read.value;
    const line = soloLine(score);
    const reading = readMusic(score, { instrument: 'flute', bpm: 96 });
    const findings = findingsOf(score, line, { reading }).map((finding) => ({ ...finding, mark: null }));
    const result = {
      reading,
      prints: measurePrints(score, line),
      facts: measureFacts(score, line, { reading, bpm: 96 }),
      engraved: engravedNotes(score, line),
    };
    runs.set([]);
    vocabulary.set('us');
    instrument.set('flute');
    const room = signal({
      get student() {
        return { instrument: instrument() };
      },
      score: { digest: digestScore(score) },
      book: { looks: [] },
      cues: [{ fromIndex: 1, endIndex: 3 }],
      get runs() {
        return runs();
      },
    });
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        LayerStore,
        RoomWords,
        {
          provide: ReadingStore,
          useValue: { result: signal(result), findings: signal(findings), chosen: signal(null) },
        },
        { provide: RoomStore, useValue: { room } },
        { provide: SessionStore, useValue: { vocabulary } },
      ],
    });
    layers = TestBed.inject(LayerStore);
  });

  it('lists the notes that can be asked for, those off the key first, and says where they stand', () => {
    const labels = layers.names().map(({ label }) => label);
    expect(labels[0]).toBe('every note off the key, 2');
    expect(labels).toContain('every C♯, 1, off the key');
    expect(labels).toContain('every F♮, 1, off the key');
    expect(labels).toContain('every B♮, 6');
    expect(layers.name()).toBe(OFF_KEY);
    expect(layers.nameSentence()).toBe('2 in mm. 4, 5');
    layers.askedName.set('C');
    expect(layers.nameSentence()).toBe('1 in m. 2');
    vocabulary.set('uk');
    expect(layers.nameSentence()).toBe('1 in bar 2');
  });

  it('asks only the measures that the sheet asks for', () => {
    runs.set([{ fromIndex: 0, endIndex: 4 }]);
    expect(layers.names()[0]?.label).toBe('every note off the key, 1');
    expect(layers.nameSentence()).toBe('1 in m. 4');
  });

  it('draws nothing of a layer that is off, and takes each away again', () => {
    expect([layers.score()?.heat, layers.score()?.name, layers.score()?.alike]).toEqual([null, null, null]);
    layers.toggle('demand');
    layers.toggle('alike');
    const heat = layers.score()?.heat ?? [];
    // The measure that asks most is the measure of all.
    expect(Math.max(...heat.map((one) => one ?? 0))).toBe(1);
    expect(layers.score()?.alike).toEqual([null, null, '= 1', 'like 2', null, null]);
    layers.toggle('demand');
    expect(layers.score()?.heat).toBeNull();
  });

  it('names articulations as the student’s instrument makes them', () => {
    const kinds = (): string[] => layers.articulations().map(({ kind, count }) => `${kind} ${count}`);
    expect(kinds()).toEqual(['tongued 24']);
    instrument.set('viola');
    expect(kinds()).toEqual(['bowed 24']);
  });

  it('carries cues and counts onto the ribbon', () => {
    expect([...(layers.ribbon()?.cues ?? [])]).toEqual([1, 2]);
    layers.toggle('names');
    expect(layers.ribbon()?.texts).toEqual([null, null, null, '1', '1', null]);
  });
});
