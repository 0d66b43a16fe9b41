import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  Injector,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import type { BarlineKind } from '@vivid-cue/core/page';
import {
  barAt,
  lineAt,
  lineOfFields,
  numberRuns,
  toldAt,
  withBarKind,
  withCount,
  withCounted,
  withEvenBoxes,
  withFirst,
  withLineOut,
  withoutBar,
  withSureBar,
  withToldAt,
  type BoxPlace,
  type LinePlace,
  type ToldAtKind,
} from '@vivid-cue/core/paper';
import { measureWord, type Vocabulary } from '@vivid-cue/core/music';
import { capital } from '@vivid-cue/core/base';
import { StudioWords } from '../../ui/studio-words';
import { ofFields, type ToldDraft } from '../music/told-draft';
import { ToldFields } from '../music/told-fields';
import { BoardStore } from './board-store';
import { lineName, type BoardQuestion } from './questions';

/** A line of music as the list tells it. */
interface ListedLine {
  readonly at: LinePlace;
  readonly name: string;
  readonly boxes: number;
  readonly numbers: string;
  readonly first: number | null;
  readonly isOut: boolean;
}

const KINDS: readonly { readonly value: BarlineKind; readonly label: string }[] = [
  { value: 'single', label: 'plain' },
  { value: 'double', label: 'double' },
  { value: 'final', label: 'final' },
  { value: 'repeat-start', label: 'a repeat begins behind it' },
  { value: 'repeat-end', label: 'a repeat ends before it' },
  { value: 'repeat-both', label: 'a repeat ends and one begins' },
];
const FIRST_METERS = ['4/4', '3/4', '2/4', '6/8', '2/2', '9/8', '12/8'];

interface ToldShown {
  readonly kind: ToldAtKind;
  readonly label: string;
  readonly key: string;
  readonly example: string;
}
const TOLD: readonly ToldShown[] = [
  { kind: 'meter', label: 'Meter from here', key: 'M', example: '6/8' },
  { kind: 'key', label: 'Key from here', key: 'K', example: '2 flats' },
  { kind: 'letter', label: 'Letter', key: 'L', example: 'B' },
  { kind: 'tempo', label: 'Tempo from here', key: 'T', example: '♩=72' },
  { kind: 'ending', label: 'Ending', key: 'E', example: '1' },
];

/** Beside the pages: what is open, the lines with their numbers, and what is told of the chosen box. */
@Component({
  selector: 'vc-board-side',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, InputText, StudioWords, ToldFields],
  templateUrl: './board-side.html',
  styleUrl: './board-side.css',
})
export class BoardSide {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly injector = inject(Injector);
  protected readonly store = inject(BoardStore);

  readonly questions = input.required<readonly BoardQuestion[]>();
  readonly vocabulary = input<Vocabulary>('us');
  /** A bar line is to stand in the middle of the chosen box. */
  readonly split = output<BoxPlace>();

  protected readonly kinds = KINDS;
  protected readonly meters = FIRST_METERS;
  protected readonly told = TOLD;
  /** Whether all that is told is unfolded: its fields are drawn only then. */
  protected readonly isTelling = signal(false);
  protected readonly issue = signal('');
  protected readonly countedIssue = signal<number | null>(null);
  protected readonly lines = computed((): readonly (readonly ListedLine[])[] => {
    const { pages } = this.store.draft();
    const boxes = this.store.boxes();
    return pages.map(({ lines }, page) =>
      lines.map((line, n): ListedLine => {
        const own = boxes.filter((box) => box.page === page && box.line === n);
        const numbers = own.flatMap(({ number, count }) =>
          Array.from({ length: count }, (_, k) => String(number + k)),
        );
        return {
          at: { page, line: n },
          name: lineName(pages, { page, line: n }),
          boxes: line.bars.length,
          numbers: numberRuns(numbers),
          ...{ first: line.first, isOut: line.isOut },
        };
      }),
    );
  });
  protected readonly summary = computed(() => {
    const boxes = this.store.boxes();
    const measures = boxes.reduce((sum, { count }) => sum + count, 0);
    const lines = new Set(boxes.map(({ page, line }) => `${page}/${line}`)).size;
    return `${measures} ${measureWord(measures, this.vocabulary())} on ${lines} line${lines === 1 ? '' : 's'}`;
  });
  /** How many boxes the lines of each page have, as one would count them. */
  protected readonly counted = computed(() =>
    this.lines().map((lines) =>
      lines
        .filter(({ isOut }) => !isOut)
        .map(({ boxes }) => boxes)
        .join(' '),
    ),
  );
  protected readonly box = this.store.chosenBox;
  protected readonly boxName = computed(() => {
    const box = this.box();
    if (!box) return '';
    const last = box.number + box.count - 1;
    return `${capital(measureWord(box.count, this.vocabulary()))} ${box.count === 1 ? box.number : `${box.number}–${last}`}`;
  });
  protected readonly kind = computed(() => {
    const at = this.store.chosen();
    return (at && barAt(this.store.draft().pages, at)?.kind) ?? 'single';
  });
  protected readonly toldHere = computed(() => {
    const box = this.box();
    return box && toldAt(this.store.draft().fields, box.number);
  });
  protected readonly isFirst = computed(() => {
    const [box, first] = [this.box(), this.store.boxes()[0]];
    return box !== null && first !== undefined && box.number === first.number;
  });
  protected readonly lineFirst = computed(() => {
    const at = this.store.chosen();
    return (at && lineAt(this.store.draft().pages, at)?.first) ?? null;
  });
  /** What is typed of it all stays as it is typed. */
  protected readonly toldDraft = linkedSignal<unknown, ToldDraft>({
    source: () => this.store.draft().fields,
    computation: () => ofFields(this.store.draft().fields),
  });

  /** Puts the cursor into a field of the chosen box, which may be drawn only now. */
  focus(name: string): void {
    const go = (): boolean => {
      const field = this.host.nativeElement.querySelector<HTMLElement>(`[data-told="${name}"]`);
      field?.focus();
      if (field instanceof HTMLInputElement) field.select();
      return field !== null;
    };
    if (!go()) afterNextRender(() => void go(), { injector: this.injector });
  }

  protected setToldDraft(draft: ToldDraft): void {
    this.store.tell(draft.fields);
    this.toldDraft.set(draft);
  }

  protected setMeter(meter: string): void {
    this.tellAt(this.store.boxes()[0]?.number ?? 1, 'meter', meter);
  }

  protected tellHere(kind: ToldAtKind, text: string): void {
    const box = this.box();
    if (box) this.tellAt(box.number, kind, text);
  }

  protected setCount(text: string): void {
    const at = this.store.chosen();
    if (at) this.store.change((pages) => withCount(pages, at, Number(text)));
  }

  protected setFirst(at: LinePlace, text: string): void {
    const own = text.trim();
    const first = own === '' ? null : Number(own);
    if (first !== null && !(Number.isInteger(first) && first >= 0 && first < 10_000)) return;
    this.store.change((pages) => withFirst(pages, at, first));
  }

  protected setKind(kind: BarlineKind): void {
    const at = this.store.chosen();
    if (at) this.store.change((pages) => withBarKind(pages, at, kind));
  }

  protected setPickup(isPickup: boolean): void {
    const { fields } = this.store.draft();
    this.store.tell({ ...fields, pickup: isPickup ? 'pickup 1/4' : '' });
  }

  protected setCounted(page: number, text: string): void {
    const isRead = withCounted(this.store.draft().pages, page, text) !== null;
    this.countedIssue.set(isRead ? null : page);
    if (isRead) this.store.change((pages) => withCounted(pages, page, text));
  }

  protected setEven(at: LinePlace, text: string): void {
    this.store.change((pages) => withEvenBoxes(pages, at, Number(text)));
  }

  protected setOut(at: LinePlace, isOut: boolean): void {
    this.store.change((pages) => withLineOut(pages, at, isOut));
  }

  protected answer(question: BoardQuestion, isYes: boolean): void {
    if (question.kind === 'bar')
      this.store.change((pages) => (isYes ? withSureBar : withoutBar)(pages, question.at));
    else if (question.kind === 'clash' || question.kind === 'gap')
      this.store.change((pages) => withFirst(pages, question.at, null));
  }

  protected answerCount(question: BoardQuestion, text: string): void {
    if (question.kind === 'rest') this.store.change((pages) => withCount(pages, question.at, Number(text)));
  }

  protected look(question: BoardQuestion): void {
    if ('at' in question) this.store.chosen.set({ box: 0, ...question.at });
  }

  protected join(): void {
    const at = this.store.chosen();
    if (at) this.store.change((pages) => withoutBar(pages, at));
  }

  private tellAt(number: number, kind: ToldAtKind, text: string): void {
    const change = withToldAt(this.store.draft().fields, number, { kind, text });
    this.issue.set('issue' in change ? change.issue : '');
    if ('fields' in change && lineOfFields(change.fields) !== lineOfFields(this.store.draft().fields))
      this.store.tell(change.fields);
  }
}
