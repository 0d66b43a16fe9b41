import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { NEVER, of } from 'rxjs';
import type { PassageView, ScoreRoomView } from '@vivid-cue/contract';
import { ScoreApi } from '../../data/score-api';
import { ReadingStore } from '../findings/reading-store';
import { RoomStore } from '../room/room-store';
import { SuggestionStore } from './suggestion-store';

interface Wish {
  readonly name: string;
  readonly from: string;
  readonly to: string;
  readonly isSeam?: boolean;
}

const suggestion = (fromIndex: number, endIndex: number, name: string) => ({
  fromIndex,
  endIndex,
  name,
  why: 'a phrase',
});
const passage = (fromIndex: number, endIndex: number): PassageView =>
  ({ id: `${fromIndex}`, fromIndex, endIndex, isSeam: false }) as PassageView;

describe('SuggestionStore', () => {
  const passages = signal<readonly PassageView[]>([]);
  const result = signal<unknown>(null);
  let store: SuggestionStore;
  let sent: readonly Wish[];
  let isSlow: boolean;

  beforeEach(() => {
    passages.set([]);
    sent = [];
    isSlow = false;
    result.set({
      suggestions: [suggestion(0, 4, 'tune'), suggestion(4, 8, 'answer'), suggestion(8, 12, 'return')],
      facts: Array.from({ length: 12 }, () => ({})),
    });
    // A pickup of number 0: printed numbers are one less than places.
    const measures = Array.from({ length: 12 }, (_, index) => ({ number: String(index) }));
    const room = { programPartId: 'p', score: { digest: { measures } } };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        SuggestionStore,
        { provide: ReadingStore, useValue: { result } },
        {
          provide: RoomStore,
          useValue: {
            room: () => ({ ...room, passages: passages() }) as unknown as ScoreRoomView,
            run: (
              call: { subscribe: (next: (made: unknown) => void) => void },
              done: (made: unknown) => void,
            ) => call.subscribe(done),
            replaceAll: () => undefined,
          },
        },
        {
          provide: ScoreApi,
          useValue: {
            addPassages: (_part: string, list: readonly Wish[]) => {
              sent = list;
              return isSlow ? NEVER : of([]);
            },
          },
        },
      ],
    });
    store = TestBed.inject(SuggestionStore);
  });

  const spans = (): string[] =>
    store.free().map(({ name, fromIndex, endIndex }) => `${name} ${fromIndex}–${endIndex}`);

  it('shows by itself until a passage is there, and when it is asked for', () => {
    expect(store.isShown()).toBeTrue();
    passages.set([passage(0, 4)]);
    expect(store.isShown()).toBeFalse();
    store.show();
    expect(store.isShown()).toBeTrue();
    expect(spans()).toEqual(['answer 4–8', 'return 8–12']);
    store.putAway();
    expect(store.isShown()).toBeFalse();
  });

  it('joins, cuts, moves, names and drops, and gives it all back when it is asked again', () => {
    const ghost = (n: number) => store.free()[n] ?? fail('There is no such ghost.');
    store.merge(ghost(0) as never);
    expect(spans()).toEqual(['tune 0–8', 'return 8–12']);
    store.split(ghost(0) as never, 3);
    expect(store.free().map(({ fromIndex, endIndex }) => [fromIndex, endIndex])).toEqual([
      [0, 3],
      [3, 8],
      [8, 12],
    ]);
    expect(new Set(store.free().map(({ id }) => id)).size).toBe(3);
    store.rename(ghost(2) as never, 'coda');
    store.drop(ghost(1) as never);
    expect(spans()).toEqual(['tune 0–3', 'coda 8–12']);
    store.again();
    expect(spans()).toEqual(['tune 0–4', 'answer 4–8', 'return 8–12']);
  });

  it('takes all with the seams between them, by printed numbers, and one without', () => {
    store.take(store.free(), () => undefined);
    expect(
      sent.filter(({ isSeam }) => isSeam !== true).map(({ name, from, to }) => `${name} ${from}–${to}`),
    ).toEqual(['tune 0–3', 'answer 4–7', 'return 8–11']);
    // A seam is the last measure of one and the first of the next.
    expect(sent.filter(({ isSeam }) => isSeam === true).map(({ from, to }) => `${from}–${to}`)).toEqual([
      '3–4',
      '7–8',
    ]);
    store.take(store.free().slice(0, 1), () => undefined);
    expect(sent.map(({ name }) => name)).toEqual(['tune']);
  });

  it('makes the same passages when the same are taken twice, as two clicks on a slow line do', () => {
    isSlow = true;
    store.take(store.free(), () => undefined);
    const first = sent;
    store.take(store.free(), () => undefined);
    expect(sent).toEqual(first);
  });
});
