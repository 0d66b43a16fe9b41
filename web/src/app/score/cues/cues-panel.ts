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
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { v7 as newId } from 'uuid';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { CUE_KINDS, type CueKind, type CueStatus } from '@vivid-cue/core/cue-kinds';
import { CUE_REASON_LIMIT, CUE_SIGN_LIMIT, CUE_TEXT_LIMIT } from '@vivid-cue/core/cues';
import { measuresText } from '@vivid-cue/core/music';
import { parseSpan, printedSpan, spanInWords, spanPhrase, type Span } from '@vivid-cue/core/score';
import type { PhraseShape } from '@vivid-cue/core/settle';
import type { CueAlternative, CueView } from '@vivid-cue/contract';
import { troubleOf } from '../../data/problem';
import { ScoreApi } from '../../data/score-api';
import { SessionStore } from '../../data/session-store';
import { RoomStore } from '../room/room-store';
import { CueStore } from './cue-store';
import { TwoWaysNote } from './two-ways';
import { UndoNotice } from '../../ui/undo-notice';
import { CueMark } from '../../ui/cue-mark';
import { StudioWords } from '../../ui/studio-words';

/** How far a cue is decided, in words. */
const STATUS_CHOICES: readonly { readonly value: CueStatus; readonly label: string }[] = [
  { value: 'settled', label: 'settled' },
  { value: 'proposed', label: 'proposed' },
  { value: 'discuss', label: 'to discuss' },
];

/** The cues of the open score: written at the selected measures, changed in place, removed with Undo. */
@Component({
  selector: 'vc-cues-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, CueMark, FormsModule, InputText, Select, StudioWords, TwoWaysNote],
  templateUrl: './cues-panel.html',
  styleUrl: './cues-panel.css',
})
export class CuesPanel {
  private readonly api = inject(ScoreApi);
  private readonly notice = inject(UndoNotice);
  private readonly session = inject(SessionStore);
  private id = newId();
  protected readonly room = inject(RoomStore);
  protected readonly store = inject(CueStore);

  readonly selection = input<Span | null>(null);
  readonly look = output<Span>();

  protected readonly limit = CUE_TEXT_LIMIT;
  protected readonly signLimit = CUE_SIGN_LIMIT;
  protected readonly reasonLimit = CUE_REASON_LIMIT;
  protected readonly statuses = [...STATUS_CHOICES];
  protected readonly kinds = CUE_KINDS.map((value) => ({ value, label: value }));
  protected readonly kind = signal<CueKind>('trap');
  protected readonly text = signal('');
  protected readonly sign = signal('');
  protected readonly note = signal<number | null>(null);
  protected readonly beat = signal<number | null>(null);
  protected readonly status = signal<CueStatus>('settled');
  protected readonly reason = signal('');
  protected readonly alternatives = signal<readonly CueAlternative[]>([]);
  protected readonly wanted = signal('');
  protected readonly typedSpan = signal<string | null>(null);
  protected readonly editing = signal<CueView | null>(null);
  protected readonly issue = signal('');
  protected readonly span = computed(() => this.typedSpan() ?? this.selectedText());
  protected readonly rows = computed(() =>
    (this.room.room()?.cues ?? [])
      .map((cue) => ({
        ...cue,
        where:
          measuresText(cue.from, cue.to, this.session.vocabulary()) +
          (cue.note !== null ? `, note ${cue.note}` : cue.beat !== null ? `, beat ${cue.beat}` : ''),
        statusText: STATUS_CHOICES.find(({ value }) => value === cue.status)?.label ?? '',
      }))
      .filter((cue) => isAbout(cue, this.wanted())),
  );
  protected readonly isMany = computed(() => (this.room.room()?.cues.length ?? 0) > 5);

  /** Places where the same notes come again, of the cue that was looked at last. */
  protected readonly lookedAt = signal<string | null>(null);
  protected readonly like = computed(() => {
    const cue = this.room.room()?.cues.find(({ id }) => id === this.lookedAt());
    const places = cue ? this.store.likeOf(cue) : [];
    return cue && places.length > 0 ? { cue, places, text: this.store.likeText(places) } : null;
  });

  constructor() {
    // A note that is picked in the music is where the next cue stands.
    effect(() => {
      const note = this.store.note();
      if (!untracked(this.editing)) this.note.set(note?.note ?? null);
    });
  }

  protected readonly shapes = computed(() => this.store.shapesFor(this.selection()));
  protected readonly spanText = computed(() => {
    const [span, measures] = [this.selection(), this.room.room()?.score?.digest.measures ?? []];
    return span ? spanInWords(measures, span, this.session.vocabulary()) : '';
  });

  /** The levels of a shape where they change: "mp mf f mf mp". */
  protected levelsText({ levels }: PhraseShape): string {
    return levels.filter((level, n) => level !== levels[n - 1]).join(' ');
  }

  protected numberOf(index: number): string {
    return this.room.room()?.score?.digest.measures[index]?.number ?? '';
  }

  protected lookAtMeasure(index: number): void {
    this.look.emit({ fromIndex: index, endIndex: index + 1 });
  }

  protected lookAt(cue: CueView): void {
    this.lookedAt.set(cue.id);
    this.look.emit(cue);
    if (cue.note !== null) this.store.note.set({ index: cue.fromIndex, note: cue.note });
  }

  private selectedText(): string {
    const measures = this.room.room()?.score?.digest.measures ?? [];
    const selection = this.selection();
    return selection ? spanPhrase(printedSpan(measures, selection)) : '';
  }

  /** Whether a cue was begun and not written. */
  hasEdits(): boolean {
    return this.text().trim() !== '';
  }

  protected edit(cue: CueView): void {
    this.editing.set(cue);
    this.kind.set(cue.kind);
    this.text.set(cue.text);
    this.sign.set(cue.sign);
    this.note.set(cue.note);
    this.beat.set(cue.beat);
    this.status.set(cue.status);
    this.reason.set(cue.reason);
    this.alternatives.set(cue.alternatives);
    this.typedSpan.set(spanPhrase(cue));
    this.issue.set('');
    this.lookAt(cue);
  }

  protected cancel(): void {
    this.editing.set(null);
    this.text.set('');
    this.sign.set('');
    this.note.set(null);
    this.beat.set(null);
    this.status.set('settled');
    this.reason.set('');
    this.alternatives.set([]);
    this.typedSpan.set(null);
    this.issue.set('');
  }

  protected save(): void {
    const partId = this.room.room()?.programPartId;
    const span = parseSpan(this.span());
    if (partId === undefined) return;
    if (!span.ok || this.span().trim() === '') {
      this.issue.set('Say where: select measures, or type a number such as 9 or 9–12.');
      return;
    }
    if (this.text().trim() === '') {
      this.issue.set('Write what to remember here.');
      return;
    }
    const cue = {
      ...{ kind: this.kind(), text: this.text().trim(), ...span.value },
      ...{
        note: this.note(),
        beat: this.note() === null ? this.beat() : null,
        sign: this.sign().trim(),
        status: this.status(),
      },
      reason: this.reason().trim(),
      alternatives: this.alternatives().filter(({ text }) => text.trim() !== ''),
    };
    const editing = this.editing();
    const call = editing
      ? this.api.changeCue(editing, cue)
      : this.api.addCue(partId, { id: this.id, ...cue, findingKey: null });
    this.room.send(call).subscribe({
      next: (saved) => {
        this.id = newId();
        this.room.replaceCue(saved);
        this.cancel();
      },
      error: (error: unknown) => this.issue.set(troubleOf(error).message),
    });
  }

  protected addOther(): void {
    this.alternatives.update((all) => [...all, { text: '', reason: '', isSafe: false }]);
  }

  protected changeOther(at: number, change: Partial<CueAlternative>): void {
    this.alternatives.update((all) => all.map((one, n) => (n === at ? { ...one, ...change } : one)));
  }

  protected dropOther(at: number): void {
    this.alternatives.update((all) => all.filter((_, n) => n !== at));
  }

  protected remove(cue: CueView): void {
    this.room.run(this.api.removeCue(cue.id), () => {
      this.room.dropCue(cue.id);
      this.notice.offer({
        done: 'Cue removed',
        undone: `the cue “${cue.text}” is there again`,
        undo: () => this.room.send(this.api.restoreCue(cue.id)),
        back: () => this.room.replaceCue(cue),
      });
    });
  }
}

/** Whether a cue says something of what is looked for: its words, sign, kind or place. */
function isAbout(
  {
    text,
    sign,
    kind,
    where,
    reason,
  }: Pick<CueView, 'text' | 'sign' | 'kind' | 'reason'> & { readonly where: string },
  wanted: string,
): boolean {
  const said = `${text} ${sign} ${kind} ${where} ${reason}`.toLowerCase();
  return said.includes(wanted.trim().toLowerCase());
}
