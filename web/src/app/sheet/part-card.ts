import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { ReactiveFormsModule, type FormControl } from '@angular/forms';
import { InputNumber } from 'primeng/inputnumber';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { PART_KINDS, type FieldIssue } from '@vivid-cue/contract';
import { SessionStore } from '../data/session-store';
import { formChanges } from '../ui/form-changes';
import { BOUND_CHOICES, unitChoices } from '../ui/tempo-choice';
import { applyPrinted } from './answers';
import { PartDetails } from './part-details';
import { issueOfPart } from './sheet-checks';
import { controlOf, type PartForm, type TypedField } from './sheet-form';

/** One part of a sheet in its fields: its line, its tempo, and what else it says. */
@Component({
  selector: 'vc-part-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [InputNumber, InputText, PartDetails, ReactiveFormsModule, Select],
  templateUrl: './part-card.html',
  styleUrl: './part-card.css',
})
export class PartCard {
  private readonly session = inject(SessionStore);

  /** The part's fields. */
  readonly part = input.required<PartForm>();
  /** The part's place on the sheet. */
  readonly n = input.required<number>();
  /** What is wrong with the sheet. */
  readonly issues = input.required<readonly FieldIssue[]>();

  /** The field that is lit. */
  readonly lit = input('');

  private readonly changes = formChanges(this.part);
  protected readonly bound = computed(() => {
    this.changes();
    return this.part().controls.bound.value;
  });
  protected readonly hint = signal('');
  protected readonly partKinds = [...PART_KINDS];
  protected readonly bounds = [...BOUND_CHOICES];
  protected readonly units = computed(() => [...unitChoices(this.session.vocabulary())]);
  protected readonly measureWord = computed(() => (this.session.vocabulary() === 'uk' ? 'Bars' : 'Measures'));
  protected readonly restIssue = computed(() => issueOfPart(this.issues(), this.n()));

  protected control(name: TypedField): FormControl<string> {
    return controlOf(this.part(), name);
  }

  protected issueOf(name: string): string {
    const start = `parts[${this.n()}].${name}`;
    return this.issues().find(({ where }) => where === start || where.startsWith(`${start}[`))?.message ?? '';
  }

  /** Reads a printed tempo into the fields; what cannot be read is said, and the fields stay. */
  protected readPrinted(): void {
    this.hint.set(applyPrinted(this.part()));
  }
}
