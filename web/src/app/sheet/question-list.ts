import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import type { AskedQuestion } from '@vivid-cue/contract';
import { candidateText, type Answer } from './answers';
import { fieldText } from './change-text';
import type { NamedPart } from './part-groups';

/** What a sheet leaves open, to be answered in place; answers are kept with their reason. */
@Component({
  selector: 'vc-question-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, FormsModule, InputText],
  template: `
    <ul>
      @for (question of open(); track keyOf(question)) {
        <li>
          <p class="ask">
            <span class="about">{{ aboutText(question) }}</span> {{ question.ask }}
          </p>
          <div class="ways">
            @for (candidate of question.candidates; track $index) {
              <p-button
                [label]="candidateText(candidate)"
                size="small"
                severity="secondary"
                [outlined]="true"
                type="button"
                (onClick)="give(question, candidate)"
              />
            }
            <input
              pInputText
              class="own"
              [attr.aria-label]="'Your own answer: ' + question.ask"
              [placeholder]="question.candidates.length > 0 ? 'or your own answer' : 'your answer'"
              maxlength="400"
              [ngModel]="own()[keyOf(question)] ?? ''"
              (ngModelChange)="note(own, question, $event)"
              (keydown.enter)="$event.preventDefault(); giveOwn(question)"
            />
            <input
              pInputText
              class="why"
              [attr.aria-label]="'Reason: ' + question.ask"
              placeholder="why (kept with it)"
              maxlength="400"
              [ngModel]="why()[keyOf(question)] ?? ''"
              (ngModelChange)="note(why, question, $event)"
            />
            <p-button label="Answer" size="small" type="button" (onClick)="giveOwn(question)" />
          </div>
        </li>
      }
      @for (question of answered(); track keyOf(question)) {
        <li class="done">
          <p class="small">
            <span class="about">{{ aboutText(question) }}</span> {{ question.ask }}
            <strong>{{ question.answer }}</strong>
            @if (question.reason) {
              <span class="soft">because {{ question.reason }}</span>
            }
            <button type="button" class="in-text" (click)="reopened.emit(question)">ask again</button>
          </p>
        </li>
      }
    </ul>
  `,
  styles: `
    :host {
      display: block;
    }
    ul {
      margin: 0;
      padding: 0;
    }
    li {
      padding: 12px 0 12px 14px;
      border-left: 4px solid var(--vivid);
      margin-bottom: 10px;
      background: var(--sheet);
      list-style: none;
    }
    li.done {
      border-left-color: var(--rule-strong);
      padding-block: 6px;
    }
    .ask {
      margin-bottom: 8px;
      padding-right: 12px;
    }
    .about {
      margin-right: 6px;
      font-weight: 700;
    }
    .ways {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      align-items: center;
      padding-right: 12px;
    }
    .own {
      flex: 1 1 160px;
      min-width: 0;
    }
    .why {
      flex: 1 1 140px;
      min-width: 0;
    }
  `,
})
export class QuestionList {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private stepped = -1;

  /** The parts, by their names. */
  readonly parts = input<readonly NamedPart[]>([]);
  /** The questions of the sheet, answered ones included. */
  readonly questions = input.required<readonly AskedQuestion[]>();
  /** An answer was given. */
  readonly answeredNow = output<Answer>();
  /** An answer was taken back. */
  readonly reopened = output<AskedQuestion>();

  protected readonly open = computed(() => this.questions().filter(({ answer }) => answer === null));
  protected readonly answered = computed(() => this.questions().filter(({ answer }) => answer !== null));
  protected readonly own = signal<Readonly<Record<string, string>>>({});
  protected readonly why = signal<Readonly<Record<string, string>>>({});
  protected readonly candidateText = candidateText;

  protected keyOf({ partId, about, ask }: AskedQuestion): string {
    return `${partId} ${about}\n${ask}`;
  }

  /** Leads to the next open question, the first after the last. */
  step(): void {
    const open = [...this.host.nativeElement.querySelectorAll('li:not(.done)')];
    this.stepped = (this.stepped + 1) % Math.max(1, open.length);
    open[this.stepped]?.querySelector<HTMLElement>('button, input')?.focus();
  }

  /** What a question is about, with the part's own name where several share one. */
  protected aboutText({ about, partId }: AskedQuestion): string {
    const part = this.parts().find(({ id }) => id === partId);
    if (part) return `${part.label}, ${fieldText(about.replace(/^.*\//u, ''))}`;
    return about
      .replace(/^deadlines\[(.+?)\]\/?/u, '$1 ')
      .replace('/', ', ')
      .trim();
  }

  protected note(store: typeof this.own, question: AskedQuestion, value: string): void {
    store.update((values) => ({ ...values, [this.keyOf(question)]: value }));
  }

  protected give(question: AskedQuestion, candidate: unknown): void {
    this.send(question, candidate, candidateText(candidate));
  }

  protected giveOwn(question: AskedQuestion): void {
    const text = (this.own()[this.keyOf(question)] ?? '').trim();
    if (text !== '') this.send(question, undefined, text);
  }

  private send(question: AskedQuestion, candidate: unknown, text: string): void {
    const reason = (this.why()[this.keyOf(question)] ?? '').trim();
    this.answeredNow.emit({ question, candidate, text, reason });
  }
}
