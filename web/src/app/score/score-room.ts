import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { MessageService } from 'primeng/api';
import { startAnywhere } from '@vivid-cue/core/passages';
import { typedAt, usualClef, type PaperMusic, type TypedPassage } from '@vivid-cue/core/paper';
import { measuresText, measureWord } from '@vivid-cue/core/music';
import type { NotePlace } from '@vivid-cue/core/reading';
import { inSpan, spanInWords, type Span } from '@vivid-cue/core/score';
import type { CueView, PassageView, ScoreRoomView } from '@vivid-cue/contract';
import { DrillList } from '../drill/drill-list';
import { PlaceStore, ROOM_TABS, type RoomTab } from '../data/place-store';
import { ScoreApi } from '../data/score-api';
import { SessionStore } from '../data/session-store';
import { CueLegend } from '../ui/cue-legend';
import { MusicFiles } from '../data/music-files';
import { StudioFiles } from '../data/studio-files';
import { AccompanyBar } from '../ui/accompany-bar';
import { ProblemNote } from '../ui/problem-note';
import { countByFrames } from '../ui/frames';
import { TabStrip, type TabItem } from '../ui/tab-strip';
import { isTyping } from '../ui/typing';
import { CueKeys } from './cues/cue-keys';
import { CueStore } from './cues/cue-store';
import { CuesPanel } from './cues/cues-panel';
import { TwoWaysNote } from './cues/two-ways';
import { CutBar } from './passages/cut-bar';
import { EditionDialog } from './findings/edition-dialog';
import { EngravedScore } from './engraving/engraved-score';
import { FactsLine } from './findings/facts-line';
import { FactsPanel } from './findings/facts-panel';
import { FindingsPanel } from './findings/findings-panel';
import { GhostLane } from './passages/ghost-lane';
import { LayerBar } from './findings/layer-bar';
import { LayerStore } from './findings/layers';
import { BodyPanel } from './body/body-panel';
import { BodyStore } from './body/body-store';
import { BringMusic } from './bring-music';
import { PageBoard } from './pages/page-board';
import { PageLines } from './pages/page-lines';
import { TypedBar } from './typed/typed-bar';
import { TypedEditor } from './typed/typed-editor';
import { TypedStrips } from './typed/typed-strips';
import { ToldLines } from './music/told-lines';
import { MeasureRibbon } from './ribbon/measure-ribbon';
import { PairView } from './engraving/pair-view';
import { PassageEditor } from './passages/passage-editor';
import { PassageList } from './passages/passage-list';
import { PassagePanel } from './passages/passage-panel';
import { ReadingStore, type ShownFinding } from './findings/reading-store';
import { RoomHead } from './room-head';
import { movedWithMusic } from './room/moved-with-music';
import { RoomMusic } from './room-music';
import { RoomStore } from './room/room-store';
import { RoomWords } from './room/room-words';
import { ScoreFile } from './score-file';
import { ShareMenu } from './share/share-menu';
import { SuggestionStore } from './passages/suggestion-store';
import { TargetForm } from './target-form';
import { UndoNotice } from '../ui/undo-notice';
import type { Editing } from '../ui/unsaved-edits';

/** Letters that open the panels. */
const TAB_KEYS: Readonly<Record<string, RoomTab>> = {
  f: 'findings',
  p: 'passages',
  b: 'body',
  q: 'cues',
  i: 'facts',
};

/** The score of one part: engraved, with its ribbon and layers, what was found in it, its passages and its cues. */
@Component({
  selector: 'vc-score-room',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    AccompanyBar,
    BodyPanel,
    BringMusic,
    CueKeys,
    CueLegend,
    CuesPanel,
    CutBar,
    DrillList,
    EditionDialog,
    EngravedScore,
    FactsLine,
    FactsPanel,
    FindingsPanel,
    GhostLane,
    LayerBar,
    MeasureRibbon,
    PageBoard,
    PageLines,
    PairView,
    PassageEditor,
    PassageList,
    PassagePanel,
    ProblemNote,
    RoomHead,
    RouterLink,
    ShareMenu,
    TabStrip,
    TargetForm,
    ToldLines,
    TwoWaysNote,
    TypedBar,
    TypedEditor,
    TypedStrips,
  ],
  providers: [
    { provide: MusicFiles, useExisting: StudioFiles },
    RoomStore,
    RoomMusic,
    RoomWords,
    ReadingStore,
    ScoreFile,
    LayerStore,
    SuggestionStore,
    BodyStore,
    CueStore,
  ],
  templateUrl: './score-room.html',
  styleUrl: './score-room.css',
  host: { '(document:keydown)': 'onKey($event)' },
})
export class ScoreRoom implements Editing {
  private readonly api = inject(ScoreApi);
  private readonly session = inject(SessionStore);
  private readonly messages = inject(MessageService);
  private readonly notice = inject(UndoNotice);
  private readonly router = inject(Router);
  private readonly place = inject(PlaceStore);
  private readonly cutBar = viewChild(CutBar);
  private readonly cuesPanel = viewChild(CuesPanel);
  private readonly board = viewChild<Editing>('board');
  private readonly typed = viewChild<Editing>('typed');
  private readonly typedBar = viewChild(TypedBar);
  protected readonly store = inject(RoomStore);
  protected readonly file = inject(ScoreFile);
  protected readonly reading = inject(ReadingStore);
  protected readonly layers = inject(LayerStore);
  protected readonly suggestions = inject(SuggestionStore);
  protected readonly cues = inject(CueStore);

  readonly programPartId = input.required<string>();
  /** A measure index to begin at, in the address. */
  readonly measure = input<string | undefined>();

  protected readonly tab = this.place.roomTab;
  protected readonly selection = signal<Span | null>(null);
  /** Measures that become a passage as soon as the form of passages is drawn; null where none do. */
  private readonly toMake = signal<Span | null>(null);
  protected readonly isReplacing = signal(false);
  /** The passage that is being typed; null where none is. */
  protected readonly typing = signal<TypedPassage | null>(null);
  /** Pages that were brought and stand on the board; null where none do. */
  protected readonly files = signal<readonly File[] | null>(null);
  protected readonly isEditing = signal(false);
  protected readonly areDrillsOpen = signal(false);
  protected readonly isComparing = signal(false);
  protected readonly vocabulary = this.session.vocabulary;

  protected readonly room = this.store.room;
  private readonly music = inject(RoomMusic);
  protected readonly measures = this.music.measures;
  protected readonly isTold = this.music.isTold;
  protected readonly isPaged = this.music.isPaged;
  protected readonly pagedPaper = this.music.pagedPaper;
  protected readonly hasNotes = this.music.hasNotes;
  protected readonly bands = this.music.bands;
  protected readonly tabs = computed((): readonly TabItem[] => [
    { value: 'findings', label: 'Findings', count: this.reading.findings().length },
    { value: 'passages', label: 'Passages', count: this.store.passages().length },
    { value: 'body', label: 'Body', count: null },
    { value: 'cues', label: 'Cues', count: this.room()?.cues.length ?? 0 },
    { value: 'facts', label: 'Facts', count: null },
  ]);
  protected readonly openSeconds = this.music.openSeconds;
  protected readonly pair = this.music.pair;
  /** Cues that stand on the music. */
  protected readonly signed = computed(() => (this.room()?.cues ?? []).filter(({ sign }) => sign !== ''));
  /** How much of the room is unfolded: a little more each frame, so that no part of it holds the page up. */
  protected readonly unfolded = countByFrames(() => (this.room() ? 4 : 0));

  constructor() {
    effect(() => {
      this.place.programPartId.set(this.programPartId());
      this.store.load(this.programPartId());
    });
    effect(() => {
      const programId = this.room()?.program.id;
      if (programId !== undefined) this.place.programId.set(programId);
      const studentId = this.room()?.student.id;
      if (studentId !== undefined) this.place.studentId.set(studentId);
    });
    effect(() => {
      const [bar, span] = [this.cutBar(), this.toMake()];
      if (!bar || !span) return;
      untracked(() => {
        this.toMake.set(null);
        bar.make(span);
      });
    });
    effect(() => {
      const [measure, count] = [Number(this.measure() ?? Number.NaN), this.measures().length];
      if (measure >= 0 && measure < count) untracked(() => this.pick(measure, false));
    });
  }

  /** What was told and typed of the music, without its pages: other ones come. */
  protected onlyTold(): PaperMusic | null {
    const paper = this.file.paper();
    return paper && { ...paper, pages: [] };
  }

  private typeTarget(): void {
    const bar = this.typedBar();
    // What was selected just now is not told to the bar yet.
    if (bar) this.type(this.selection() ?? bar.target());
  }

  /** Notes are typed from the first measure of a span on, or those changed that it has. */
  protected type({ fromIndex }: Span): void {
    const paper = this.file.paper();
    const number = this.room()?.score?.digest.measures[fromIndex]?.number;
    if (!paper || number === undefined) return;
    const clef = paper.typed.at(-1)?.clef ?? usualClef(this.room()?.student.instrument ?? '');
    this.typing.set(typedAt(paper, number) ?? { from: number, abc: '', clef });
  }

  hasEdits(): boolean {
    return (
      this.isEditing() ||
      (this.board()?.hasEdits() ?? false) ||
      (this.typed()?.hasEdits() ?? false) ||
      (this.cuesPanel()?.hasEdits() ?? false)
    );
  }

  protected openTab(tab: unknown): void {
    const known = ROOM_TABS.find((one) => one === tab);
    if (known) this.tab.set(known);
    if (known !== 'findings') this.reading.chosenId.set(null);
  }

  protected select(span: Span | null): void {
    const note = this.layers.note();
    if (note && !(inSpan(span, note.index) && span && span.endIndex === span.fromIndex + 1))
      this.layers.note.set(null);
    this.selection.set(span);
  }

  protected pick(index: number, isWidening: boolean): void {
    const here = this.selection();
    const span =
      isWidening && here
        ? { fromIndex: Math.min(here.fromIndex, index), endIndex: Math.max(here.endIndex, index + 1) }
        : { fromIndex: index, endIndex: index + 1 };
    this.select(span);
  }

  /** A note is looked at: cues are written there. */
  protected pickNote(note: NotePlace): void {
    this.layers.note.set(note);
    this.reading.chosenId.set(null);
  }

  /** Shows a finding in the music: its first measure, or the whole run of them. */
  protected look({ places }: Pick<ShownFinding, 'places'>): void {
    const [first, last] = [places[0], places.at(-1)];
    if (first === undefined || last === undefined) {
      this.selection.set(null);
      return;
    }
    const isRun = last - first + 1 === places.length;
    this.selection.set({ fromIndex: first, endIndex: (isRun ? last : first) + 1 });
  }

  protected cueMade(cue: CueView): void {
    const text = measuresText(cue.from, cue.to, this.vocabulary());
    this.notice.offer({
      done: `Cue written at ${text}`,
      undone: `no cue at ${text}`,
      undo: () => this.store.send(this.api.removeCue(cue.id)),
      back: () => this.store.dropCue(cue.id),
    });
  }

  protected makeFromRibbon(): void {
    this.openTab('passages');
    this.open(null, this.selection());
    this.toMake.set(this.selection());
  }

  protected made(passages: readonly PassageView[]): void {
    this.store.replaceAll(passages);
    this.openTab('passages');
    const [first] = passages;
    if (first && passages.length === 1) this.open(first.id);
  }

  protected open(id: string | null, selection: Span | null = null): void {
    this.store.openPassage(id);
    const passage = this.store.open();
    if (passage) this.openTab('passages');
    this.selection.set(passage ? { fromIndex: passage.fromIndex, endIndex: passage.endIndex } : selection);
  }

  protected uploaded(room: ScoreRoomView): void {
    const before = this.room();
    this.isReplacing.set(false);
    this.files.set(null);
    this.typing.set(null);
    this.store.show(room);
    const moved = before ? movedWithMusic(before, room) : 0;
    if (moved === 0) return;
    const summary = `${moved} passage${moved === 1 ? ' or cue went' : 's and cues went'} along with the music to other ${measureWord(2, this.vocabulary())}`;
    this.messages.add({ severity: 'secondary', summary, life: 10_000 });
  }

  protected choosePart(partId: string): void {
    this.store.run(this.api.choosePart(this.programPartId(), partId), (room) => this.store.show(room));
  }

  protected saved(passage: PassageView): void {
    this.isEditing.set(false);
    this.made([passage]);
  }

  protected remove(): void {
    const passage = this.store.open();
    if (!passage) return;
    this.store.run(this.api.removePassage(passage.id), () => {
      this.store.drop(passage.id);
      this.selection.set(null);
      this.notice.offer({
        done: `${passage.name} removed`,
        undone: `${passage.name} is there again`,
        undo: () => this.store.send(this.api.restorePassage(passage.id)),
        back: () => this.store.load(this.programPartId()),
      });
    });
  }

  /** Goes to a measure by chance, in this part or another of the program. */
  protected startAnywhere(): void {
    const parts = (this.room()?.program.parts ?? []).flatMap(({ id, label, runs }) =>
      runs.map((run) => ({ id, label, ...run })),
    );
    const found = startAnywhere(parts, Math.random);
    if (!found) return;
    const { part, index } = found;
    const isHere = part.id === this.programPartId();
    const place = [isHere ? this.spanText({ fromIndex: index, endIndex: index + 1 }) : '', part.label];
    const summary = `Start at ${place.filter((text) => text !== '').join(', ')}`;
    this.messages.add({ severity: 'secondary', summary, life: 8_000 });
    if (isHere) this.pick(index, false);
    else void this.router.navigate(['/score', part.id], { queryParams: { measure: index } });
  }

  protected onKey(event: KeyboardEvent): void {
    if (isTyping(event) || this.files() || event.ctrlKey || event.metaKey || event.altKey) return;
    const isCue = this.cues.hears(event, {
      selection: this.selection(),
      look: (index) => this.selection.set({ fromIndex: index, endIndex: index + 1 }),
    });
    if (isCue) {
      event.preventDefault();
      return;
    }
    const tab = TAB_KEYS[event.key.toLowerCase()];
    const step = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (tab) this.openTab(tab);
    else if (event.key.toLowerCase() === 'a') this.startAnywhere();
    else if (event.key.toLowerCase() === 't') this.typeTarget();
    else if (event.key === 'Escape') this.clear();
    else if (step !== 0 && isPlain(event.target)) this.step(step, event.shiftKey);
    else if (!this.nextPassage(event.key)) return;
    event.preventDefault();
  }

  private clear(): void {
    this.select(null);
    this.reading.chosenId.set(null);
  }

  /** The next or previous measure; with Shift the selection grows at its end. */
  private step(step: 1 | -1, isWidening: boolean): void {
    const here = this.selection();
    const last = this.measures().length - 1;
    const at = here
      ? (step > 0 || isWidening ? here.endIndex - 1 : here.fromIndex) + step
      : step > 0
        ? 0
        : last;
    const index = Math.min(last, Math.max(0, at));
    if (isWidening && here)
      this.select({ fromIndex: here.fromIndex, endIndex: Math.max(here.fromIndex, index) + 1 });
    else this.pick(index, false);
  }

  private nextPassage(key: string): boolean {
    const step = key === '.' ? 1 : key === ',' ? -1 : 0;
    const passages = this.store.passages();
    if (step === 0 || passages.length === 0 || this.tab() !== 'passages') return false;
    const here = passages.findIndex(({ id }) => id === this.store.openId());
    const next =
      here < 0 ? (step > 0 ? 0 : passages.length - 1) : (here + step + passages.length) % passages.length;
    this.open(passages[next]?.id ?? null);
    return true;
  }

  private spanText(span: Span): string {
    return spanInWords(this.measures(), span, this.vocabulary());
  }
}

/** Whether arrow keys mean nothing where the focus is. */
function isPlain(target: EventTarget | null): boolean {
  return (
    !(target instanceof HTMLElement) ||
    target.closest('[role=listbox], [role=tablist], .lane, p-select') === null
  );
}
