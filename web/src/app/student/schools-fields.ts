import { ChangeDetectionStrategy, Component, model } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { InputNumber } from 'primeng/inputnumber';
import { Select } from 'primeng/select';
import type { StudentSchools } from '@vivid-cue/contract';
import { CLIMB_SCHOOL_CHOICES, RUNG_RULE_CHOICES, SLIP_RULE_CHOICES } from '../ui/school-choices';

const AS_STUDIO = { value: null, label: 'as the studio' };

/** How a student climbs and practises, where that differs from the studio. */
@Component({
  selector: 'vc-schools-fields',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, InputNumber, Select],
  template: `
    @for (one of choices; track one.name) {
      <div class="field">
        <label [for]="'own-' + one.name" [id]="'own-' + one.name + '-label'">{{ one.label }}</label>
        <p-select
          [inputId]="'own-' + one.name"
          [ariaLabelledBy]="'own-' + one.name + '-label'"
          [options]="one.options"
          optionLabel="label"
          optionValue="value"
          [ngModel]="schools()[one.name]"
          (ngModelChange)="set(one.name, $event)"
          [ngModelOptions]="{ standalone: true }"
          appendTo="body"
        />
      </div>
    }
    <div class="two">
      <div class="field">
        <label for="own-minutes">Minutes on a usual day</label>
        <p-inputnumber
          inputId="own-minutes"
          [min]="5"
          [max]="300"
          placeholder="as the studio"
          [ngModel]="schools().dayMinutes"
          (ngModelChange)="set('dayMinutes', $event)"
          [ngModelOptions]="{ standalone: true }"
        />
      </div>
      <div class="field">
        <label for="own-cap">Never more than</label>
        <p-inputnumber
          inputId="own-cap"
          [min]="5"
          [max]="300"
          placeholder="as the studio"
          [ngModel]="schools().dayCap"
          (ngModelChange)="set('dayCap', $event)"
          [ngModelOptions]="{ standalone: true }"
        />
      </div>
    </div>
    <p class="soft small">
      Rules hold for passages that are cut from now on; each passage can be changed by itself.
    </p>
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 12px;
    }
    .two {
      display: grid;
      grid-template-columns: repeat(2, minmax(0, 1fr));
      gap: 12px;
    }
    p {
      margin: 0;
    }
  `,
})
export class SchoolsFields {
  readonly schools = model.required<StudentSchools>();

  protected readonly choices = [
    { name: 'climbSchool' as const, label: 'Reaching tempo', options: [AS_STUDIO, ...CLIMB_SCHOOL_CHOICES] },
    { name: 'rungRule' as const, label: 'A rung is done after', options: [AS_STUDIO, ...RUNG_RULE_CHOICES] },
    { name: 'slipRule' as const, label: 'Slips on a rung', options: [AS_STUDIO, ...SLIP_RULE_CHOICES] },
  ];

  protected set<Name extends keyof StudentSchools>(name: Name, value: StudentSchools[Name]): void {
    this.schools.update((schools) => ({ ...schools, [name]: value }));
  }
}
