import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  signal,
} from '@angular/core';
import { firstValueFrom } from 'rxjs';
import { v7 as newId } from 'uuid';
import type { HeardItem, HeardPlayer, ListeningView, ScoreInput } from '@vivid-cue/contract';
import { ListeningApi } from '../data/listening-api';
import { troubleOf } from '../data/problem';
import { SessionStore } from '../data/session-store';
import { readStored } from '../data/stored-json';
import { SlipTaps } from '../ui/slip-taps';
import { StudioWords } from '../ui/studio-words';
import { dayText } from '../ui/texts';

/** The page asks where the day is so often. Units: milliseconds */
const ASK_MS = 4000;
/** What was given is sent so long after the last touch. Units: milliseconds */
const PAUSE_MS = 600;
const STEP = 0.5;

/** A listener's page: on a phone, one player and one thing at a time, points by criterion, measures to tap. */
@Component({
  selector: 'vc-listen-page',
  host: { role: 'main', tabindex: '-1' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [SlipTaps, StudioWords],
  templateUrl: './listen-page.html',
  styleUrl: './listen-page.css',
})
export class ListenPage {
  private readonly api = inject(ListeningApi);
  private readonly session = inject(SessionStore);

  readonly listenerId = input.required<string>();

  protected readonly state = signal<'opening' | 'code' | 'gone' | 'open'>('opening');
  protected readonly failure = signal<string | null>(null);
  protected readonly code = signal('');
  protected readonly view = signal<ListeningView | null>(null);
  protected readonly playerId = signal<string | null>(null);
  protected readonly itemId = signal<string | null>(null);
  /** What was given, by player and item; what is not with the server yet stays on the device. */
  private readonly given = signal<ReadonlyMap<string, ScoreInput>>(new Map());
  private readonly unsent = signal<ReadonlySet<string>>(new Set());
  private sending: ReturnType<typeof setTimeout> | null = null;

  protected readonly player = computed(
    (): HeardPlayer | null =>
      this.view()?.players.find(({ id }) => id === this.playerId()) ?? this.view()?.players[0] ?? null,
  );
  protected readonly item = computed(
    (): HeardItem | null =>
      this.player()?.items.find(({ id }) => id === this.itemId()) ?? this.player()?.items[0] ?? null,
  );
  protected readonly score = computed(() => this.given().get(this.keyOf(this.player(), this.item())) ?? null);
  protected readonly taps = computed((): ReadonlySet<number> => new Set(this.score()?.taps ?? []));
  protected readonly total = computed(() =>
    (this.score()?.points ?? []).reduce<number>((sum, points) => sum + (points ?? 0), 0),
  );
  protected readonly most = computed(() =>
    (this.item()?.criteria ?? []).reduce((sum, { points }) => sum + points, 0),
  );
  protected readonly done = computed(() => {
    const all = (this.view()?.players ?? []).flatMap((player) =>
      player.items.map((item) => ({ player, item })),
    );
    const whole = all.filter(({ player, item }) => this.isWhole(player, item)).length;
    return `${whole} of ${all.length} scored`;
  });
  protected readonly isWaiting = computed(() => this.unsent().size > 0);
  protected readonly nowText = computed(() => {
    const { now, players = [] } = this.view() ?? {};
    const player = players.find(({ id }) => id === now?.playerId);
    const item = player?.items.find(({ id }) => id === now?.itemId);
    const isHere = player?.id === this.player()?.id && item?.id === this.item()?.id;
    return player && item && !isHere ? `${player.label}: ${item.title}` : null;
  });
  protected readonly dateText = computed(() => dayText(this.view()?.date ?? '2000-01-01'));
  protected readonly soundPath = computed(() => {
    const takeId = this.item()?.takeId;
    return takeId == null ? null : this.api.soundPath(takeId);
  });

  constructor() {
    effect(() => void this.open(this.listenerId()));
    const asking = setInterval(() => void this.ask(), ASK_MS);
    inject(DestroyRef).onDestroy(() => {
      clearInterval(asking);
      if (this.sending !== null) {
        clearTimeout(this.sending);
        void this.send();
      }
      this.session.desk.set(null);
    });
  }

  private storeKey(): string {
    return `vivid-cue-listening ${this.listenerId()}`;
  }

  private async open(listenerId: string): Promise<void> {
    const code = location.hash.replace('#', '');
    if (code !== '') history.replaceState(history.state, '', location.pathname);
    const kept = readStored<{ readonly scores: readonly ScoreInput[] }>(this.storeKey());
    if (kept) {
      this.given.set(new Map(kept.scores.map((one) => [scoreKey(one), one])));
      this.unsent.set(new Set(kept.scores.map(scoreKey)));
    }
    try {
      const here = await firstValueFrom(this.api.session());
      this.session.useToken(here.csrfToken);
      if (here.listener?.id === listenerId) await this.read();
      else if (code !== '') await this.enterWith(code);
      else this.state.set('code');
    } catch (error) {
      this.failure.set(troubleOf(error).message);
      this.state.set('code');
    }
  }

  protected async enter(event: Event): Promise<void> {
    event.preventDefault();
    await this.enterWith(this.code());
  }

  private async enterWith(code: string): Promise<void> {
    this.failure.set(null);
    try {
      const here = await firstValueFrom(this.api.enter({ listenerId: this.listenerId(), code }));
      this.session.useToken(here.csrfToken);
      await this.read();
    } catch (error) {
      this.fail(error);
    }
  }

  private fail(error: unknown): void {
    const { message, code } = troubleOf(error);
    this.failure.set(message);
    this.state.set(code === 'link-gone' ? 'gone' : this.view() ? 'open' : 'code');
  }

  private async read(): Promise<void> {
    const view = await firstValueFrom(this.api.read());
    this.session.desk.set({ vocabulary: view.vocabulary, zone: 'UTC' });
    this.view.set(view);
    const unsent = this.unsent();
    const given = new Map(this.given());
    for (const score of view.scores) {
      const key = scoreKey(score);
      // What this device gave and could not send yet is newer than what the server has.
      if (!unsent.has(key)) given.set(key, score);
    }
    this.given.set(given);
    this.state.set('open');
    this.failure.set(null);
  }

  /** Where the day is, and what could not be sent before. */
  private async ask(): Promise<void> {
    if (this.state() !== 'open') return;
    if (this.unsent().size > 0) await this.send();
    await this.read().catch((error: unknown) => {
      if (troubleOf(error).code === 'link-gone') this.fail(error);
    });
  }

  private keyOf(player: HeardPlayer | null, item: HeardItem | null): string {
    return scoreKey({ playerId: player?.id ?? '', itemId: item?.id ?? '' });
  }

  protected isWhole(player: HeardPlayer, item: HeardItem): boolean {
    const points = this.given().get(this.keyOf(player, item))?.points ?? [];
    return points.length === item.criteria.length && points.every((one) => one !== null);
  }

  protected choosePlayer({ id }: HeardPlayer): void {
    this.playerId.set(id);
    this.itemId.set(null);
  }

  protected toNow(): void {
    const now = this.view()?.now;
    if (!now) return;
    this.playerId.set(now.playerId);
    this.itemId.set(now.itemId);
  }

  protected pointsAt(at: number): number | null {
    return this.score()?.points[at] ?? null;
  }

  protected step(at: number, way: number): void {
    const most = this.item()?.criteria[at]?.points ?? 0;
    const before = this.pointsAt(at);
    // The first touch begins in the upper middle, where most playing is.
    const next = before === null ? Math.round(most * 1.5) / 2 : before + way * STEP;
    this.setPoints(at, Math.min(most, Math.max(0, next)));
  }

  protected slide(at: number, event: Event): void {
    this.setPoints(at, Number((event.target as HTMLInputElement).value));
  }

  private setPoints(at: number, points: number): void {
    const item = this.item();
    if (!item) return;
    const before = this.score()?.points ?? item.criteria.map(() => null);
    this.give({ points: before.map((one, n) => (n === at ? points : one)) });
  }

  protected tapped(taps: ReadonlySet<number>): void {
    this.give({ taps: [...taps].sort((a, b) => a - b) });
  }

  protected remark(event: Event): void {
    this.give({ remark: (event.target as HTMLTextAreaElement).value });
  }

  private give(change: Partial<Pick<ScoreInput, 'points' | 'taps' | 'remark'>>): void {
    const [player, item] = [this.player(), this.item()];
    if (!player || !item || this.view()?.isClosed === true) return;
    const key = this.keyOf(player, item);
    const blank: ScoreInput = {
      ...{ id: newId(), playerId: player.id, itemId: item.id },
      ...{ points: item.criteria.map(() => null), taps: [], remark: '' },
    };
    const next = { ...(this.given().get(key) ?? blank), ...change };
    this.given.update((all) => new Map([...all, [key, next]]));
    this.unsent.update((all) => new Set([...all, key]));
    this.store();
    if (this.sending !== null) clearTimeout(this.sending);
    this.sending = setTimeout(() => void this.send(), PAUSE_MS);
  }

  private store(): void {
    const scores = [...this.unsent()].flatMap((key) => this.given().get(key) ?? []);
    localStorage.setItem(this.storeKey(), JSON.stringify({ scores }));
  }

  private async send(): Promise<void> {
    this.sending = null;
    for (const key of this.unsent()) {
      const score = this.given().get(key);
      if (!score) continue;
      try {
        await firstValueFrom(this.api.keep(score));
        // Touched again meanwhile: the newer one is still to go.
        if (this.given().get(key) === score)
          this.unsent.update((all) => new Set([...all].filter((one) => one !== key)));
        this.failure.set(null);
      } catch (error) {
        const trouble = troubleOf(error);
        if (trouble.isOffline)
          this.failure.set('No connection: what you give is kept here and sent when it is back.');
        else this.fail(error);
        break;
      }
    }
    this.store();
  }

  protected textOf(event: Event): string {
    return (event.target as HTMLInputElement).value;
  }
}

/** One text for a thing of a player. */
function scoreKey({ playerId, itemId }: Pick<ScoreInput, 'playerId' | 'itemId'>): string {
  return `${playerId} ${itemId}`;
}
