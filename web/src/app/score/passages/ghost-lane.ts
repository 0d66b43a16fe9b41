import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { spanInWords, type Span } from '@vivid-cue/core/score';
import type { PassageView } from '@vivid-cue/contract';
import { SessionStore } from '../../data/session-store';
import { countByFrames, nextFrame } from '../../ui/frames';
import { measureEdges, type RibbonMeasure } from '../ribbon/ribbon-model';
import { SuggestionStore, type Ghost } from './suggestion-store';

const DRAWN_AT_ONCE = 32;
/** A ghost narrower than this share of the lane, in percent, has no room for a name, nor for a handle beside its neighbours'. */
const NAMED_WIDTH = 2;

/** Suggested passages under the ribbon: drag their ends, join, cut and name them, then take them. */
@Component({
  selector: 'vc-ghost-lane',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, FormsModule, InputText],
  templateUrl: './ghost-lane.html',
  styleUrl: './ghost-lane.css',
})
export class GhostLane {
  protected readonly store = inject(SuggestionStore);
  private readonly session = inject(SessionStore);
  private readonly lane = viewChild.required<ElementRef<HTMLElement>>('lane');

  readonly measures = input.required<readonly RibbonMeasure[]>();
  readonly selection = input<Span | null>(null);
  readonly look = output<Span>();
  readonly made = output<readonly PassageView[]>();

  private readonly dragged = signal<Ghost | null>(null);
  private readonly edges = computed(() => measureEdges(this.measures()));
  private readonly bandsOfAll = computed(() =>
    this.store.free().map((ghost) => {
      const span = spanInWords(this.measures(), ghost, this.session.vocabulary());
      const width = (this.share(ghost.endIndex) - this.share(ghost.fromIndex)) * 100;
      const isNarrow = width < NAMED_WIDTH;
      return {
        ghost,
        left: this.share(ghost.fromIndex) * 100,
        width,
        isNarrow,
        name: isNarrow ? '' : ghost.name || span,
        label: `Suggested: ${ghost.name ? `${ghost.name}, ` : ''}${span}`,
        span,
      };
    }),
  );
  /** A long piece has hundreds: they are drawn some at a time. */
  private readonly drawnCount = countByFrames(() => (this.isOpen() ? this.bandsOfAll().length : 0), {
    start: DRAWN_AT_ONCE,
    step: DRAWN_AT_ONCE,
  });
  protected readonly bands = computed(() => this.bandsOfAll().slice(0, this.drawnCount()));
  protected readonly seams = computed(() =>
    this.store.hasSeams()
      ? this.store
          .seams()
          .slice(0, this.drawnCount())
          .map(({ fromIndex }) => ({ at: this.share(fromIndex + 1) * 100, fromIndex }))
      : [],
  );
  protected readonly chosen = computed(() => {
    const at = this.store.chosen();
    return at === null ? null : (this.bands()[at] ?? null);
  });
  protected readonly count = computed(() => {
    const passages = this.store.free().length;
    const text = `${passages} passage${passages === 1 ? '' : 's'} suggested`;
    return text;
  });
  /** Where the chosen ghost would be cut: at the selected measure, else in its middle. */
  protected readonly cutAt = computed(() => {
    const ghost = this.chosen()?.ghost;
    if (!ghost) return null;
    const selected = this.selection()?.fromIndex ?? -1;
    const isInside = selected > ghost.fromIndex && selected < ghost.endIndex;
    const at = isInside ? selected : ghost.fromIndex + Math.ceil((ghost.endIndex - ghost.fromIndex) / 2);
    return at > ghost.fromIndex && at < ghost.endIndex ? { index: at, number: this.numberAt(at) } : null;
  });

  /** Suggestions come with the findings, whose frame is full: the lane opens in the next one. */
  protected readonly isOpen = signal(false);

  constructor() {
    effect(() => {
      if (this.store.isShown() !== this.isOpen())
        void nextFrame().then(() => this.isOpen.set(this.store.isShown()));
    });
  }

  protected choose(at: number, ghost: Ghost): void {
    this.store.chosen.set(at);
    this.look.emit(ghost);
  }

  protected takeAll(): void {
    this.store.take(this.store.free(), (made) => this.made.emit(made));
  }

  protected take(ghost: Ghost): void {
    this.store.take([ghost], (made) => this.made.emit(made));
  }

  protected split(ghost: Ghost): void {
    const cut = this.cutAt();
    if (cut) this.store.split(ghost, cut.index);
  }

  protected onKey(event: KeyboardEvent, at: number, ghost: Ghost): void {
    const actions: Readonly<Record<string, () => void>> = {
      Enter: () => (this.store.chosen() === at ? this.take(ghost) : this.choose(at, ghost)),
      ArrowRight: () => this.store.move(ghost, ghost.endIndex + 1),
      ArrowLeft: () => this.store.move(ghost, ghost.endIndex - 1),
      m: () => this.store.merge(ghost),
      s: () => {
        this.choose(at, ghost);
        this.split(ghost);
      },
      Delete: () => this.store.drop(ghost),
      Escape: () => this.store.chosen.set(null),
    };
    const action = actions[event.key];
    if (!action || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    event.stopPropagation();
    action();
  }

  protected startDrag(event: PointerEvent, ghost: Ghost): void {
    if (event.button !== 0) return;
    event.preventDefault();
    this.dragged.set(ghost);
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
  }

  protected drag(event: PointerEvent): void {
    const ghost = this.dragged();
    if (!ghost) return;
    const box = this.lane().nativeElement.getBoundingClientRect();
    const share = (event.clientX - box.left) / box.width;
    const edges = this.edges();
    let nearest = 0;
    edges.forEach((edge, n) => {
      if (Math.abs(edge - share) < Math.abs((edges[nearest] ?? 0) - share)) nearest = n;
    });
    this.store.move(ghost, nearest);
  }

  protected endDrag(): void {
    this.dragged.set(null);
  }

  private share(index: number): number {
    return this.edges()[index] ?? 1;
  }

  private numberAt(index: number): string {
    return this.measures()[index]?.number ?? '';
  }
}
