import {
  afterNextRender,
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
  type ElementRef,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Button } from 'primeng/button';
import { measureWord, type Vocabulary } from '@vivid-cue/core/music';
import {
  KEY_ENTRY,
  keyed,
  playedPitch,
  withoutTyped,
  withPitch,
  withTyped,
  type Keyed,
  type KeyEntry,
  type PaperMusic,
  type ToldIssue,
  type TypedClef,
  type TypedPassage,
  type TypedWork,
} from '@vivid-cue/core/paper';
import type { ScoreRoomView } from '@vivid-cue/contract';
import { TypedReaderClient } from '../../data/typed-reader';
import { ProblemNote } from '../../ui/problem-note';
import { StudioWords } from '../../ui/studio-words';
import { PaperKeeper } from '../music/paper-keeper';
import { MidiKeys } from './midi-keys';
import { TypedPicture } from './typed-picture';

const CLEFS: readonly { readonly value: TypedClef; readonly label: string }[] = [
  { value: 'treble', label: 'treble clef' },
  { value: 'bass', label: 'bass clef' },
  { value: 'alto', label: 'alto clef' },
  { value: 'tenor', label: 'tenor clef' },
  { value: 'perc', label: 'percussion' },
];
const VALUE_NAMES: Readonly<Record<KeyEntry['value'], string>> = {
  1: 'whole',
  2: 'half',
  4: 'quarter',
  8: 'eighth',
  16: 'sixteenth',
  32: 'thirty-second',
};
const KEYS: readonly (readonly [string, string])[] = [
  ['A–G', 'notes, near the last'],
  ['1 2 4 8 6 3', 'whole … thirty-second'],
  ['.', 'dot'],
  ['+ − =', 'sharp, flat, natural'],
  ['R', 'rest'],
  ['T S U', 'tie, slur, triplet'],
  [',', 'staccato'],
  ['↑ ↓', 'octave'],
  ['⌫', 'take back'],
];
/** Nothing has been read yet. */
const NO_WORK: TypedWork = { musicXml: null, numbers: [], issues: [], lengths: [], fifths: 0 };

interface Piece {
  readonly text: string;
  readonly isWrong: boolean;
}

/** Measures of music on paper are typed in: a line of ABC, engraved as it grows, or notes by keys and by a keyboard. */
@Component({
  selector: 'vc-typed-editor',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, ProblemNote, StudioWords, TypedPicture],
  providers: [MidiKeys, PaperKeeper],
  templateUrl: './typed-editor.html',
  styleUrl: './typed-editor.css',
})
export class TypedEditor {
  protected readonly keeper = inject(PaperKeeper);
  private readonly reader = inject(TypedReaderClient);
  protected readonly midi = inject(MidiKeys);
  private readonly line = viewChild.required<ElementRef<HTMLTextAreaElement>>('line');

  readonly room = input.required<ScoreRoomView>();
  readonly paper = input.required<PaperMusic>();
  /** The passage as it was typed before, or an empty one at its first measure. */
  readonly passage = input.required<TypedPassage>();
  readonly vocabulary = input<Vocabulary>('us');
  readonly kept = output<ScoreRoomView>();
  readonly left = output<void>();

  protected readonly clefs = CLEFS;
  protected readonly keys = KEYS;
  protected readonly text = signal('');
  protected readonly clef = signal<TypedClef>('treble');
  protected readonly entry = signal<KeyEntry>(KEY_ENTRY);
  protected readonly isByKeys = signal(false);
  protected readonly work = signal<TypedWork>(NO_WORK);
  private reading = 0;

  private readonly now = computed((): TypedPassage => ({
    from: this.passage().from,
    abc: this.text().trim(),
    clef: this.clef(),
  }));
  protected readonly isKnown = computed(() =>
    this.paper().typed.some(({ from }) => from === this.passage().from),
  );
  protected readonly status = computed(() => {
    const { numbers, issues } = this.work();
    const [issue] = issues;
    if (issue) return issue.message;
    const count = numbers.length;
    if (count === 0) return '';
    const last = numbers.at(-1);
    return `${count} ${measureWord(count, this.vocabulary())} typed: ${count === 1 ? last : `${this.passage().from}–${last}`}.`;
  });
  protected readonly canKeep = computed(
    () => this.work().issues.length === 0 && this.work().numbers.length > 0 && !this.keeper.isBusy(),
  );
  protected readonly entryText = computed(() => {
    const { value, isDotted, accidental, isStaccato } = this.entry();
    const sign = { '': '', '^': ' ♯', _: ' ♭', '=': ' ♮' }[accidental];
    return `next: ${isDotted ? 'dotted ' : ''}${VALUE_NAMES[value]}${sign}${isStaccato ? ', staccato' : ''}`;
  });
  /** The text in pieces, the wrong ones marked. */
  protected readonly pieces = computed((): readonly Piece[] => piecesOf(this.text(), this.work().issues));

  constructor() {
    effect(() => {
      const { abc, clef } = this.passage();
      this.text.set(abc);
      this.clef.set(clef);
    });
    effect(() => void this.read(this.now(), untracked(this.paper)));
    afterNextRender(() => this.line().nativeElement.focus());
    this.midi.played.pipe(takeUntilDestroyed()).subscribe((midi) => {
      const pitch = playedPitch(midi, this.work().fifths);
      this.take(withPitch({ text: this.text(), entry: this.entry() }, pitch, this.work().lengths));
    });
  }

  /** Whether leaving would lose something. */
  hasEdits(): boolean {
    return this.text().trim() !== this.passage().abc.trim() && !this.keeper.isBusy();
  }

  protected setClef(at: number): void {
    this.clef.set(CLEFS[at]?.value ?? 'treble');
  }

  protected onKey(event: KeyboardEvent): void {
    if (!this.isByKeys() || event.ctrlKey || event.metaKey || event.altKey) return;
    const next = keyed({ text: this.text(), entry: this.entry() }, event.key, this.work().lengths);
    if (event.key === 'Tab' || event.key === 'Escape') return;
    event.preventDefault();
    if (next) this.take(next);
  }

  protected byKeys(isByKeys: boolean): void {
    this.isByKeys.set(isByKeys);
    this.line().nativeElement.focus();
  }

  protected keep(): void {
    if (this.canKeep()) this.send(withTyped(this.paper(), this.now()));
  }

  protected drop(): void {
    this.send(withoutTyped(this.paper(), this.passage().from));
  }

  private take({ text, entry }: Keyed): void {
    this.text.set(text);
    this.entry.set(entry);
  }

  private send(paper: PaperMusic): void {
    this.keeper.keep(this.room().programPartId, paper, (room) => this.kept.emit(room));
  }

  /** Reads what stands there; an answer that comes late is not taken. */
  private async read(passage: TypedPassage, paper: PaperMusic): Promise<void> {
    this.reading += 1;
    const own = this.reading;
    try {
      const work = await this.reader.read(paper, passage);
      if (own === this.reading) this.work.set(work);
    } catch (error) {
      this.keeper.failure.set(error instanceof Error ? error.message : 'The notes could not be read.');
    }
  }
}

function piecesOf(text: string, issues: readonly ToldIssue[]): Piece[] {
  const pieces: Piece[] = [];
  let at = 0;
  for (const { start, end } of [...issues].sort((a, b) => a.start - b.start)) {
    if (start < at) continue;
    pieces.push(
      { text: text.slice(at, start), isWrong: false },
      { text: text.slice(start, end), isWrong: true },
    );
    at = end;
  }
  return [...pieces, { text: text.slice(at), isWrong: false }];
}
