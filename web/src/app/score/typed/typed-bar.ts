import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { Button } from 'primeng/button';
import { capital } from '@vivid-cue/core/base';
import { measureWord, type Vocabulary } from '@vivid-cue/core/music';
import { worthTyping } from '@vivid-cue/core/paper';
import { hasKnownNotes, type MeasureDigest, type Span } from '@vivid-cue/core/score';

/** Says what typing notes would make possible, and begins it. */
@Component({
  selector: 'vc-typed-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button],
  template: `
    <p class="soft">
      <strong>{{ wish() }}</strong> {{ why() }}
    </p>
    <p-button
      [label]="label()"
      icon="pi pi-pencil"
      size="small"
      severity="secondary"
      [outlined]="true"
      (onClick)="begin.emit(target())"
    />
    <kbd>T</kbd>
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 10px;
      min-height: 40px;
    }
    p {
      flex: 1;
      min-width: 200px;
      margin: 0;
      font-size: 15px;
    }
    kbd {
      padding: 0 5px;
      border: 1px solid var(--rule);
      border-radius: 3px;
      font-family: var(--font-mono);
      font-size: 13px;
    }
  `,
})
export class TypedBar {
  readonly measures = input.required<readonly MeasureDigest[]>();
  readonly selection = input<Span | null>(null);
  readonly vocabulary = input<Vocabulary>('us');
  /** Notes are to be typed from a measure on. */
  readonly begin = output<Span>();

  private readonly worth = computed(() => worthTyping(this.measures()));
  /** What is selected, else what decides, else the beginning. */
  readonly target = computed(
    (): Span => this.selection() ?? this.worth()?.runs[0] ?? { fromIndex: 0, endIndex: 1 },
  );
  private readonly isTyped = computed(() => {
    const measure = this.measures()[this.target().fromIndex];
    return measure !== undefined && hasKnownNotes(measure);
  });
  protected readonly wish = computed(() => {
    const worth = this.worth();
    if (!worth) return '';
    return `Type ${worth.runs.map((run) => this.numbers(run)).join(' and ')}:`;
  });
  protected readonly why = computed(() => {
    const worth = this.worth();
    const word = (count: number): string => measureWord(count, this.vocabulary());
    if (worth) return `${worth.count} ${word(worth.count)} decide${worth.count === 1 ? 's' : ''} the tempo.`;
    const known = this.measures().filter((measure) => hasKnownNotes(measure)).length;
    return known > 0
      ? `Findings, demands and sound are there for the ${known} typed ${word(known)}.`
      : `${capital(word(2))} whose notes are typed get findings, fingerings and drills.`;
  });
  protected readonly label = computed(() => {
    const { fromIndex, endIndex } = this.target();
    const numbers = this.numbers(this.target());
    if (this.isTyped()) return `Change the notes of ${numbers}`;
    return endIndex - fromIndex === 1 ? `Type from ${numbers} on` : `Type ${numbers}`;
  });

  private numbers({ fromIndex, endIndex }: Span): string {
    const measures = this.measures();
    const [from, to] = [measures[fromIndex]?.number, measures[endIndex - 1]?.number];
    return from === to ? String(from ?? '') : `${from}–${to}`;
  }
}
