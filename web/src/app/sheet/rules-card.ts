import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { InputNumber } from 'primeng/inputnumber';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { NOTE_KINDS, type ChoiceRule, type NoteKind } from '@vivid-cue/core/sheet';
import { choiceText } from '@vivid-cue/core/program';
import type { NamedPart } from './part-groups';
import type { SheetRest } from './sheet-form';

type Choices = NonNullable<SheetRest['choices']>;
type Notes = NonNullable<SheetRest['notes']>;

/** Rules of choice and notes of a sheet, read or entered by hand. */
@Component({
  selector: 'vc-rules-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, FormsModule, InputNumber, InputText, Select],
  template: `
    <ul>
      @for (choice of choices(); track $index; let n = $index) {
        <li>
          <span class="tag">choice</span><span>{{ textOf(choice) }}</span>
          <p-button
            icon="pi pi-times"
            size="small"
            severity="secondary"
            [text]="true"
            type="button"
            [ariaLabel]="'Take choice ' + (n + 1) + ' away'"
            (onClick)="choicesChange.emit(without(choices(), n))"
          />
        </li>
      }
      @for (note of notes(); track $index; let n = $index) {
        <li>
          <span class="tag">{{ noteWord(note.kind) }}</span><span>{{ note.text }}</span>
          <p-button
            icon="pi pi-times"
            size="small"
            severity="secondary"
            [text]="true"
            type="button"
            [ariaLabel]="'Take note ' + (n + 1) + ' away'"
            (onClick)="notesChange.emit(without(notes(), n))"
          />
        </li>
      }
    </ul>
    @if (isChoosing()) {
      <div class="new" role="group" aria-label="A new rule of choice">
        <p-select
          ariaLabel="Rule"
          [options]="rules"
          optionLabel="label"
          optionValue="value"
          appendTo="body"
          [ngModel]="rule()"
          (ngModelChange)="rule.set($event)"
        />
        @if (rule() === 'nOf') {
          <p-inputnumber
            ariaLabel="How many"
            [min]="1"
            [ngModel]="count()"
            (ngModelChange)="count.set($event)"
          />
        }
        @for (part of parts(); track part.id) {
          <label class="check">
            <input type="checkbox" [checked]="picked().has(part.id)" (change)="pick(part.id)" />{{
              part.label
            }}
          </label>
        }
        <p-button label="Add the choice" size="small" type="button" (onClick)="addChoice()" />
        @if (rule() === 'oneFromEach') {
          <p class="soft small">The groups are what the parts hold for: List A, List B …</p>
        }
      </div>
    } @else {
      <p-button
        label="Add a choice"
        icon="pi pi-plus"
        size="small"
        severity="secondary"
        [text]="true"
        type="button"
        (onClick)="isChoosing.set(true)"
      />
    }
    <div class="new">
      <p-select
        ariaLabel="Kind of note"
        [options]="kinds"
        optionLabel="label"
        optionValue="value"
        appendTo="body"
        [ngModel]="kind()"
        (ngModelChange)="kind.set($event)"
      />
      <input
        pInputText
        class="text"
        aria-label="A note of the sheet"
        placeholder="a rule, an erratum, an ornament …"
        maxlength="2000"
        [ngModel]="text()"
        (ngModelChange)="text.set($event)"
        (keydown.enter)="$event.preventDefault(); addNote()"
      />
      <p-button
        label="Add the note"
        size="small"
        severity="secondary"
        [outlined]="true"
        type="button"
        (onClick)="addNote()"
      />
    </div>
  `,
  styles: `
    ul {
      margin: 0 0 10px;
      padding: 0;
      list-style: none;
    }
    li {
      display: grid;
      grid-template-columns: 84px minmax(0, 1fr) 36px;
      gap: 10px;
      align-items: baseline;
      padding: 4px 0;
      border-bottom: 1px solid var(--rule);
    }
    .tag {
      color: var(--ink-soft);
      font-size: 14px;
      font-weight: 600;
    }
    .new {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 14px;
      align-items: center;
      margin-top: 10px;
    }
    .check {
      display: inline-flex;
      gap: 6px;
      align-items: center;
    }
    .check input {
      width: 18px;
      height: 18px;
      accent-color: var(--primary);
    }
    .text {
      flex: 1 1 220px;
      min-width: 0;
    }
  `,
})
export class RulesCard {
  /** The rules of choice. */
  readonly choices = input.required<Choices>();
  /** The notes. */
  readonly notes = input.required<Notes>();
  /** The parts to choose from. */
  readonly parts = input.required<readonly NamedPart[]>();
  readonly choicesChange = output<Choices>();
  readonly notesChange = output<Notes>();

  protected readonly isChoosing = signal(false);
  protected readonly rule = signal<ChoiceRule>('oneOf');
  protected readonly count = signal(2);
  protected readonly picked = signal<ReadonlySet<string>>(new Set());
  protected readonly kind = signal<NoteKind>('other');
  protected readonly text = signal('');
  private readonly names = computed(() => new Map(this.parts().map(({ id, label }) => [id, label])));
  protected readonly rules: { value: ChoiceRule; label: string }[] = [
    { value: 'oneOf', label: 'one of' },
    { value: 'nOf', label: 'several of' },
    { value: 'oneFromEach', label: 'one from each group' },
    { value: 'all', label: 'all of' },
  ];
  protected readonly kinds = NOTE_KINDS.map((value) => ({ value, label: this.noteWord(value) }));

  protected noteWord(kind: string): string {
    return kind === 'insertedMeasure' ? 'inserted' : kind;
  }

  protected without<One>(list: readonly One[], index: number): One[] {
    return list.filter((_, n) => n !== index);
  }

  protected textOf(choice: Choices[number]): string {
    return choiceText(choice, (id) => this.names().get(id) ?? id);
  }

  protected pick(id: string): void {
    this.picked.update((picked) => {
      const next = new Set(picked);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  }

  protected addChoice(): void {
    const ids = this.parts().flatMap(({ id }) => (this.picked().has(id) ? [id] : []));
    if (ids.length === 0) return;
    const rule = this.rule();
    const of = rule === 'oneFromEach' ? this.grouped(ids) : ids;
    const n = rule === 'all' ? null : rule === 'nOf' ? Math.max(1, this.count()) : 1;
    this.choicesChange.emit([...this.choices(), { rule, n, of }]);
    this.picked.set(new Set());
    this.isChoosing.set(false);
  }

  private grouped(ids: readonly string[]): string[][] {
    const groups = new Map<string, string[]>();
    for (const { id, group } of this.parts())
      if (ids.includes(id)) groups.set(group, [...(groups.get(group) ?? []), id]);
    return [...groups.values()];
  }

  protected addNote(): void {
    const text = this.text().trim();
    if (text === '') return;
    this.notesChange.emit([...this.notes(), { kind: this.kind(), text }]);
    this.text.set('');
  }
}
