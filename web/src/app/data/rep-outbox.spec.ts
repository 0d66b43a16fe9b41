import { HttpErrorResponse } from '@angular/common/http';
import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import Dexie from 'dexie';
import type { Observable } from 'rxjs';
import { of, throwError } from 'rxjs';
import type { PassageView, RepInput } from '@vivid-cue/contract';
import { RepOutbox } from './rep-outbox';
import { ScoreApi } from './score-api';
import { SessionStore } from './session-store';

const rep = (id: string): RepInput => ({
  id,
  at: '2027-03-10T12:00:00.000Z',
  bpm: 58,
  beatUnit: 'quarter',
  context: 'alone',
  isClean: true,
});
const offline = (): Observable<never> => throwError(() => new HttpErrorResponse({ status: 0 }));
const refused = (status: number): Observable<never> =>
  throwError(() => new HttpErrorResponse({ status, error: { detail: 'This passage is not here.' } }));

describe('RepOutbox', () => {
  let sent: string[];
  let answer: (id: string) => Observable<PassageView>;

  function open(studioId: string): RepOutbox {
    const instructor = signal({ studioId });
    TestBed.resetTestingModule();
    const logRep = (_passageId: string, { id }: RepInput): Observable<PassageView> => {
      sent.push(id);
      return answer(id);
    };
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        { provide: ScoreApi, useValue: { logRep } },
        { provide: SessionStore, useValue: { instructor } },
      ],
    });
    return TestBed.inject(RepOutbox);
  }

  beforeEach(async () => {
    await Dexie.delete('vivid-cue-outbox');
    sent = [];
    answer = () => of({} as PassageView);
  });

  it('sends reps one by one in the order they were played', async () => {
    const outbox = open('a');
    await Promise.all(['1', '2', '3'].map((id) => outbox.add('p', rep(id))));
    await outbox.flush();
    expect(sent).toEqual(['1', '2', '3']);
    expect(outbox.waiting()).toEqual([]);
  });

  it('keeps them without a connection, says so, and sends them after a restart', async () => {
    answer = offline;
    const outbox = open('a');
    await outbox.add('p', rep('1'));
    await outbox.flush();
    expect(outbox.waiting().map((waiting) => waiting.rep.id)).toEqual(['1']);
    expect(outbox.trouble()).toContain('No connection');
    answer = () => of({} as PassageView);
    sent = [];
    const later = open('a');
    TestBed.tick();
    await new Promise((done) => setTimeout(done, 200));
    await later.flush();
    expect(sent).toEqual(['1']);
    expect([later.waiting(), later.trouble()]).toEqual([[], null]);
  });

  it('drops a rep the server will never take, says why, and goes on with the next', async () => {
    answer = (id) => (id === '1' ? refused(404) : of({} as PassageView));
    const outbox = open('a');
    await outbox.add('p', rep('1'));
    expect(await outbox.flush().then(() => outbox.trouble())).toBe('This passage is not here.');
    await outbox.add('p', rep('2'));
    await outbox.flush();
    expect(sent).toEqual(['1', '2']);
    expect(outbox.waiting()).toEqual([]);
  });

  it('keeps a rep while the instructor is signed out', async () => {
    answer = () => refused(401);
    const outbox = open('a');
    await outbox.add('p', rep('1'));
    await outbox.flush();
    expect(outbox.waiting().length).toBe(1);
  });

  it('withdraws a rep that was not sent, and only such a one', async () => {
    answer = offline;
    const outbox = open('a');
    await outbox.add('p', rep('1'));
    await outbox.flush();
    expect(await outbox.withdraw('1')).toBeTrue();
    expect(await outbox.withdraw('1')).toBeFalse();
    expect(outbox.waiting()).toEqual([]);
  });

  it('withdraws a rep in the moment it is put in, whether or not the sender was quicker', async () => {
    const outbox = open('a');
    const added = outbox.add('p', rep('1'));
    const isWithdrawn = await outbox.withdraw('1');
    await added;
    await outbox.flush();
    expect(sent).toEqual(isWithdrawn ? [] : ['1']);
    expect(outbox.waiting()).toEqual([]);
  });

  it('never sends one studio’s reps as another', async () => {
    answer = offline;
    const first = open('a');
    await first.add('p', rep('1'));
    await first.flush();
    answer = () => of({} as PassageView);
    sent = [];
    const second = open('b');
    await second.flush();
    expect(sent).toEqual([]);
    await open('a').flush();
    expect(sent).toEqual(['1']);
  });
});
