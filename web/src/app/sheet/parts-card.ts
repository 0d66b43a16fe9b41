import { capital } from '@vivid-cue/core/base';
import {
  CdkDrag,
  type CdkDragDrop,
  CdkDragHandle,
  CdkDropList,
  CdkDropListGroup,
} from '@angular/cdk/drag-drop';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  Injector,
  input,
  model,
  output,
  signal,
} from '@angular/core';
import { FormArray } from '@angular/forms';
import { Button } from 'primeng/button';
import type { Vocabulary } from '@vivid-cue/core/music';
import type { FieldIssue } from '@vivid-cue/contract';
import { SessionStore } from '../data/session-store';
import { formChanges } from '../ui/form-changes';
import { instrumentsOfPart, isPartShown } from './instruments-shown';
import { PartCard } from './part-card';
import { movePart, partGroups, partLine, placeInGroup, type PartGroup } from './part-groups';
import { isOfPart, type IssueText } from './sheet-checks';
import { controlOf, partForm, type PartForm, type SheetForm } from './sheet-form';

type PartLine = ReturnType<typeof partLine>;

/** So many parts are drawn at first. */
const FIRST_PARTS = 80;
/** A sheet has at most so many. */
const MOST_PARTS = 300;

/** So many parts are all open at first. */
const FEW_PARTS = 4;

/** The parts of a sheet, by what they hold for; dragged or moved by keys. */
@Component({
  selector: 'vc-parts-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, CdkDrag, CdkDragHandle, CdkDropList, CdkDropListGroup, PartCard],
  templateUrl: './parts-card.html',
  styleUrls: ['./card.css', './parts-card.css'],
})
export class PartsCard {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly session = inject(SessionStore);
  private readonly injector = inject(Injector);

  /** The sheet's fields. */
  readonly sheet = input.required<SheetForm>();
  /** What is wrong with the sheet. */
  readonly issues = input.required<readonly FieldIssue[]>();
  /** What is wrong with a field, by its path. */
  readonly issue = input.required<IssueText>();
  /** What the pointer is on, here or in the text. */
  readonly lit = model('');
  /** The instruments whose parts are shown. Shape: null where all are */
  readonly shownFor = input<ReadonlySet<string> | null>(null);
  /** The parts of an instrument are to be shown again. */
  readonly opened = output<string>();

  private readonly changes = formChanges(this.sheet);
  private readonly isWhole = signal(false);
  /** How many parts are not drawn yet. */
  protected readonly undrawn = computed(() => {
    const all = this.open().reduce((sum, { parts }) => sum + parts.length, 0);
    return this.isWhole() ? 0 : Math.max(0, all - FIRST_PARTS);
  });
  protected readonly groups = computed((): PartGroup[] => {
    let left = this.undrawn() === 0 ? Infinity : FIRST_PARTS;
    return this.open().flatMap((group) => {
      const parts = group.parts.slice(0, left);
      left -= parts.length;
      return parts.length === 0 ? [] : [{ ...group, parts }];
    });
  });
  /** The parts that are not folded away, by what they hold for. */
  private readonly open = computed((): PartGroup[] => {
    this.changes();
    const shown = this.shownFor();
    return partGroups(this.sheet())
      .map((group) => ({
        ...group,
        parts: group.parts.filter(({ part, n }) => this.isShown(part, n, shown)),
      }))
      .filter(({ parts }) => parts.length > 0);
  });
  /** Instruments whose parts are folded away, with how many. */
  protected readonly folded = computed(() => {
    this.changes();
    const [shown, all] = [this.shownFor(), new Map<string, { name: string; count: number }>()];
    this.sheet().controls.parts.controls.forEach((part, n) => {
      if (this.isShown(part, n, shown)) return;
      for (const { key, name } of instrumentsOfPart(part)) {
        const count = (all.get(key)?.count ?? 0) + 1;
        all.set(key, { name: all.get(key)?.name ?? name, count });
      }
    });
    return [...all].map(([key, one]) => ({ key, ...one }));
  });

  private isShown(part: PartForm, n: number, shown: ReadonlySet<string> | null): boolean {
    return isPartShown(part, shown) || this.issues().some((issue) => isOfPart(issue, n));
  }

  /** A sheet of few parts lies open; of a longer one each part is a line. */
  private readonly opensAll = computed(() => this.sheet().controls.parts.length <= FEW_PARTS);
  private readonly turned = signal<ReadonlySet<string>>(new Set());
  protected readonly lines = computed(() => {
    this.changes();
    const vocabulary = this.session.vocabulary();
    return new Map(
      this.sheet().controls.parts.controls.map((part) => [part, this.lineOf(part, vocabulary)] as const),
    );
  });

  /** Lines are made once for what a part holds: a long sheet has many, and one of them changes. */
  private readonly made = new WeakMap<object, { readonly of: Vocabulary; readonly line: PartLine }>();
  private lineOf(part: PartForm, vocabulary: Vocabulary): PartLine {
    const known = this.made.get(part.value);
    if (known?.of === vocabulary) return known.line;
    const line = partLine(part, vocabulary);
    this.made.set(part.value, { of: vocabulary, line });
    return line;
  }

  protected isOpen(part: PartForm, n: number): boolean {
    const isWrong = this.issues().some((issue) => isOfPart(issue, n));
    return isWrong || this.opensAll() !== this.turned().has(part.controls.id.value);
  }

  /** The field of a part that is lit, for the part's own card. */
  protected litField(part: PartForm): string {
    const [id, field = ''] = this.lit().split('/');
    return id === part.controls.id.value ? field : '';
  }

  protected isLit(part: PartForm): boolean {
    const id = part.controls.id.value;
    return this.lit() === id || this.lit().startsWith(`${id}/`);
  }

  /** Lights the words of the field that the pointer or the focus is on, or else of the whole part. */
  protected light(part: PartForm, target: EventTarget | null): void {
    const field = (target as HTMLElement | null)?.closest<HTMLElement>('[data-field]')?.dataset['field'];
    const id = part.controls.id.value;
    this.lit.set(field === undefined ? id : `${id}/${field}`);
  }

  /** Opens a part and leads to one of its fields. */
  reveal(key: string): void {
    const [id, field] = key.split('/');
    const { controls } = this.sheet().controls.parts;
    const n = controls.findIndex((one) => one.controls.id.value === id);
    const part = controls[n];
    if (!part) return;
    for (const own of instrumentsOfPart(part)) this.opened.emit(own.key);
    if (!this.isOpen(part, n)) this.toggle(part);
    const lead = (): void => {
      const card = this.host.nativeElement.querySelector<HTMLElement>(`[data-part="${id}"]`);
      const at = card?.querySelector<HTMLElement>(`[data-field="${field}"]`);
      const more = at?.closest('details');
      if (more) more.open = true;
      (
        at?.querySelector<HTMLElement>('input, [role=combobox]') ?? card?.querySelector('button.line')
      )?.focus();
    };
    afterNextRender(lead, { injector: this.injector });
  }

  protected toggle(part: PartForm): void {
    const id = part.controls.id.value;
    this.turned.update(
      (turned) => new Set(turned.has(id) ? [...turned].filter((one) => one !== id) : [...turned, id]),
    );
  }

  /** What a part is called under the name of its group: "Lyrical" of the clarinet's. */
  protected lineName(label: string, { name }: PartGroup): string {
    const own = label.toLowerCase().startsWith(`${name.toLowerCase()} `)
      ? label.slice(name.length + 1)
      : label;
    return capital(own);
  }

  protected drawAll(): void {
    this.isWhole.set(true);
  }

  /** More parts than a sheet has: those that are folded away can go. */
  protected isTooMany(): boolean {
    this.changes();
    return this.sheet().controls.parts.length > MOST_PARTS;
  }

  protected removeFolded(): void {
    const { parts } = this.sheet().controls;
    const kept = parts.controls.filter((part, n) => this.isShown(part, n, this.shownFor()));
    if (kept.length === 0) return;
    this.sheet().setControl('parts', new FormArray(kept));
    this.sheet().markAsDirty();
  }

  protected add(): void {
    const part = partForm();
    this.sheet().controls.parts.push(part);
    if (!this.opensAll()) this.toggle(part);
    this.sheet().markAsDirty();
  }

  protected remove(n: number): void {
    this.sheet().controls.parts.removeAt(n);
    this.sheet().markAsDirty();
  }

  protected move(from: number, to: number): void {
    movePart(this.sheet(), from, to);
    this.sheet().markAsDirty();
  }

  /** A part dropped in another group holds from then on for what that group holds for. */
  protected drop({ item, container, currentIndex }: CdkDragDrop<PartGroup, PartGroup, number>): void {
    const part = this.sheet().controls.parts.at(item.data);
    if (part) controlOf(part, 'scope').setValue(container.data.name);
    this.move(item.data, placeInGroup(container.data, currentIndex, item.data));
  }
}
