import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { Button } from 'primeng/button';
import {
  barAt,
  lineOfFields,
  scoreOfPaper,
  withBar,
  withBarMoved,
  withCount,
  withLineAdded,
  withLineOut,
  withoutBar,
  withRegionOut,
  withSureBar,
  type BoxPlace,
  type LinePlace,
  type PageRegion,
  type PaperMusic,
  type PaperPage,
} from '@vivid-cue/core/paper';
import { digestScore } from '@vivid-cue/core/score';
import type { ScoreRoomView } from '@vivid-cue/contract';
import { SessionStore } from '../../data/session-store';
import { ProblemNote } from '../../ui/problem-note';
import { StudioWords } from '../../ui/studio-words';
import { countByFrames } from '../../ui/frames';
import { isTyping } from '../../ui/typing';
import { DifferenceNote } from '../music/difference-note';
import { PaperKeeper } from '../music/paper-keeper';
import { ribbonOf, titleOf, toldSummary } from '../music/told-draft';
import { MeasureRibbon } from '../ribbon/measure-ribbon';
import { BoardSide } from './board-side';
import { BoardStore, type Sheet } from './board-store';
import { PageSheet } from './page-sheet';
import { questionsOf } from './questions';

const ZOOMS = [50, 70, 100, 140, 200] as const;
/** Digits typed so soon after another belong to one number. Units: milliseconds */
const DIGIT_MS = 900;
/** Keys that lead to a field of the chosen box. */
const FIELD_KEYS: Readonly<Record<string, string>> = {
  m: 'meter',
  k: 'key',
  l: 'letter',
  t: 'tempo',
  e: 'ending',
  n: 'first',
  r: 'bar',
};

/** Pages of printed music with their measures as boxes, to be put right and kept. */
@Component({
  selector: 'vc-page-board',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [BoardSide, Button, DifferenceNote, MeasureRibbon, PageSheet, ProblemNote, StudioWords],
  providers: [BoardStore, PaperKeeper],
  templateUrl: './page-board.html',
  styleUrl: './page-board.css',
  host: { '(document:keydown)': 'onKey($event)' },
})
export class PageBoard {
  protected readonly keeper = inject(PaperKeeper);
  private readonly session = inject(SessionStore);
  protected readonly store = inject(BoardStore);
  private readonly side = viewChild(BoardSide);

  readonly room = input.required<ScoreRoomView>();
  /** What was kept before. */
  readonly paper = input<PaperMusic | null>(null);
  /** Files that were brought; more may come. */
  readonly files = input<readonly File[]>([]);
  /** The measures were kept. */
  readonly kept = output<ScoreRoomView>();
  readonly left = output<void>();

  protected readonly vocabulary = this.session.vocabulary;
  protected readonly isDrawing = signal(false);
  protected readonly zoom = signal<number>(matchMedia('(max-width: 560px)').matches ? 200 : 100);
  /** How much of the board is unfolded: a little more each frame, so that no part of it holds the page up. */
  protected readonly unfolded = countByFrames(() => 2);
  private typed = { text: '', atMs: 0 };

  protected readonly askedLast = computed(() => {
    const last = this.room().asked.flatMap(({ to }) => (typeof to === 'number' ? [to] : []));
    return last.length === 0 ? null : Math.max(...last);
  });
  protected readonly questions = computed(() =>
    questionsOf(this.store.draft(), { askedLast: this.askedLast(), vocabulary: this.vocabulary() }),
  );
  /** The measures as they would be kept. */
  protected readonly digest = computed(() => {
    const { fields, pages } = this.store.draft();
    const typed = untracked(this.paper)?.typed ?? [];
    const score = scoreOfPaper({ title: null, line: lineOfFields(fields), typed, pages });
    return score.ok ? digestScore(score.value) : null;
  });
  protected readonly ribbon = computed(() => ribbonOf(this.digest()?.measures ?? []));
  protected readonly selection = computed(() => {
    const box = this.store.chosenBox();
    const at = this.digest()?.measures.findIndex(({ number }) => number === String(box?.number)) ?? -1;
    return box && at >= 0 ? { fromIndex: at, endIndex: at + box.count } : null;
  });
  protected readonly summary = computed(() => toldSummary(this.digest(), this.vocabulary()));
  protected readonly hasMeasures = computed(() => this.store.boxes().length > 0);
  protected readonly canKeep = computed(() => this.hasMeasures() && this.digest() !== null);
  protected readonly pageAt = computed(
    () => new Map(this.store.draft().pages.map(({ picture }, n) => [picture, n] as const)),
  );

  constructor() {
    effect(() => {
      const room = this.room();
      untracked(() => this.store.begin(room, this.paper()));
    });
    effect(() => {
      const files = this.files();
      untracked(() => this.store.add(files));
    });
  }

  /** Whether leaving would lose something. */
  hasEdits(): boolean {
    return this.store.isChanged() && !this.keeper.isBusy();
  }

  protected pageOf({ id }: Sheet): PaperPage | null {
    const at = this.pageAt().get(id);
    return at === undefined ? null : (this.store.draft().pages[at] ?? null);
  }

  protected linesOf(sheet: Sheet): number {
    return this.pageOf(sheet)?.lines.length ?? 0;
  }

  protected take(chooser: HTMLInputElement): void {
    this.store.add([...(chooser.files ?? [])]);
    chooser.value = '';
  }

  protected addBar({ at, x }: { readonly at: LinePlace; readonly x: number }): void {
    this.store.change((pages) => withBar(pages, at, x));
  }

  protected takeBar(at: BoxPlace): void {
    const isDoubtful = barAt(this.store.draft().pages, at)?.isDoubtful === true;
    // A press on a bar line in doubt says that there is one; a second one takes it away.
    this.store.change((pages) => (isDoubtful ? withSureBar : withoutBar)(pages, at));
  }

  protected moveBar({ at, x }: { readonly at: BoxPlace; readonly x: number }): void {
    this.store.change((pages) => withBarMoved(pages, at, x));
  }

  protected region(page: number, region: PageRegion): void {
    const isLine = this.isDrawing();
    this.isDrawing.set(false);
    this.store.change((pages) => (isLine ? withLineAdded : withRegionOut)(pages, page, region));
  }

  protected takeIn(at: LinePlace): void {
    this.store.change((pages) => withLineOut(pages, at, false));
  }

  protected split(at: BoxPlace): void {
    const box = this.store
      .boxes()
      .find((one) => one.page === at.page && one.line === at.line && one.box === at.box);
    if (box) this.store.change((pages) => withBar(pages, at, (box.left + box.right) / 2));
  }

  protected zoomBy(step: 1 | -1): void {
    const at = ZOOMS.findIndex((one) => one === this.zoom());
    this.zoom.set(ZOOMS[Math.min(ZOOMS.length - 1, Math.max(0, at + step))] ?? 100);
  }

  protected select(span: { readonly fromIndex: number } | null): void {
    const number = span === null ? null : Number(this.digest()?.measures[span.fromIndex]?.number);
    const box = this.store
      .boxes()
      .find((one) => number !== null && one.number <= number && number < one.number + one.count);
    this.store.chosen.set(box ? { page: box.page, line: box.line, box: box.box } : null);
  }

  protected keep(): void {
    if (!this.canKeep() || this.store.isSending()) return;
    const { fields, pages } = this.store.draft();
    const [title, typed] = [titleOf(this.room(), this.paper()), this.paper()?.typed ?? []];
    const paper = { title, line: lineOfFields(fields), typed, pages };
    this.keeper.keep(this.room().programPartId, paper, (room) => this.kept.emit(room));
  }

  protected onKey(event: KeyboardEvent): void {
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z' && !isInField(event)) {
      if (event.shiftKey) this.store.redo();
      else this.store.undo();
      event.preventDefault();
      return;
    }
    if (isTyping(event)) return;
    const key = event.key.toLowerCase();
    if (/^\d$/u.test(key)) this.digit(key);
    else if (FIELD_KEYS[key] !== undefined && this.store.chosen()) this.side()?.focus(FIELD_KEYS[key]);
    else if (!this.act(key)) return;
    event.preventDefault();
  }

  /** What a key does; false where it does nothing. */
  private act(key: string): boolean {
    const at = this.store.chosen();
    const [question] = this.questions();
    const doubt = question?.kind === 'bar' ? question.at : null;
    if (key === 'arrowright' || key === 'arrowleft') this.store.step(key === 'arrowright' ? 1 : -1);
    else if (key === 'arrowdown' || key === 'arrowup') this.stepLine(key === 'arrowdown' ? 1 : -1);
    else if (key === 'b' && at) this.split(at);
    else if (key === 'j' && at) this.store.change((pages) => withoutBar(pages, at));
    else if (key === 'o' && at) this.store.change((pages) => withLineOut(pages, at, true));
    else if (key === 'y' && doubt) this.store.change((pages) => withSureBar(pages, doubt));
    else if (key === 'x' && doubt) this.store.change((pages) => withoutBar(pages, doubt));
    else if (key === 'u') this.store.undo();
    else if (key === '+' || key === '=') this.zoomBy(1);
    else if (key === '-') this.zoomBy(-1);
    else if (key === 'escape') this.store.chosen.set(null);
    else return false;
    return true;
  }

  private digit(key: string): void {
    const at = this.store.chosen();
    if (!at) return;
    const nowMs = performance.now();
    const text = nowMs - this.typed.atMs < DIGIT_MS ? this.typed.text + key : key;
    this.typed = { text, atMs: nowMs };
    this.store.change((pages) => withCount(pages, at, Number(text)));
  }

  /** The box above or below. */
  private stepLine(by: 1 | -1): void {
    const here = this.store.chosenBox();
    const boxes = this.store.boxes();
    if (!here) {
      this.store.step(by);
      return;
    }
    const lines = [...new Set(boxes.map(({ page, line }) => `${page}/${line}`))];
    const next = lines[lines.indexOf(`${here.page}/${here.line}`) + by];
    const near = boxes
      .filter(({ page, line }) => `${page}/${line}` === next)
      .sort((a, b) => Math.abs(a.left - here.left) - Math.abs(b.left - here.left))[0];
    if (near) this.store.chosen.set({ page: near.page, line: near.line, box: near.box });
  }
}

/** A field has its own way to take back. */
function isInField({ target }: KeyboardEvent): boolean {
  return target instanceof HTMLElement && /^(?:INPUT|TEXTAREA|SELECT)$/u.test(target.tagName);
}
