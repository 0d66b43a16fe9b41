import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { ReactiveFormsModule } from '@angular/forms';
import { InputNumber } from 'primeng/inputnumber';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import type { Accompaniment, Repeats } from '@vivid-cue/core/sheet';
import type { ScaleNoteValue } from '@vivid-cue/core/scale';
import type { SheetPartInput } from '@vivid-cue/contract';
import { SessionStore } from '../data/session-store';
import type { DetailForm } from './sheet-form';
import { noteValueChoices } from '../ui/note-values';

/** What a part states beside label, work, measures and tempo. */
@Component({
  selector: 'vc-part-details',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [InputNumber, InputText, ReactiveFormsModule, Select],
  template: `
    <div class="grid" [formGroup]="form()">
      @if (hasWork()) {
        @for (field of workFields; track field.name) {
          <div class="field">
            <label [for]="field.name + n()">{{ field.label }}</label>
            <input pInputText [id]="field.name + n()" [formControlName]="field.name" maxlength="120" />
          </div>
        }
      } @else {
        <div class="field">
          <label [for]="'key' + n()">Key</label>
          <input pInputText [id]="'key' + n()" formControlName="key" maxlength="40" placeholder="Bb major" />
        </div>
        <div class="field">
          <label [for]="'octaves' + n()">Octaves</label>
          <p-inputnumber [inputId]="'octaves' + n()" formControlName="octaves" [maxFractionDigits]="1" />
        </div>
        <div class="field">
          <label [for]="'value' + n()" [id]="'value' + n() + '-label'">In notes of</label>
          <p-select
            [inputId]="'value' + n()"
            [ariaLabelledBy]="'value' + n() + '-label'"
            formControlName="noteValue"
            [options]="noteValues()"
            optionLabel="label"
            optionValue="value"
            appendTo="body"
          />
        </div>
        <div class="field">
          <label [for]="'low' + n()">Lowest note</label>
          <input pInputText [id]="'low' + n()" formControlName="rangeLow" maxlength="60" />
        </div>
        <div class="field">
          <label [for]="'high' + n()">Highest note</label>
          <input pInputText [id]="'high' + n()" formControlName="rangeHigh" maxlength="60" />
        </div>
        <div class="field">
          <label [for]="'articulation' + n()">Articulation</label>
          <input pInputText [id]="'articulation' + n()" formControlName="articulation" maxlength="160" />
        </div>
      }
      <div class="field">
        <label [for]="'memory' + n()" [id]="'memory' + n() + '-label'">From memory</label>
        <p-select
          [inputId]="'memory' + n()"
          [ariaLabelledBy]="'memory' + n() + '-label'"
          formControlName="memory"
          [options]="memories"
          optionLabel="label"
          optionValue="value"
          appendTo="body"
        />
      </div>
      @if (hasWork()) {
        <div class="field">
          <label [for]="'repeats' + n()" [id]="'repeats' + n() + '-label'">Repeats</label>
          <p-select
            [inputId]="'repeats' + n()"
            [ariaLabelledBy]="'repeats' + n() + '-label'"
            formControlName="repeats"
            [options]="repeats"
            optionLabel="label"
            optionValue="value"
            appendTo="body"
          />
        </div>
        <div class="field">
          <label [for]="'accompaniment' + n()" [id]="'accompaniment' + n() + '-label'">Accompaniment</label>
          <p-select
            [inputId]="'accompaniment' + n()"
            [ariaLabelledBy]="'accompaniment' + n() + '-label'"
            formControlName="accompaniment"
            [options]="accompaniments"
            optionLabel="label"
            optionValue="value"
            appendTo="body"
          />
        </div>
        <div class="field">
          <label [for]="'min' + n()">At least, seconds</label>
          <p-inputnumber [inputId]="'min' + n()" formControlName="minSeconds" [useGrouping]="false" />
        </div>
        <div class="field">
          <label [for]="'max' + n()">At most, seconds</label>
          <p-inputnumber [inputId]="'max' + n()" formControlName="maxSeconds" [useGrouping]="false" />
        </div>
      }
      <div class="field">
        <label [for]="'points' + n()">Points</label>
        <p-inputnumber [inputId]="'points' + n()" formControlName="points" [useGrouping]="false" />
      </div>
      <div class="field wide">
        <label [for]="'applies' + n()">Holds only for</label>
        <input
          pInputText
          [id]="'applies' + n()"
          formControlName="appliesTo"
          maxlength="400"
          placeholder="everybody; or names separated by ;"
        />
      </div>
    </div>
  `,
  styles: `
    .grid {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
      gap: 10px 14px;
    }
    .wide {
      grid-column: span 2;
    }
  `,
})
export class PartDetails {
  private readonly session = inject(SessionStore);
  /** The fields. */
  readonly form = input.required<DetailForm>();
  /** The part's kind, which decides what is asked. */
  readonly kind = input.required<SheetPartInput['kind']>();
  /** The part's place, for the labels. */
  readonly n = input.required<number>();

  protected readonly hasWork = computed(() => !['scale', 'chromatic', 'rudiments'].includes(this.kind()));
  protected readonly workFields = [
    { name: 'composer', label: 'Composer' },
    { name: 'book', label: 'Book' },
    { name: 'number', label: 'Number' },
    { name: 'page', label: 'Page' },
    { name: 'edition', label: 'Edition' },
  ] as const;
  protected readonly memories = [
    { value: null, label: 'not stated' },
    { value: true, label: 'yes' },
    { value: false, label: 'not needed' },
  ];
  protected readonly repeats: { readonly value: Repeats; readonly label: string }[] = [
    { value: 'unstated', label: 'not stated' },
    { value: 'take', label: 'taken' },
    { value: 'omit', label: 'left out' },
  ];
  protected readonly accompaniments: {
    readonly value: Accompaniment | null;
    readonly label: string;
  }[] = [
    { value: null, label: 'not stated' },
    { value: 'required', label: 'required' },
    { value: 'none', label: 'none' },
    { value: 'optional', label: 'optional' },
    { value: 'where-applicable', label: 'where applicable' },
  ];
  protected readonly noteValues = computed((): { value: ScaleNoteValue | null; label: string }[] => [
    { value: null, label: 'not stated' },
    ...noteValueChoices(this.session.vocabulary()),
  ]);
}
