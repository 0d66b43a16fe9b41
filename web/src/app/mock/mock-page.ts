import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { Button, ButtonDirective } from 'primeng/button';
import { firstValueFrom, type Observable } from 'rxjs';
import { v7 as newId } from 'uuid';
import {
  criteriaOf,
  mockItems,
  USUAL_CRITERIA,
  type CallKind,
  type CriterionShare,
  type MockItem,
  type PartForMock,
} from '@vivid-cue/core/mock';
import type { ListenerView, MockChange, MockItemView, MockView } from '@vivid-cue/contract';
import { InOrder } from '../data/in-order';
import { MockApi } from '../data/mock-api';
import { troubleOf } from '../data/problem';
import { ProblemNote } from '../ui/problem-note';
import { dayText } from '../ui/texts';
import { UndoNotice } from '../ui/undo-notice';
import { MockResults } from './mock-results';

const CALLS: readonly { readonly call: CallKind; readonly label: string }[] = [
  { call: 'as-asked', label: 'as asked' },
  { call: 'drawn', label: 'one is drawn' },
  { call: 'from-a-start', label: 'from a drawn start' },
  { call: 'sight', label: 'read at sight' },
  { call: 'aural', label: 'an ear test' },
];

/** A change as it is made here: lists that nobody writes into. */
type DayChange = Pick<MockChange, 'date' | 'isBlind' | 'isRecorded'> & {
  readonly players: readonly { readonly id: string; readonly items: readonly MockItem[] }[];
};

/** A mock day: what is called up, who listens, what it came to. */
@Component({
  selector: 'vc-mock-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, ButtonDirective, MockResults, ProblemNote, RouterLink],
  templateUrl: './mock-page.html',
  styleUrls: ['../ui/plain-buttons.css', './mock.css', './mock-page.css'],
})
export class MockPage {
  private readonly api = inject(MockApi);
  private readonly router = inject(Router);
  private readonly undo = inject(UndoNotice);

  readonly mockId = input.required<string>();

  protected readonly calls = CALLS;
  protected readonly view = signal<MockView | null>(null);
  protected readonly failure = signal<string | null>(null);
  protected readonly playerAt = signal(0);
  protected readonly listenerName = signal('');
  private readonly order = new InOrder();
  /** Codes of links that were just made: they are told once. */
  private readonly codes = signal<ReadonlyMap<string, string>>(new Map());

  protected readonly title = computed(() => `Mock day, ${dayText(this.view()?.date ?? '2000-01-01')}`);
  protected readonly player = computed(() => this.view()?.players[this.playerAt()] ?? null);
  protected readonly isOver = computed(() => this.view()?.closedAt != null);
  protected readonly hasScores = computed(() => (this.view()?.scores.length ?? 0) > 0);
  protected readonly criteria = computed(
    () => this.player()?.items.find(({ call }) => call !== 'aural')?.criteria ?? [],
  );
  protected readonly listeners = computed(() =>
    (this.view()?.listeners ?? []).filter(({ isRevoked }) => !isRevoked),
  );

  constructor() {
    effect(() => void this.run(this.api.read(this.mockId())));
  }

  private async run(asked: Observable<MockView>): Promise<boolean> {
    this.failure.set(null);
    try {
      this.take(await firstValueFrom(asked));
      return true;
    } catch (error) {
      this.failure.set(troubleOf(error).message);
      return false;
    }
  }

  private take(view: MockView): void {
    const fresh = view.listeners.flatMap(({ id, code }) => (code === null ? [] : [[id, code] as const]));
    if (fresh.length > 0) this.codes.update((known) => new Map([...known, ...fresh]));
    this.view.set(view);
  }

  protected codeOf({ id }: ListenerView): string | null {
    return this.codes().get(id) ?? null;
  }

  protected addressOf({ path }: ListenerView): string {
    return `${location.origin}${path}`;
  }

  protected criteriaText(item: MockItem): string {
    return item.criteria.map(({ name, points }) => `${name} ${points}`).join(' · ');
  }

  protected pointsOf(item: MockItem): number {
    return item.criteria.reduce((sum, { points }) => sum + points, 0);
  }

  protected drawnText({ drawn }: MockItemView): string {
    if (!drawn) return '';
    return drawn.start === null ? `drawn: ${drawn.title}` : `drawn: from ${drawn.start}`;
  }

  protected valueOf(event: Event): string {
    return (event.target as HTMLInputElement | HTMLSelectElement).value;
  }

  /** Changes one thing of the player who is looked at. */
  protected change(itemId: string, change: Partial<MockItem>): void {
    this.changeItems((items) => items.map((item) => (item.id === itemId ? { ...item, ...change } : item)));
  }

  protected setCall(item: MockItemView, event: Event): void {
    const call = this.valueOf(event) as CallKind;
    const isScoredElse = (call === 'aural') !== (item.call === 'aural');
    this.change(item.id, {
      call,
      ...(call === 'sight' && { studySeconds: 30 }),
      ...(isScoredElse && { criteria: criteriaOf(call, this.pointsOf(item), this.shares()) }),
    });
  }

  protected setNumber(itemId: string, field: 'studySeconds' | 'pauseSeconds' | 'level', event: Event): void {
    const value = Math.round(Number(this.valueOf(event)));
    if (value >= 0) this.change(itemId, { [field]: value });
  }

  protected move(at: number, way: number): void {
    this.changeItems((items) => {
      const order = [...items];
      const [moved] = order.splice(at, 1);
      if (moved) order.splice(at + way, 0, moved);
      return order;
    });
  }

  protected leaveOut(itemId: string): void {
    this.changeItems((items) => items.filter(({ id }) => id !== itemId));
  }

  /** Something that stands in no program: the day's usual, to be changed like the others. */
  protected add(kind: PartForMock['kind'], title: string): void {
    const part = { id: newId(), kind, title, points: null };
    const added = mockItems([part], { criteria: this.shares(), newId });
    this.changeItems((items) => [...items, ...added.map((item) => ({ ...item, partIds: [] }))]);
  }

  private shares(): readonly CriterionShare[] {
    const own = this.criteria().map(({ name, points }) => ({ name, share: points }));
    return own.length > 0 ? own : USUAL_CRITERIA;
  }

  /** What is listened for holds for everything that is called up: names and shares, points by the sheet. */
  protected setCriterion(at: number, event: Event): void {
    const name = this.valueOf(event).trim();
    const shares = this.shares();
    const next =
      name === ''
        ? shares.filter((_, n) => n !== at)
        : shares.map((one, n) => (n === at ? { ...one, name } : one));
    if (next.length > 0) this.splitAnew(next);
  }

  protected setShare(at: number, event: Event): void {
    const share = Number(this.valueOf(event));
    if (share > 0) this.splitAnew(this.shares().map((one, n) => (n === at ? { ...one, share } : one)));
  }

  protected addCriterion(): void {
    const shares = this.shares();
    const mean = shares.reduce((sum, { share }) => sum + share, 0) / Math.max(1, shares.length);
    this.splitAnew([...shares, { name: `Criterion ${shares.length + 1}`, share: mean }]);
  }

  private splitAnew(shares: readonly { readonly name: string; readonly share: number }[]): void {
    this.changeAll((items) =>
      items.map((item) => ({
        ...item,
        criteria: criteriaOf(item.call, this.pointsOf(item), shares),
      })),
    );
  }

  private changeItems(change: (items: readonly MockItem[]) => readonly MockItem[]): void {
    const own = this.player()?.id;
    this.send((id, items) => (id === own ? change(items) : items));
  }

  private changeAll(change: (items: readonly MockItem[]) => readonly MockItem[]): void {
    this.send((_, items) => change(items));
  }

  private send(change: (playerId: string, items: readonly MockItem[]) => readonly MockItem[]): void {
    this.keep(({ date, isBlind, isRecorded, players }) => ({
      ...{ date, isBlind, isRecorded },
      players: players.map(({ id, items }) => ({ id, items: change(id, items).map(plain) })),
    }));
  }

  protected set(field: 'isBlind' | 'isRecorded'): void {
    this.keep((view) => {
      const { date, isBlind, isRecorded, players } = view;
      const own = players.map(({ id, items }) => ({ id, items: items.map(plain) }));
      return { ...{ date, isBlind, isRecorded }, [field]: !view[field], players: own };
    });
  }

  /** Changes follow each other, each made on what the one before left: two quick ones never meet. */
  private keep(change: (view: MockView) => DayChange): void {
    void this.order.after(async () => {
      const view = this.view();
      if (!view) return;
      const asked = this.api.change(view.id, change(view) as MockChange, view.version);
      if (await this.run(asked)) return;
      const current = await firstValueFrom(this.api.read(view.id)).catch(() => null);
      if (current) this.take(current);
    });
  }

  protected async addListener(event: Event): Promise<void> {
    event.preventDefault();
    const name = this.listenerName().trim() || `Listener ${this.listeners().length + 1}`;
    if (await this.run(this.api.addListener(this.mockId(), { id: newId(), name }))) this.listenerName.set('');
  }

  protected async revoke({ id }: ListenerView): Promise<void> {
    await firstValueFrom(this.api.revokeListener(id)).catch(() => undefined);
    await this.run(this.api.read(this.mockId()));
  }

  protected copy(listener: ListenerView): void {
    const code = this.codeOf(listener);
    void navigator.clipboard?.writeText(`${this.addressOf(listener)}#${code ?? ''}`);
  }

  protected end(): void {
    void this.run(this.api.close(this.mockId()));
  }

  protected reopen(): void {
    void this.run(this.api.reopen(this.mockId()));
  }

  protected async remove(): Promise<void> {
    const id = this.mockId();
    await firstValueFrom(this.api.remove(id));
    void this.router.navigate(['/mocks']);
    this.undo.offer({
      done: 'Mock day removed',
      undone: 'the mock day is there again',
      undo: () => this.api.restore(id),
      back: () => void this.router.navigate(['/mocks', id]),
    });
  }
}

/** An item as it is sent. */
function plain(item: MockItem | MockItemView): MockItem {
  const { id, call, partIds, title, words, level, studySeconds, pauseSeconds, criteria } = item;
  return { id, call, partIds, title, words, level, studySeconds, pauseSeconds, criteria };
}
