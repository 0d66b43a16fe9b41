import { capital } from '@vivid-cue/core/base';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { Select } from 'primeng/select';
import {
  partField,
  showField,
  valueOfWords,
  WORD_FIELDS,
  type PartKind,
  type WordField,
} from '@vivid-cue/core/sheet';
import { inVocabulary } from '@vivid-cue/core/music';
import { SessionStore } from '../data/session-store';
import type { NamedPart } from './part-groups';

/** Words are for this field of this part. */
export interface GivenWords {
  readonly partId: string;
  readonly field: WordField;
}

/** What words look like, for the field that is offered first (our own order). */
const LOOKS: readonly (readonly [RegExp, WordField])[] = [
  [/[=♩♪𝅗]|\bbpm\b|\bm\.?m\.?\b\s*\d/iu, 'tempo'],
  [/\b(?:points?|pts|marks?)\b/iu, 'points'],
  [/\boctaves?\b/iu, 'octaves'],
  [/\b(?:mm?\.|ms\.|bars?|measures?)|^\d+\s*[-–—]\s*\d+$/iu, 'measures'],
  [/^\s*(?:pp?\.|pages?)/iu, 'page'],
  [/^\s*(?:nos?\.|number|#|study|[eé]tude)/iu, 'number'],
  [/\bmemory\b|\bby heart\b/iu, 'memory'],
  [/\brepeats?\b/iu, 'repeats'],
  [/\b(?:major|minor)\b/iu, 'key'],
  [/\bminutes?\b|\bseconds?\b/iu, 'maxSeconds'],
  [/\bedition|printing\b/iu, 'edition'],
  [/^by\s/iu, 'composer'],
];

/** Gives marked words to a field of a part; what they would say there is shown first. */
@Component({
  selector: 'vc-word-giver',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, FormsModule, Select],
  template: `
    <div class="giver" role="group" aria-label="Give the marked words to a field">
      <p>
        <q>{{ shown() }}</q>
        <span class="small" [class.wrong]="issue()" role="status">{{
          issue() || 'reads as ' + reads()
        }}</span>
      </p>
      <div class="ways">
        <p-select
          ariaLabel="Part that the words are for"
          [options]="[...parts()]"
          optionLabel="label"
          optionValue="id"
          [ngModel]="part()"
          (ngModelChange)="part.set($event)"
          appendTo="body"
        />
        <p-select
          ariaLabel="Field that the words are for"
          [options]="fields()"
          optionLabel="label"
          optionValue="value"
          [ngModel]="field()"
          (ngModelChange)="field.set($event)"
          appendTo="body"
        />
        <p-button
          label="Give"
          type="button"
          size="small"
          [disabled]="issue() !== '' || part() === ''"
          (onClick)="gave.emit({ partId: part(), field: field() })"
        />
        <p-button
          label="Leave it"
          type="button"
          size="small"
          severity="secondary"
          [text]="true"
          (onClick)="left.emit()"
        />
      </div>
    </div>
  `,
  styles: `
    .giver {
      position: fixed;
      bottom: 14px;
      left: 50%;
      z-index: 20;
      width: min(720px, 94vw);
      transform: translateX(-50%);
      box-shadow: 0 6px 24px rgb(29 36 51 / 22%);
      padding: 10px 14px 12px;
      border: 1px solid var(--primary);
      border-radius: 6px;
      background: var(--sheet);
    }
    p {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 12px;
      margin: 0 0 8px;
    }
    q {
      overflow-wrap: anywhere;
      font-weight: 600;
    }
    .ways {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      align-items: center;
    }
    p-select {
      flex: 1 1 150px;
      min-width: 0;
    }
  `,
})
export class WordGiver {
  private readonly session = inject(SessionStore);

  /** The marked words. */
  readonly words = input.required<string>();
  /** The parts that they can be given to. */
  readonly parts = input.required<readonly NamedPart[]>();
  /** The part that stands nearest. */
  readonly nearest = input('');
  /** The words are for a field. */
  readonly gave = output<GivenWords>();
  /** The words are left where they are. */
  readonly left = output();

  protected readonly part = signal('');
  protected readonly field = signal<WordField>('title');
  protected readonly shown = computed(() => {
    const plain = this.words().replace(/\s+/gu, ' ');
    return plain.length > 90 ? `${plain.slice(0, 89)}…` : plain;
  });
  protected readonly fields = computed(() =>
    WORD_FIELDS.map((value) => {
      const caption = inVocabulary(partField(value)?.caption ?? value, this.session.vocabulary());
      return { value, label: capital(caption) };
    }),
  );
  private readonly kind = computed(
    (): PartKind => this.parts().find(({ id }) => id === this.part())?.kind ?? 'etude',
  );
  private readonly read = computed(() => valueOfWords(this.words(), this.field(), this.kind()));
  protected readonly issue = computed(() => {
    const read = this.read();
    return 'issue' in read ? read.issue : '';
  });
  protected readonly reads = computed(() => {
    const [read, field] = [this.read(), partField(this.field())];
    return 'value' in read && field ? showField(field, read.value) : '';
  });

  constructor() {
    effect(() => {
      this.field.set(LOOKS.find(([look]) => look.test(this.words()))?.[1] ?? 'title');
    });
    effect(() => {
      this.part.set(this.nearest());
    });
  }
}
