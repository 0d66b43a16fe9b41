import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import type { SheetInstrument } from './instruments-shown';

/** Instruments that are shown at first beside those that are open. */
const FEW_MORE = 5;

/** Which instruments of a text are looked at: those of the students at first, the others folded away. */
@Component({
  selector: 'vc-instrument-chips',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="chips" role="group" aria-label="Instruments that this text covers">
      <span class="soft small">This text covers</span>
      @for (one of shown(); track one.key) {
        <button type="button" [attr.aria-pressed]="open().has(one.key)" (click)="turned.emit(one.key)">
          {{ one.name }}
          @if (one.who.length) {
            <span class="who"
              >· {{ one.who.length > 2 ? one.who.length + ' students' : one.who.join(', ') }}</span
            >
          }
        </button>
      }
      @if (more(); as count) {
        <button type="button" (click)="isWhole.set(true)">+ {{ count }} more</button>
      }
    </div>
  `,
  styles: `
    .chips {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 8px;
      align-items: center;
      margin-bottom: 14px;
    }
    button {
      min-height: 30px;
      padding: 3px 12px;
      border: 1px solid var(--rule-strong);
      border-radius: 15px;
      background: none;
      color: var(--ink-soft);
      font: inherit;
      font-size: 14px;
      cursor: pointer;
    }
    button[aria-pressed='true'] {
      border-color: var(--primary);
      background: color-mix(in srgb, var(--primary) 14%, var(--sheet));
      color: var(--ink);
      font-weight: 600;
    }
    .who {
      font-weight: 400;
    }
  `,
})
export class InstrumentChips {
  /** The instruments of the text. */
  readonly instruments = input.required<readonly SheetInstrument[]>();
  /** Those whose parts are shown. */
  readonly open = input.required<ReadonlySet<string>>();
  /** An instrument is to be opened or folded away. */
  readonly turned = output<string>();

  protected readonly isWhole = signal(false);
  /** Those of the students first, then as the text has them. */
  private readonly ordered = computed(() => {
    const all = this.instruments();
    const isOwn = ({ who }: SheetInstrument): boolean => who.length > 0;
    return [...all.filter(isOwn), ...all.filter((one) => !isOwn(one))];
  });
  protected readonly shown = computed(() => {
    const all = this.ordered();
    const own = all.filter(({ key, who }) => who.length > 0 || this.open().has(key)).length;
    return this.isWhole() || all.length <= own + FEW_MORE + 1 ? all : all.slice(0, own + FEW_MORE);
  });
  protected readonly more = computed(() => this.instruments().length - this.shown().length);
}
