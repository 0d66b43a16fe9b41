import { ChangeDetectionStrategy, Component, computed, inject, input, model } from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { DEADLINE_KINDS } from '@vivid-cue/contract';
import { SessionStore } from '../data/session-store';
import { formChanges } from '../ui/form-changes';
import { passedText, type IssueText } from './sheet-checks';
import { deadlineForm, type DeadlineForm, type SheetForm } from './sheet-form';

/** The dates of a sheet. */
@Component({
  selector: 'vc-dates-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, InputText, ReactiveFormsModule, Select],
  templateUrl: './dates-card.html',
  styleUrls: ['./card.css', './dates-card.css'],
})
export class DatesCard {
  private readonly session = inject(SessionStore);

  /** The sheet's fields. */
  readonly sheet = input.required<SheetForm>();
  /** What is wrong with a field, by its path. */
  readonly issue = input.required<IssueText>();
  /** What the pointer is on, here or in the text. */
  readonly lit = model('');

  private readonly changes = formChanges(this.sheet);
  protected readonly dates = computed((): readonly DeadlineForm[] => {
    this.changes();
    return [...this.sheet().controls.deadlines.controls];
  });
  protected readonly passed = computed((): readonly string[] =>
    this.dates().map((deadline) => passedText(deadline, Date.now(), this.session.zone())),
  );
  protected readonly deadlineKinds = [...DEADLINE_KINDS];
  protected readonly zones = Intl.supportedValuesOf('timeZone')
    .concat('UTC')
    .map((value) => ({ value, label: value.replaceAll('_', ' ') }));

  protected remove(n: number): void {
    this.sheet().controls.deadlines.removeAt(n);
    this.sheet().markAsDirty();
  }

  protected add(): void {
    this.sheet().controls.deadlines.push(deadlineForm(this.session.zone()));
    this.sheet().markAsDirty();
  }
}
