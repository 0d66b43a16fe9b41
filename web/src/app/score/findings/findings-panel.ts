import type { ElementRef } from '@angular/core';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  Injector,
  linkedSignal,
  output,
  viewChildren,
} from '@angular/core';
import { Button } from 'primeng/button';
import type { CueView } from '@vivid-cue/contract';
import { scrollInside } from '../../ui/scroll-inside';
import { isTyping } from '../../ui/typing';
import { ReadingStore, type ShownFinding } from './reading-store';
import { StudioWords } from '../../ui/studio-words';

const FIRST_SHOWN = 30;
const MORE_SHOWN = 60;

/** What was found, by importance: each is kept, set aside or turned into a cue with one key. */
@Component({
  selector: 'vc-findings-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, StudioWords],
  templateUrl: './findings-panel.html',
  styleUrl: './findings-panel.css',
  host: { '(document:keydown)': 'onKey($event)' },
})
export class FindingsPanel {
  private readonly injector = inject(Injector);
  protected readonly store = inject(ReadingStore);
  private readonly items = viewChildren<ElementRef<HTMLElement>>('item');

  readonly cueMade = output<CueView>();
  readonly look = output<ShownFinding>();

  protected readonly step = computed(() => {
    const status = this.store.status();
    return status.kind === 'busy' ? status.step : '';
  });
  protected readonly message = computed(() => {
    const status = this.store.status();
    return status.kind === 'failed' ? status.message : '';
  });

  /** How many are listed: a long piece has hundreds, and the first matter most. */
  private readonly limit = linkedSignal({
    source: () => this.store.result(),
    computation: () => FIRST_SHOWN,
  });
  protected readonly listed = computed(() => {
    const all = this.store.findings();
    const at = all.findIndex(({ id }) => id === this.store.chosenId());
    return all.slice(0, Math.max(this.limit(), at + 2));
  });
  protected readonly hidden = computed(() => this.store.findings().length - this.listed().length);

  constructor() {
    effect(() => {
      const id = this.store.chosenId();
      const item = this.items().find(({ nativeElement }) => nativeElement.dataset['id'] === id);
      // The buttons of a chosen finding are drawn first.
      if (!item) return;
      afterNextRender(() => scrollInside(item.nativeElement.closest('.panel'), item.nativeElement), {
        injector: this.injector,
      });
    });
  }

  protected showMore(): void {
    this.limit.update((limit) => limit + MORE_SHOWN);
  }

  protected choose(finding: ShownFinding): void {
    this.store.chosenId.set(finding.id);
    this.look.emit(finding);
  }

  protected cue(finding: ShownFinding): void {
    if (!finding.hasCue) this.store.makeCue(finding, (cue) => this.cueMade.emit(cue));
  }

  /** Keeps or sets aside, and goes on to the next: the list is worked through from the top. */
  protected decide(finding: ShownFinding, mark: 'confirmed' | 'dismissed'): void {
    // After the last one that is set aside comes the one before it.
    const next = this.beside(1) ?? (mark === 'dismissed' ? this.beside(-1) : undefined);
    this.store.decide(finding, mark);
    if (next && next.id !== finding.id) this.choose(next);
  }

  protected restore(finding: ShownFinding): void {
    this.store.decide(finding, null);
  }

  protected onKey(event: KeyboardEvent): void {
    if (isTyping(event) || event.defaultPrevented) return;
    const chosen = this.store.findings().find(({ id }) => id === this.store.chosenId());
    const actions: Readonly<Record<string, () => void>> = {
      '.': () => this.go(1),
      ',': () => this.go(-1),
      w: () => chosen && this.cue(chosen),
      k: () => chosen && this.decide(chosen, 'confirmed'),
      d: () => chosen && this.decide(chosen, 'dismissed'),
    };
    const action = actions[event.key.toLowerCase()];
    if (!action) return;
    event.preventDefault();
    action();
  }

  private go(step: 1 | -1): void {
    const next = this.beside(step);
    if (next) this.choose(next);
  }

  private beside(step: 1 | -1): ShownFinding | undefined {
    const all = this.store.findings();
    const here = all.findIndex(({ id }) => id === this.store.chosenId());
    if (here < 0) return step > 0 ? all[0] : all.at(-1);
    return all[here + step];
  }
}
