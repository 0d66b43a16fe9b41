import { signal } from '@angular/core';
import { of, throwError, type Observable } from 'rxjs';
import {
  PLAIN_CUE,
  type CueChange,
  type CueInput,
  type CueView,
  type ScoreRoomView,
} from '@vivid-cue/contract';
import { ScoreApi } from '../../data/score-api';
import { SessionStore } from '../../data/session-store';
import { refusal, show, type Shown } from '../../testing/shown';
import { RoomStore } from '../room/room-store';
import { CueStore } from './cue-store';
import { CuesPanel } from './cues-panel';

const cue = (change: Partial<CueView> = {}): CueView => ({
  id: 'c',
  kind: 'trap',
  from: '9',
  to: '10',
  fromIndex: 8,
  endIndex: 10,
  text: 'C natural here',
  ...PLAIN_CUE,
  findingKey: null,
  version: 1,
  ...change,
});

describe('CuesPanel', () => {
  let panel: Shown<CuesPanel>;
  let sent: (CueInput | CueChange)[];
  let fails: unknown;
  let copied: unknown[];
  const note = signal<{ index: number; note: number } | null>(null);
  const room = signal<ScoreRoomView | null>(null);

  const cues = (change: (list: readonly CueView[]) => readonly CueView[]): void =>
    room.update((now) => now && { ...now, cues: change(now.cues) });

  beforeEach(async () => {
    [sent, fails, copied] = [[], null, []];
    note.set(null);
    const measures = Array.from({ length: 16 }, (_, n) => ({ number: String(n + 1) }));
    room.set({
      programPartId: 'p',
      cues: [cue()],
      score: { digest: { measures } },
    } as unknown as ScoreRoomView);
    const take = (wish: CueInput | CueChange): Observable<CueView> => {
      sent.push(wish);
      return fails ? throwError(() => fails) : of(cue({ ...wish, id: 'id' in wish ? wish.id : 'c' }));
    };
    const store = {
      room,
      send: <T>(call: Observable<T>) => call,
      run: <T>(call: Observable<T>, done: (value: T) => void) => call.subscribe(done),
      replaceCue: (next: CueView) => cues((list) => [...list.filter(({ id }) => id !== next.id), next]),
      dropCue: (gone: string) => cues((list) => list.filter(({ id }) => id !== gone)),
    };
    const api = {
      addCue: (_part: string, wish: CueInput) => take(wish),
      changeCue: (_cue: CueView, wish: CueChange) => take(wish),
      removeCue: () => of(undefined),
      restoreCue: () => of(undefined),
    };
    const cueStore = {
      note,
      disagreements: signal([]),
      widerDynamics: signal([]),
      shapesFor: () => [],
      likeOf: ({ fromIndex }: CueView) =>
        fromIndex === 8 ? [{ fromIndex: 11, endIndex: 13, note: null }] : [],
      likeText: () => 'm. 12',
      copyTo: (...told: unknown[]) => copied.push(told),
    };
    panel = await show(CuesPanel, { selection: null }, [
      { provide: RoomStore, useValue: store },
      { provide: ScoreApi, useValue: api },
      { provide: SessionStore, useValue: { vocabulary: signal('us'), zone: signal('UTC') } },
      { provide: CueStore, useValue: cueStore },
    ]);
  });

  it('writes a cue at the selected measures, and at typed ones instead', async () => {
    panel.fixture.componentRef.setInput('selection', { fromIndex: 2, endIndex: 5 });
    await panel.settled();
    expect(panel.find<HTMLInputElement>('input[name="span"]').value).toBe('3–5');
    await panel.type('input[name="text"]', ' breathe before ');
    expect(panel.fixture.componentInstance.hasEdits()).toBeTrue();
    await panel.press('Write it in');
    expect(sent[0]).toEqual(
      jasmine.objectContaining({ from: '3', to: '5', text: 'breathe before', kind: 'trap' }),
    );
    expect(panel.fixture.componentInstance.hasEdits()).toBeFalse();
    await panel.type('input[name="span"]', 'm. 12');
    await panel.type('input[name="text"]', 'again');
    await panel.press('Write it in');
    expect(sent[1]).toEqual(jasmine.objectContaining({ from: '12', to: '12' }));
    expect(panel.host.querySelectorAll('li').length).toBe(3);
  });

  it('says what is missing, and sends nothing', async () => {
    await panel.press('Write it in');
    expect(panel.text).toContain('Say where: select measures');
    await panel.type('input[name="span"]', '9');
    await panel.press('Write it in');
    expect(panel.text).toContain('Write what to remember here.');
    expect(sent).toEqual([]);
  });

  it('keeps what was typed where it is refused; sent again it is the same cue', async () => {
    await panel.type('input[name="span"]', '9');
    await panel.type('input[name="text"]', 'C natural');
    fails = refusal(422, 'This piece has measures 1 to 8; 9 is not one of them.');
    await panel.press('Write it in');
    expect(panel.text).toContain('9 is not one of them.');
    expect(panel.find<HTMLInputElement>('input[name="text"]').value).toBe('C natural');
    fails = null;
    await panel.press('Write it in');
    const ids = sent.map((wish) => ('id' in wish ? wish.id : ''));
    expect([ids.length, new Set(ids).size]).toEqual([2, 1]);
  });

  it('changes a cue in place, or leaves it as it was', async () => {
    const looked: unknown[] = [];
    panel.fixture.componentInstance.look.subscribe((span) => looked.push(span));
    await panel.press('Change the cue at mm. 9–10');
    expect(panel.find<HTMLInputElement>('input[name="text"]').value).toBe('C natural here');
    await panel.press('Leave it');
    expect(panel.find<HTMLInputElement>('input[name="text"]').value).toBe('');
    await panel.press('Change the cue at mm. 9–10');
    await panel.type('input[name="text"]', 'C sharp here');
    await panel.press('Save');
    // What the form does not show stays with it.
    expect(sent).toEqual([
      {
        ...{ kind: 'trap', from: '9', to: '10', text: 'C sharp here' },
        ...{ note: null, beat: null, sign: '', status: 'settled', reason: '', alternatives: [] },
      },
    ]);
    expect(panel.find('li .words').textContent?.trim()).toBe('C sharp here');
    expect(looked.length).toBe(2);
  });

  it('keeps a sign at a note, its reason, and what else was considered, and finds it again', async () => {
    await panel.type('input[name="span"]', '12');
    await panel.type('input[name="text"]', 'Right, left is taken');
    await panel.type('input[name="sign"]', 'R');
    await panel.type('input[name="note"]', '3');
    await panel.type('textarea[name="reason"]', 'E flat has no left key');
    await panel.press('Another way that was considered');
    await panel.type('input[aria-label="Another way"]', 'slide from C');
    await panel.press('Write it in');
    expect(sent[0]).toEqual(
      jasmine.objectContaining({
        sign: 'R',
        note: 3,
        reason: 'E flat has no left key',
        alternatives: [{ text: 'slide from C', reason: '', isSafe: false }],
      }),
    );
    cues((list) => [...list, ...[1, 2, 3, 4].map((n) => cue({ id: `c${n}`, text: `other ${n}` }))]);
    await panel.settled();
    await panel.type('input[aria-label="Find a cue"]', 'e flat');
    expect(panel.host.querySelectorAll('li').length).toBe(1);
    expect(panel.text).toContain('or slide from C');
  });

  it('stands at the note that is picked in the music, and is copied to where the same notes come again', async () => {
    note.set({ index: 11, note: 4 });
    await panel.settled();
    expect(panel.find<HTMLInputElement>('input[name="note"]').value).toBe('4');
    panel.find<HTMLButtonElement>('button.cue').click();
    await panel.settled();
    await panel.press('Also at m. 12, the same notes');
    expect(copied).toEqual([
      [jasmine.objectContaining({ id: 'c' }), [{ fromIndex: 11, endIndex: 13, note: null }]],
    ]);
  });

  it('removes a cue and says how to begin where there is none', async () => {
    await panel.press('Remove the cue at mm. 9–10');
    expect(panel.text).toContain('No cues yet.');
  });
});
