import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  Injector,
  input,
  signal,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { focusHeading } from '../ui/focus-heading';
import { keepDeskOffline } from './keep-offline';
import { ClickPlayer } from './click-player';
import type { DayItem } from './day-items';
import { fetchAhead } from '../data/fetch-ahead';
import { MusicFiles } from '../data/music-files';
import type { TakeOutbox } from '../data/take-outbox';
import { DeskBeside } from './desk-beside';
import { DeskFiles } from './desk-files';
import { DeskPassageView } from './desk-passage';
import { DeskRun } from './desk-run';
import { DeskStore } from './desk-store';
import { DeskTakes } from './desk-takes';
import { DeskToday } from './desk-today';
import { DeskTools } from './desk-tools';
import { PracticeTime } from './practice-time';

const THEME_KEY = 'vivid-cue-desk-theme';

/** Pages of the desk that are not open come so long after it. Units: milliseconds */
const LATER_MS = 2500;

/** The student's desk: by personal link, on a stand or a phone, with and without a connection. */
@Component({
  selector: 'vc-desk-page',
  host: { role: 'main', tabindex: '-1' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [DeskBeside, DeskPassageView, DeskRun, DeskTakes, DeskToday, DeskTools],
  providers: [DeskStore, PracticeTime, ClickPlayer, { provide: MusicFiles, useExisting: DeskFiles }],
  templateUrl: './desk-page.html',
  styleUrl: './desk-page.css',
})
export class DeskPage {
  protected readonly store = inject(DeskStore);
  private readonly router = inject(Router);
  private readonly player = inject(ClickPlayer);
  private readonly injector = inject(Injector);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  protected readonly time = inject(PracticeTime);

  readonly linkId = input('');
  /** What is worked on: a passage, a run of a part, the tools; nothing shows the day. */
  readonly at = input<string>();

  protected readonly code = signal('');
  protected readonly isDim = signal(localStorage.getItem(THEME_KEY) !== 'light');
  protected readonly view = this.store.view;
  protected readonly isTakes = computed(() => /^takes(?::|$)/u.test(this.at() ?? ''));
  /** The part that is to be recorded, where somebody came from its run. */
  protected readonly takePart = computed(() => /^takes:(.+)$/u.exec(this.at() ?? '')?.[1] ?? null);
  protected readonly passage = computed(() => {
    const at = this.at();
    return this.store.passages().find(({ id }) => at === id) ?? null;
  });
  protected readonly passageScore = computed(
    () => this.view()?.scores.find(({ id }) => id === this.passage()?.scoreId) ?? null,
  );
  protected readonly passagePart = computed(
    () => this.view()?.parts.find(({ scoreId }) => scoreId === this.passage()?.scoreId) ?? null,
  );
  protected readonly run = computed(() => {
    const [, key = '', partId = ''] = /^(run-[a-z-]+):(.+)$/u.exec(this.at() ?? '') ?? [];
    const part = this.view()?.parts.find(({ id }) => id === partId);
    const score = this.view()?.scores.find(({ id }) => id === part?.scoreId);
    return part && score ? { key, part, score } : null;
  });
  protected readonly items = computed(() =>
    (this.store.list()?.items ?? []).filter(({ kind }) => kind !== 'break'),
  );
  protected readonly place = computed(() => this.items().findIndex(({ key }) => this.keyNow() === key));
  protected readonly itemMinutes = computed(() => this.items()[this.place()]?.minutes ?? 0);
  protected readonly minutesToday = computed(() =>
    this.items().reduce((sum, { minutes }) => sum + minutes, 0),
  );
  protected readonly spent = computed(() => Math.round(this.time.total()));
  /** Takes that wait are sent wherever on the desk somebody is. */
  private readonly takes = signal<TakeOutbox | null>(null);
  protected readonly waiting = computed(
    () => this.store.outbox.waiting().length + (this.takes()?.waiting().length ?? 0),
  );
  private readonly keyNow = computed(() => this.run()?.key ?? this.at() ?? '');

  constructor() {
    // What the list does not need comes after it, and before somebody is without a connection.
    fetchAhead(LATER_MS, () => this.fetchPages())
      .pipe(takeUntilDestroyed())
      .subscribe();
    effect(() => {
      if (this.linkId() !== '') void this.store.open(this.linkId(), codeInAddress());
    });
    effect(() => document.documentElement.classList.toggle('dim', this.isDim()));
    // Another place, another tempo: the click does not run on into it.
    effect(() => {
      this.at();
      this.player.stop();
      setTimeout(() => focusHeading(this.host));
    });
    void keepDeskOffline();
    inject(DestroyRef).onDestroy(() => document.documentElement.classList.remove('dim'));
  }

  private async fetchPages(): Promise<void> {
    await Promise.all([
      import('./desk-run'),
      import('./desk-beside'),
      import('./desk-takes'),
      import('../data/take-workers').then(({ warmTakes }) => warmTakes()),
      this.sendTakes(),
      import('./desk-tools'),
    ]);
  }

  private async sendTakes(): Promise<void> {
    const { TakeOutbox: Takes } = await import('../data/take-outbox');
    const student = this.view()?.student;
    if (!student) return;
    const outbox = this.injector.get(Takes);
    outbox.open({ door: 'desk', ownerId: student.id });
    this.takes.set(outbox);
  }

  protected turnTheme(): void {
    this.isDim.update((isDim) => !isDim);
    localStorage.setItem(THEME_KEY, this.isDim() ? 'dim' : 'light');
  }

  protected go(at: string | null): void {
    void this.router.navigate([], { queryParams: { at }, queryParamsHandling: 'merge' });
  }

  protected open(item: DayItem): void {
    if (item.kind === 'passage') this.go(item.passageId);
    else if (item.kind === 'run') this.go(`${item.key}:${item.partIds[0] ?? ''}`);
  }

  /** What comes after this: the next part of the run, else the next thing of the day, else the day itself. */
  protected next(): void {
    const items = this.items();
    const here = items[this.place()];
    const part = this.run()?.part.id;
    if (here?.kind === 'run' && part !== undefined) {
      const later = here.partIds[here.partIds.indexOf(part) + 1];
      if (later !== undefined) return this.go(`${here.key}:${later}`);
    }
    if (here) this.time.tick(here.key, true);
    const after = items.slice(this.place() + 1).find(({ key }) => !this.time.isTicked(key));
    if (here && after) this.open(after);
    else this.go(null);
  }

  protected enter(event: Event): void {
    event.preventDefault();
    void this.store.enter(this.code());
  }

  protected textOf(event: Event): string {
    return (event.target as HTMLInputElement).value;
  }
}

/** The code that a picture or a sent link carries behind its "#": browsers send that part nowhere. */
function codeInAddress(): string | null {
  const code = location.hash.replace('#', '');
  if (code === '') return null;
  // It is kept on the device; it does not stay in sight or in the history.
  history.replaceState(history.state, '', location.pathname + location.search);
  return code;
}
