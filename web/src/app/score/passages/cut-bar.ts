import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  output,
  signal,
  linkedSignal,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { v7 as newId } from 'uuid';
import {
  parseSpan,
  printedSpan,
  resolveSpan,
  spanPhrase,
  spanQuarters,
  type Span,
} from '@vivid-cue/core/score';
import type { PassageView } from '@vivid-cue/contract';
import { secondsAt, type QuarterBpm } from '@vivid-cue/core/music';
import { troubleOf } from '../../data/problem';
import { ScoreApi } from '../../data/score-api';
import { secondsText } from '../../ui/texts';
import type { RibbonMeasure } from '../ribbon/ribbon-model';
import { StudioWords } from '../../ui/studio-words';

/** Makes a passage of the selected or typed measures. */
@Component({
  selector: 'vc-cut-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, FormsModule, InputText, StudioWords],
  template: `
    <form (ngSubmit)="make()">
      <label for="cut-span">New passage</label>
      <input
        pInputText
        id="cut-span"
        class="mono"
        name="span"
        placeholder="9–12"
        autocomplete="off"
        maxlength="20"
        [ngModel]="typed()"
        (ngModelChange)="type($event)"
      />
      <input
        pInputText
        id="cut-name"
        name="name"
        aria-label="Name of the passage, if it has one"
        placeholder="a name, if you like"
        autocomplete="off"
        maxlength="80"
        [ngModel]="name()"
        (ngModelChange)="name.set($event)"
      />
      <p-button
        label="Make it"
        type="submit"
        size="small"
        [loading]="isBusy()"
        [disabled]="span() === null"
      />
      <span class="soft small">{{ hint() }}</span>
      <span class="wrong" role="alert">{{ issue() | studioWords }}</span>
    </form>
  `,
  styles: `
    form {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 8px 10px;
    }
    label {
      font-size: 14px;
      font-weight: 600;
    }
    #cut-span {
      width: 110px;
    }
    #cut-name {
      width: 200px;
    }
    input {
      padding-block: 0.35rem;
    }
  `,
})
export class CutBar {
  private readonly api = inject(ScoreApi);
  private id = newId();

  readonly programPartId = input.required<string>();
  readonly measures = input.required<readonly RibbonMeasure[]>();
  readonly selection = input<Span | null>(null);
  /** Units: quarter notes per minute; null without a target. */
  readonly quarterBpm = input<QuarterBpm | null>(null);
  readonly selectionChange = output<Span | null>();
  readonly made = output<PassageView>();

  /** The numbers of the selection, until others are typed; what is typed stays when the selection goes. */
  protected readonly typed = linkedSignal<Span | null, string>({
    source: this.selection,
    computation: (selection, before) =>
      selection ? spanPhrase(printedSpan(this.measures(), selection)) : (before?.value ?? ''),
  });
  protected readonly name = signal('');
  protected readonly isBusy = signal(false);
  private readonly failure = linkedSignal({ source: this.selection, computation: () => '' });

  private readonly numbered = computed(() =>
    this.measures().map(({ number }) => ({ number, implicit: false })),
  );
  private readonly resolved = computed(() => {
    const text = parseSpan(this.typed());
    return text.ok ? resolveSpan(this.numbered(), text.value) : text;
  });
  protected readonly span = computed((): Span | null => {
    const resolved = this.resolved();
    return this.typed().trim() !== '' && resolved.ok ? resolved.value : null;
  });
  protected readonly issue = computed(() => {
    const resolved = this.resolved();
    // While a number is still being typed ("9–") nothing is wrong yet.
    const isOpen = /^\s*$|[-–]\s*$/u.test(this.typed());
    return isOpen || resolved.ok ? this.failure() : (resolved.issues[0]?.message ?? '');
  });
  protected readonly hint = computed(() => {
    const [span, bpm] = [this.span(), this.quarterBpm()];
    if (!span) return 'Drag on the ribbon, or type.';
    if (bpm === null) return '';
    const quarters = spanQuarters(this.measures(), span);
    return `${secondsText(secondsAt(quarters, bpm))} at the target tempo`;
  });

  protected type(text: string): void {
    this.typed.set(text);
    this.failure.set('');
    this.selectionChange.emit(this.span());
  }

  /** Asks the server for the passage, of what is typed or of a selection; what was typed stays when it is refused. */
  make(selected: Span | null = null): void {
    const typed = parseSpan(this.typed());
    const span = selected
      ? printedSpan(this.measures(), selected)
      : typed.ok && this.span() !== null
        ? typed.value
        : null;
    if (span === null || this.isBusy()) return;
    this.isBusy.set(true);
    this.api
      .addPassage(this.programPartId(), {
        id: this.id,
        name: this.name().trim(),
        ...span,
        target: null,
      })
      .subscribe({
        next: (passage) => {
          this.id = newId();
          this.isBusy.set(false);
          this.typed.set('');
          this.name.set('');
          this.made.emit(passage);
        },
        error: (error: unknown) => {
          this.isBusy.set(false);
          this.failure.set(troubleOf(error).message);
        },
      });
  }
}
