import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { MessageService } from 'primeng/api';
import { Button } from 'primeng/button';
import { InputNumber } from 'primeng/inputnumber';
import { Select } from 'primeng/select';
import { catchError, distinctUntilChanged, map, of, switchMap } from 'rxjs';
import { checkBpm, measuresText, quarterBpm, tempoText, type BeatUnit } from '@vivid-cue/core/music';
import { scoreText, spanQuarters, type Span } from '@vivid-cue/core/score';
import type { PassageView, ScoreRoomView } from '@vivid-cue/contract';
import { PlaceStore } from '../data/place-store';
import { ScoreApi } from '../data/score-api';
import { SessionStore } from '../data/session-store';
import { unitChoices } from '../sheet/tempo-choice';
import { ProblemNote } from '../ui/problem-note';
import { RungGlyph } from '../ui/rung-glyph';
import { daysText, percentText, secondsText } from '../ui/texts';
import { isTyping } from '../ui/typing';
import { CutBar } from './cut-bar';
import { EngravedScore } from './engraved-score';
import { MeasureRibbon, type RibbonBand, type RibbonMeasure } from './measure-ribbon';
import { PassageEditor } from './passage-editor';
import { PassagePanel } from './passage-panel';
import { RoomStore } from './room-store';
import { ScoreUpload } from './score-upload';

/** The score of one part: engraved, with its ribbon, its passages and the open passage's ladder. */
@Component({
  selector: 'vc-score-room',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    Button,
    CutBar,
    EngravedScore,
    FormsModule,
    InputNumber,
    MeasureRibbon,
    PassageEditor,
    PassagePanel,
    ProblemNote,
    RouterLink,
    RungGlyph,
    ScoreUpload,
    Select,
  ],
  providers: [RoomStore],
  templateUrl: './score-room.html',
  styleUrl: './score-room.css',
  host: { '(document:keydown)': 'onKey($event)' },
})
export class ScoreRoom {
  private readonly api = inject(ScoreApi);
  private readonly session = inject(SessionStore);
  private readonly messages = inject(MessageService);
  private readonly destroyRef = inject(DestroyRef);
  private readonly cutBar = viewChild(CutBar);
  protected readonly store = inject(RoomStore);

  readonly programPartId = input.required<string>();

  protected readonly selection = signal<Span | null>(null);
  protected readonly musicXml = signal<string | null>(null);
  protected readonly isReplacing = signal(false);
  protected readonly isEditing = signal(false);
  protected readonly targetIssue = signal('');
  protected readonly newBpm = signal<number | null>(null);
  protected readonly newUnit = signal<BeatUnit>('quarter');
  protected readonly vocabulary = this.session.vocabulary;
  protected readonly units = computed(() => [...unitChoices(this.vocabulary())]);

  protected readonly room = this.store.room;
  protected readonly measures = computed((): readonly RibbonMeasure[] => {
    const room = this.room();
    const range = room?.range;
    return (room?.score?.digest.measures ?? []).map(({ index, number, quarters }) => ({
      index,
      number,
      quarters,
      isAsked: range === null || range === undefined || (range.fromIndex <= index && index < range.endIndex),
    }));
  });
  protected readonly bands = computed((): readonly RibbonBand[] =>
    this.store.passages().map(({ id, name, fromIndex, endIndex, readiness }) => ({
      id,
      name,
      fromIndex,
      endIndex,
      state: readiness.state,
    })),
  );
  protected readonly targetQuarterBpm = computed(() => {
    const target = this.room()?.target;
    return target ? quarterBpm(target.bpm, target.beatUnit) : null;
  });
  protected readonly facts = computed(() => {
    const room = this.room();
    const range = room?.range;
    if (!room?.score) return '';
    const bpm = this.targetQuarterBpm();
    const quarters = range ? spanQuarters(this.measures(), range) : 0;
    return [
      room.score.digest.instrument,
      room.span ? measuresText(room.span.from, room.span.to, this.vocabulary()) : 'the whole piece',
      room.target ? tempoText(room.target.bpm, room.target.beatUnit) : room.tempoText,
      bpm === null || quarters === 0 ? '' : secondsText((quarters * 60) / bpm),
    ]
      .filter((text) => text !== '')
      .join(' · ');
  });
  protected readonly parts = computed(() =>
    (this.room()?.score?.digest.parts ?? []).filter(({ noteCount }) => noteCount > 0),
  );
  protected readonly openSeconds = computed(() => {
    const passage = this.store.open();
    if (!passage) return 0;
    const quarters = spanQuarters(this.measures(), passage);
    return (quarters * 60) / quarterBpm(passage.target.bpm, passage.target.beatUnit);
  });
  protected readonly rows = computed(() =>
    this.store.passages().map((passage) => ({
      ...passage,
      spanText: measuresText(passage.from, passage.to, this.vocabulary()),
      target: tempoText(passage.target.bpm, passage.target.beatUnit),
      chance: passage.readiness.chance === null ? null : percentText(passage.readiness.chance),
    })),
  );
  protected readonly daysText = daysText;
  protected readonly partId = computed(() => this.room()?.score?.digest.partId ?? '');
  private readonly scoreId = computed(() => this.room()?.score?.id ?? null);

  constructor() {
    const place = inject(PlaceStore);
    effect(() => {
      place.programPartId.set(this.programPartId());
      this.store.load(this.programPartId());
    });
    effect(() => {
      const studentId = this.room()?.student.id;
      if (studentId !== undefined) place.studentId.set(studentId);
    });
    toObservable(this.scoreId)
      .pipe(
        distinctUntilChanged(),
        switchMap((id) =>
          id === null
            ? of(null)
            : this.api.file(id).pipe(
                map((bytes) => scoreText(new Uint8Array(bytes))),
                catchError(() => of(null)),
              ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((text) => this.musicXml.set(text));
  }

  protected select(span: Span | null): void {
    this.selection.set(span);
  }

  protected pick(index: number): void {
    this.selection.set({ fromIndex: index, endIndex: index + 1 });
  }

  protected makeFromRibbon(): void {
    this.cutBar()?.make(this.selection());
  }

  protected made(passage: PassageView): void {
    this.store.replace(passage);
    this.open(passage.id);
  }

  protected open(id: string | null): void {
    this.store.openPassage(id);
    const passage = this.store.open();
    this.selection.set(passage ? { fromIndex: passage.fromIndex, endIndex: passage.endIndex } : null);
  }

  protected uploaded(room: ScoreRoomView): void {
    this.isReplacing.set(false);
    this.store.show(room);
  }

  protected choosePart(partId: string): void {
    this.store.run(this.api.choosePart(this.programPartId(), partId), (room) => this.store.show(room));
  }

  protected setTarget(): void {
    const bpm = this.newBpm();
    const checked = checkBpm(bpm ?? Number.NaN, 'target');
    this.targetIssue.set(
      checked.ok
        ? ''
        : bpm === null
          ? 'Write a number of beats a minute.'
          : (checked.issues[0]?.message ?? ''),
    );
    if (!checked.ok || bpm === null) return;
    this.store.run(this.api.setTarget(this.programPartId(), { bpm, beatUnit: this.newUnit() }), (room) =>
      this.store.show(room),
    );
  }

  protected saved(passage: PassageView): void {
    this.isEditing.set(false);
    this.store.replace(passage);
    this.open(passage.id);
  }

  protected remove(): void {
    const passage = this.store.open();
    if (!passage) return;
    this.store.run(this.api.removePassage(passage.id), () => {
      this.store.drop(passage.id);
      this.selection.set(null);
      const data = {
        undo: () => {
          this.api
            .restorePassage(passage.id)
            .pipe(takeUntilDestroyed(this.destroyRef))
            .subscribe(() => this.store.load(this.programPartId()));
        },
      };
      this.messages.add({ severity: 'secondary', summary: `${passage.name} removed`, life: 12_000, data });
    });
  }

  protected onKey(event: KeyboardEvent): void {
    if (isTyping(event)) return;
    const step = event.key === 'j' ? 1 : event.key === 'k' ? -1 : 0;
    const passages = this.store.passages();
    if (step === 0 || passages.length === 0) return;
    event.preventDefault();
    const here = passages.findIndex(({ id }) => id === this.store.openId());
    const next =
      here < 0 ? (step > 0 ? 0 : passages.length - 1) : (here + step + passages.length) % passages.length;
    this.open(passages[next]?.id ?? null);
  }
}
