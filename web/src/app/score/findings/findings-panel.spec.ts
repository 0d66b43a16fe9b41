import { computed, signal } from '@angular/core';
import { SessionStore } from '../../data/session-store';
import { show, type Shown } from '../../testing/shown';
import { FindingsPanel } from './findings-panel';
import { ReadingStore, type ReadingStatus, type ShownFinding } from './reading-store';

const finding = (n: number, change: Partial<ShownFinding> = {}): ShownFinding =>
  ({
    id: `f${n}`,
    key: `k${n}`,
    kind: 'surprise',
    importance: 1 - n / 100,
    title: `Finding ${n}`,
    sentence: `What is easy to miss in measure ${n}.`,
    places: [n],
    notes: [],
    pair: null,
    mark: null,
    hasCue: false,
    where: `m. ${n}`,
    kept: { key: `k${n}`, measure: String(n) },
    ...change,
  }) as ShownFinding;

describe('FindingsPanel', () => {
  let panel: Shown<FindingsPanel>;
  const status = signal<ReadingStatus>({ kind: 'ready' });
  const all = signal<readonly ShownFinding[]>([]);
  const chosenId = signal<string | null>(null);
  let did: string[];

  const mark = (of: ShownFinding, to: ShownFinding['mark']): void =>
    all.update((list) => list.map((one) => (one.id === of.id ? { ...one, mark: to } : one)));

  beforeEach(async () => {
    did = [];
    status.set({ kind: 'ready' });
    all.set([finding(1), finding(2), finding(3)]);
    chosenId.set(null);
    const store = {
      status,
      result: signal({}),
      chosenId,
      findings: computed(() => all().filter((one) => one.mark !== 'dismissed')),
      setAside: computed(() => all().filter((one) => one.mark === 'dismissed')),
      decide: (of: ShownFinding, to: ShownFinding['mark']) => {
        did.push(`${of.id} ${to}`);
        mark(of, to);
      },
      makeCue: (of: ShownFinding, done: (cue: unknown) => void) => {
        did.push(`${of.id} cue`);
        all.update((list) => list.map((one) => (one.id === of.id ? { ...one, hasCue: true } : one)));
        done({ id: 'c' });
      },
      pin: (index: number | null) => did.push(`pin ${index}`),
      stop: () => did.push('stop'),
      again: () => did.push('again'),
    };
    panel = await show(FindingsPanel, {}, [
      { provide: ReadingStore, useValue: store },
      { provide: SessionStore, useValue: { vocabulary: signal('us'), zone: signal('UTC') } },
    ]);
  });
  afterEach(() => panel.fixture.destroy());

  const listed = (): string[] =>
    [...panel.host.querySelectorAll('ul.list strong')].map((title) => title.textContent ?? '');

  it('is worked through from the top by keys: each decision goes on to the next', async () => {
    const looked: string[] = [];
    panel.fixture.componentInstance.look.subscribe(({ id }) => looked.push(id));
    await panel.key('.');
    expect(chosenId()).toBe('f1');
    await panel.key('k');
    expect([chosenId(), did]).toEqual(['f2', ['f1 confirmed']]);
    await panel.key('d');
    expect([chosenId(), did[1]]).toEqual(['f3', 'f2 dismissed']);
    expect(listed()).toEqual(['Finding 1', 'Finding 3']);
    // The last one: there is nothing to go on to, and going back passes over what was set aside.
    await panel.key('.');
    expect(chosenId()).toBe('f3');
    await panel.key(',');
    expect(chosenId()).toBe('f1');
    expect(looked).toEqual(['f1', 'f2', 'f3', 'f1']);
  });

  it('makes a cue with one key, and only one', async () => {
    const made: unknown[] = [];
    panel.fixture.componentInstance.cueMade.subscribe((cue) => made.push(cue));
    await panel.key('.');
    await panel.key('w');
    await panel.key('w');
    expect(did).toEqual(['f1 cue']);
    expect(made.length).toBe(1);
    expect(panel.text).toContain('has a cue');
  });

  it('takes no letter for a key while somebody writes', async () => {
    const field = document.createElement('input');
    document.body.append(field);
    await panel.key('.', field);
    expect(chosenId()).toBeNull();
    field.remove();
  });

  it('brings back what was set aside', async () => {
    mark(finding(2), 'dismissed');
    await panel.settled();
    expect(panel.text).toContain('1 set aside');
    await panel.press('Restore: Finding 2 m. 2');
    expect(did).toEqual(['f2 null']);
    expect(listed()).toEqual(['Finding 1', 'Finding 2', 'Finding 3']);
  });

  it('shows the weightiest of many, and always the one that is looked at', async () => {
    all.set(Array.from({ length: 200 }, (_, n) => finding(n + 1)));
    await panel.settled();
    expect(listed().length).toBe(30);
    chosenId.set('f40');
    await panel.settled();
    expect(listed()).toContain('Finding 40');
    await panel.press(`Show more; ${200 - listed().length} of less weight are left`);
    expect(listed().length).toBe(90);
  });

  it('says that it reads, how to stop it, and why it could not', async () => {
    status.set({ kind: 'busy', step: 'looking for traps' });
    await panel.settled();
    expect(panel.text).toContain('Reading the score: looking for traps');
    await panel.press('Stop');
    status.set({ kind: 'failed', message: 'This file cannot be read.' });
    await panel.settled();
    expect(panel.find('[role="alert"]').textContent).toContain('This file cannot be read.');
    await panel.press('Try again');
    expect(did).toEqual(['stop', 'again']);
  });

  it('says so where nothing is easy to miss', async () => {
    all.set([]);
    await panel.settled();
    expect(panel.text).toContain('Listen for it instead.');
  });
});
