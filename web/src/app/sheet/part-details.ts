import { capital } from '@vivid-cue/core/base';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { ReactiveFormsModule } from '@angular/forms';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { startWith, switchMap } from 'rxjs';
import type { PartField } from '@vivid-cue/core/sheet';
import { SessionStore } from '../data/session-store';
import { noteValueChoices } from '../ui/note-values';
import { controlOf, TYPED_FIELDS, type PartForm } from './sheet-form';

/** One field as it is shown. Shape: `choices` null where it is typed. */
interface ShownField {
  readonly name: (typeof TYPED_FIELDS)[number]['name'];
  readonly caption: string;
  readonly choices: { readonly value: string; readonly label: string }[] | null;
  readonly isNumber: boolean;
  readonly maxLength: number;
  readonly placeholder: string;
}

const PLACEHOLDERS: Readonly<Partial<Record<PartField['name'], string>>> = {
  key: 'Bb major',
  range: 'F3 to C6',
  scope: 'everybody; or names separated by ;',
};
const SCALE_KINDS: readonly string[] = ['scale', 'chromatic', 'rudiments'];
/** What is asked of music that is played from a page, and of no scale. */
const OF_A_WORK: readonly string[] = ['repeats', 'accompaniment', 'minSeconds', 'maxSeconds'];

/** What a part states beside its line and its tempo, made from the table of its fields. */
@Component({
  selector: 'vc-part-details',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [InputText, ReactiveFormsModule, Select],
  template: `
    <div class="grid" [formGroup]="part().controls.fields">
      @for (field of fields(); track field.name) {
        <div
          class="field"
          [attr.data-field]="field.name"
          [class.wide]="field.name === 'scope'"
          [class.is-lit]="lit() === field.name"
        >
          @if (field.choices; as choices) {
            <label [for]="field.name + n()" [id]="field.name + n() + '-label'">{{ field.caption }}</label>
            <p-select
              [inputId]="field.name + n()"
              [ariaLabelledBy]="field.name + n() + '-label'"
              [formControlName]="field.name"
              [options]="choices"
              optionLabel="label"
              optionValue="value"
              appendTo="body"
            />
          } @else {
            <label [for]="field.name + n()">{{ field.caption }}</label>
            <input
              pInputText
              [id]="field.name + n()"
              [formControlName]="field.name"
              [attr.maxlength]="field.maxLength"
              [attr.inputmode]="field.isNumber ? 'decimal' : null"
              [class.mono]="field.isNumber"
              [placeholder]="field.placeholder"
            />
          }
        </div>
      }
    </div>
  `,
  styles: `
    .grid {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
      gap: 10px 14px;
    }
    .is-lit {
      border-radius: 4px;
      background: color-mix(in srgb, var(--primary) 16%, var(--sheet));
    }
    .wide {
      grid-column: span 2;
    }
  `,
})
export class PartDetails {
  private readonly session = inject(SessionStore);
  /** The part's fields. */
  readonly part = input.required<PartForm>();
  /** The part's place, for the labels. */
  readonly n = input.required<number>();
  /** The field that is lit. */
  readonly lit = input('');

  /** The part's kind, which decides what is asked. */
  private readonly kind = toSignal(
    toObservable(this.part).pipe(
      switchMap((part) => {
        const control = controlOf(part, 'kind');
        return control.valueChanges.pipe(startWith(control.value));
      }),
    ),
    { initialValue: 'etude' },
  );
  protected readonly fields = computed((): ShownField[] => {
    const isScale = SCALE_KINDS.includes(this.kind());
    return TYPED_FIELDS.filter(({ name, group }) => {
      if (group === 'line') return false;
      if (group === 'terms') return !isScale || !OF_A_WORK.includes(name);
      return (group === 'scale') === isScale;
    }).map((field) => this.shown(field));
  });

  private shown(field: (typeof TYPED_FIELDS)[number]): ShownField {
    const { name, caption, type } = field;
    return {
      name,
      caption: capital(caption),
      choices: this.choicesOf(field),
      isNumber: type.kind === 'number',
      maxLength: type.kind === 'text' ? type.maxLength : 400,
      placeholder: PLACEHOLDERS[name] ?? '',
    };
  }

  private choicesOf({ name, type }: PartField): ShownField['choices'] {
    const unset = { value: '', label: 'not stated' };
    if (type.kind === 'yes-no')
      return [unset, { value: 'yes', label: 'yes' }, { value: 'no', label: 'not needed' }];
    if (type.kind !== 'choice') return null;
    if (name === 'noteValue') return [unset, ...noteValueChoices(this.session.vocabulary())];
    const words: Readonly<Record<string, string>> = {
      take: 'taken',
      omit: 'left out',
      'where-applicable': 'where applicable',
    };
    const stated = type.values.filter((value) => value !== type.unset);
    return [unset, ...stated.map((value) => ({ value, label: words[value] ?? value }))];
  }
}
