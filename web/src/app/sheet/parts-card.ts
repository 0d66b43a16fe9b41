import {
  CdkDrag,
  type CdkDragDrop,
  CdkDragHandle,
  CdkDropList,
  CdkDropListGroup,
} from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, inject, input, model, signal } from '@angular/core';
import { Button } from 'primeng/button';
import type { FieldIssue } from '@vivid-cue/contract';
import { SessionStore } from '../data/session-store';
import { formChanges } from '../ui/form-changes';
import { PartCard } from './part-card';
import { movePart, partGroups, partLine, placeInGroup, type PartGroup } from './part-groups';
import { isOfPart, type IssueText } from './sheet-checks';
import { controlOf, partForm, type PartForm, type SheetForm } from './sheet-form';

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
  private readonly session = inject(SessionStore);

  /** The sheet's fields. */
  readonly sheet = input.required<SheetForm>();
  /** What is wrong with the sheet. */
  readonly issues = input.required<readonly FieldIssue[]>();
  /** What is wrong with a field, by its path. */
  readonly issue = input.required<IssueText>();
  /** What the pointer is on, here or in the text. */
  readonly lit = model('');

  private readonly changes = formChanges(this.sheet);
  protected readonly groups = computed((): PartGroup[] => {
    this.changes();
    return partGroups(this.sheet());
  });

  /** A sheet of few parts lies open; of a longer one each part is a line. */
  private readonly opensAll = computed(() => this.sheet().controls.parts.length <= FEW_PARTS);
  private readonly turned = signal<ReadonlySet<string>>(new Set());
  protected readonly lines = computed(() => {
    this.changes();
    const vocabulary = this.session.vocabulary();
    return new Map(this.sheet().controls.parts.controls.map((part) => [part, partLine(part, vocabulary)]));
  });

  protected isOpen(part: PartForm, n: number): boolean {
    const isWrong = this.issues().some((issue) => isOfPart(issue, n));
    return isWrong || this.opensAll() !== this.turned().has(part.controls.id.value);
  }

  protected toggle(part: PartForm): void {
    const id = part.controls.id.value;
    this.turned.update(
      (turned) => new Set(turned.has(id) ? [...turned].filter((one) => one !== id) : [...turned, id]),
    );
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
