import { TestBed } from '@angular/core/testing';
import { defer, Subject, type Observable } from 'rxjs';
import { HttpErrorResponse } from '@angular/common/http';
import type { PlanToKeep, PlanView, TaskView } from '@vivid-cue/contract';
import { NO_WISHES, type Plan } from '@vivid-cue/core/plan';
import { Planner } from '../data/planner';
import { StudioApi } from '../data/studio-api';
import { PlanStore } from './plan-store';

const PLAN = { days: [], courses: [], holds: true, reason: '' } as unknown as Plan;
const TASK = { id: 'b', text: 'Ring the accompanist', date: '2026-12-05' };

const ofServer = (kept: Partial<PlanView['kept']> = {}): PlanView =>
  ({
    desk: {
      at: '2026-12-01T12:00:00Z',
      studio: { zone: 'UTC' },
      student: { id: 'ilse', name: 'Ilse Vantongeren' },
      day: { minutes: 40, cap: 60, restDays: [] },
      parts: [],
      passages: [],
      scores: [],
      begunDaysAgo: 0,
      plan: { tasks: [], dates: [], mocks: [], wishes: NO_WISHES },
    },
    kept: { version: 1, madeAt: null, wishes: NO_WISHES, ownTasks: [], days: [], ...kept },
    played: [],
    slowestShare: 1,
  }) as unknown as PlanView;

const settle = (): Promise<void> => new Promise((done) => setTimeout(done));

describe('PlanStore', () => {
  let store: PlanStore;
  let sent: PlanToKeep[];
  let answers: Subject<PlanView>[];

  const asked = (): Observable<PlanView> => defer(() => (answers.push(new Subject()), answers.at(-1) ?? []));
  const answer = async (view: PlanView): Promise<void> => {
    answers.at(-1)?.next(view);
    await settle();
  };
  const refuse = async (status: number, body: object): Promise<void> => {
    answers.at(-1)?.error(new HttpErrorResponse({ status, error: { detail: 'Refused.', ...body } }));
    await settle();
  };

  beforeEach(async () => {
    [sent, answers] = [[], []];
    const api = {
      plan: asked,
      keepPlan: (_: string, plan: PlanToKeep) => (sent.push(plan), asked()),
      tickTask: () => asked(),
    };
    TestBed.configureTestingModule({
      providers: [
        PlanStore,
        { provide: StudioApi, useValue: api },
        { provide: Planner, useValue: { plan: () => Promise.resolve(PLAN) } },
      ],
    });
    store = TestBed.inject(PlanStore);
    const opened = store.open('ilse');
    await settle();
    await answer(ofServer());
    await opened;
  });

  it('makes a change that comes while another is kept on what that one leaves', async () => {
    const skipped = store.turnSkip('2026-12-02');
    const added = store.changeTasks((tasks) => [...tasks, TASK]);
    await settle();
    expect(sent.length).toBe(1);
    await answer(ofServer({ version: 2, wishes: { ...NO_WISHES, skipped: ['2026-12-02'] } }));
    await skipped;
    expect(sent.map(({ version, wishes, ownTasks }) => [version, wishes.skipped, ownTasks.length])).toEqual([
      [1, ['2026-12-02'], 0],
      [2, ['2026-12-02'], 1],
    ]);
    await answer(ofServer({ version: 3, ownTasks: [TASK] }));
    expect(await added).toBeTrue();
  });

  it('lays a change on top of what another window kept meanwhile', async () => {
    const theirs = { id: 'a', text: 'Copy the part', date: '2026-12-03' };
    const added = store.changeTasks((tasks) => [...tasks, TASK]);
    await settle();
    await refuse(409, { code: 'version-stale', current: ofServer({ version: 5, ownTasks: [theirs] }) });
    expect([sent[1]?.version, sent[1]?.ownTasks]).toEqual([5, [theirs, TASK]]);
    await answer(ofServer({ version: 6, ownTasks: [theirs, TASK] }));
    expect([await added, store.failure()]).toEqual([true, null]);
  });

  it('does not take back over what another window kept, and says so', async () => {
    const skipped = store.turnSkip('2026-12-02');
    await settle();
    await answer(ofServer({ version: 2, wishes: { ...NO_WISHES, skipped: ['2026-12-02'] } }));
    await skipped;
    const undone = store.undo();
    await settle();
    const current = ofServer({ version: 9, wishes: { ...NO_WISHES, skipped: ['2026-12-04'] } });
    await refuse(409, { code: 'version-stale', current });
    await undone;
    expect([sent.length, store.failure(), store.wishes().skipped]).toEqual([2, 'Refused.', ['2026-12-04']]);
  });

  it('goes on after a change that failed, and says that it did', async () => {
    const added = store.changeTasks((tasks) => [...tasks, TASK]);
    await settle();
    await refuse(500, { code: 'fault' });
    expect([await added, store.failure()]).toEqual([false, 'Refused.']);
    const ticked = store.tick({ subjectId: 'b', kind: 'own' } as TaskView, true);
    await settle();
    await answer(ofServer());
    await ticked;
    expect(store.failure()).toBeNull();
  });

  it('shows no answer that came for the student before', async () => {
    void store.turnSkip('2026-12-02');
    await settle();
    void store.open('piet');
    await answer(ofServer({ version: 2 }));
    expect(store.view()).toBeNull();
  });
});
