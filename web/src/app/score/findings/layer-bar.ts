import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Select } from 'primeng/select';
import { inVocabulary, measureWord } from '@vivid-cue/core/music';
import { shortRhythm } from '@vivid-cue/core/reading';
import { SessionStore } from '../../data/session-store';
import { isTyping } from '../../ui/typing';
import { LAYERS, LayerStore, type LayerName } from './layers';
import { ReadingStore } from './reading-store';
import { SHAPE_PATHS } from '../engraving/score-marks';
import { StudioWords } from '../../ui/studio-words';

/** Switches the layers over the music, by the keys 1 to 7 too, and says what each shows. */
@Component({
  selector: 'vc-layer-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Select, StudioWords],
  template: `
    <div class="switches" role="group" aria-label="Layers over the music">
      @for (layer of all; track layer.name; let n = $index) {
        <button
          type="button"
          role="switch"
          [attr.aria-checked]="layers.on().has(layer.name)"
          (click)="layers.toggle(layer.name)"
        >
          <span class="slot" aria-hidden="true"></span>{{ layer.label }} <kbd>{{ n + 1 }}</kbd>
        </button>
      }
    </div>
    <div class="legends">
      @if (has('demand')) {
        <p class="legend">
          <span class="scale" aria-hidden="true"></span> the darker and higher, the more a
          {{ measureWord() }} asks at the target tempo
        </p>
      }
      @if (has('articulation')) {
        <ul class="legend" aria-label="Articulations">
          @for (one of layers.articulations(); track one.kind) {
            <li>
              <svg viewBox="-1.2 -1.2 2.4 2.4" aria-hidden="true">
                <path
                  [attr.class]="'articulation ' + one.shape"
                  [attr.d]="path(one.shape)"
                  fill-rule="evenodd"
                />
              </svg>
              {{ one.kind }} <b>{{ one.count }}</b>
            </li>
          }
        </ul>
      }
      @if (has('dynamics')) {
        <ul class="legend" aria-label="Dynamics">
          @for (one of layers.dynamics(); track $index) {
            <li>
              <span class="mono">{{ one.number }}</span> <i class="level">{{ one.text }}</i>
            </li>
          } @empty {
            <li>No dynamics are printed in the asked {{ measureWord() }}s.</li>
          }
        </ul>
      }
      @if (has('names')) {
        @defer (on immediate) {
          <p class="legend">
            <strong>Show</strong>
            <p-select
              ariaLabel="Notes to show"
              size="small"
              [options]="layers.names()"
              optionLabel="label"
              optionValue="value"
              [ngModel]="layers.name()"
              (ngModelChange)="layers.askedName.set($event)"
            />
            <span role="status">{{ layers.nameSentence() }}</span>
          </p>
        }
      }
      @if (has('rhythm')) {
        <ul class="legend" aria-label="Rhythms that come again">
          @for (one of layers.rhythms(); track one.id; let n = $index) {
            <li>
              <span class="chip" [attr.data-rhythm]="n % 4">{{ one.id }}</span> {{ spoken(one.rhythm) }}
              <b>{{ one.measures.length }}×</b>
            </li>
          } @empty {
            <li>No rhythm comes twice.</li>
          }
        </ul>
      }
      @if (has('alike')) {
        @defer (on immediate) {
          <p class="legend">
            @if (pairOptions().length) {
              <strong>Side by side</strong>
              <p-select
                [ariaLabel]="'Measures to see side by side' | studioWords"
                size="small"
                placeholder="choose a pair"
                [options]="pairOptions()"
                optionLabel="label"
                optionValue="value"
                [ngModel]="chosenPair()"
                (ngModelChange)="reading.chosenId.set($event)"
              />
            }
            = the same again · like: the same but for a little
          </p>
        }
      }
    </div>
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 8px;
    }
    .switches {
      display: flex;
      flex-wrap: wrap;
      gap: 2px 12px;
    }
    .switches button {
      display: inline-flex;
      align-items: center;
      gap: 6px;
      min-height: 30px;
      padding: 2px 0;
      border: 0;
      background: none;
      color: var(--ink-soft);
      font: inherit;
      font-size: 15px;
      cursor: pointer;
    }
    .switches button:hover {
      color: var(--ink);
    }
    /* A slot with a slider: up and filled when the layer lies over the music. */
    .slot {
      position: relative;
      width: 12px;
      height: 20px;
      border: 1.5px solid var(--rule-strong);
      border-radius: 3px;
      background: var(--sheet);
    }
    .slot::after {
      content: '';
      position: absolute;
      inset: auto 1.5px 1.5px;
      height: 6px;
      border-radius: 1px;
      background: var(--ink-soft);
    }
    [aria-checked='true'] {
      color: var(--ink);
    }
    [aria-checked='true'] .slot {
      border-color: var(--primary);
      background: color-mix(in srgb, var(--primary) 22%, var(--sheet));
    }
    [aria-checked='true'] .slot::after {
      inset: 1.5px 1.5px auto;
      background: var(--primary);
    }
    /* However many are on, the music keeps its room: the rest of what they say is scrolled to. */
    .legends {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 24px;
      max-height: 66px;
      overflow-y: auto;
    }
    .legends:not(:has(> *)) {
      display: none;
    }
    .legend {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 16px;
      margin: 0;
      padding: 0;
      color: var(--ink-soft);
      font-size: 14px;
      list-style: none;
    }
    .legend li {
      display: inline-flex;
      align-items: center;
      gap: 5px;
    }
    .legend b {
      color: var(--ink);
      font-family: var(--font-mono);
    }
    .legend strong {
      color: var(--ink);
      font-weight: 600;
    }
    svg {
      width: 16px;
      height: 16px;
    }
    .level {
      color: var(--ink);
      font-family: var(--font-score);
      font-weight: 700;
    }
    .scale {
      display: inline-block;
      width: 60px;
      height: 12px;
      background: linear-gradient(90deg, transparent, color-mix(in srgb, var(--ink) 42%, transparent));
    }
    .chip {
      display: inline-block;
      min-width: 22px;
      padding: 0 5px;
      border: 1px solid var(--rule-strong);
      color: var(--score-ink);
      font-family: var(--font-mono);
      font-weight: 600;
      text-align: center;
    }
    @media (max-width: 700px) {
      .switches {
        flex-wrap: nowrap;
        overflow-x: auto;
        white-space: nowrap;
      }
      kbd {
        display: none;
      }
    }
  `,
  host: { '(document:keydown)': 'onKey($event)' },
})
export class LayerBar {
  protected readonly layers = inject(LayerStore);
  protected readonly reading = inject(ReadingStore);
  private readonly session = inject(SessionStore);
  protected readonly all = LAYERS;

  protected readonly pairOptions = computed(() =>
    this.layers.pairs().map(({ id, where, title }) => ({ value: id, label: `${where}: ${title}` })),
  );
  protected readonly chosenPair = computed(() => {
    const chosen = this.reading.chosen();
    return chosen?.pair ? chosen.id : null;
  });

  protected has(name: LayerName): boolean {
    return this.layers.on().has(name) && this.reading.result() !== null;
  }

  protected path(shape: keyof typeof SHAPE_PATHS): string {
    return SHAPE_PATHS[shape];
  }

  protected spoken(rhythm: string): string {
    return inVocabulary(shortRhythm(rhythm), this.session.vocabulary());
  }

  protected measureWord(): string {
    return measureWord(1, this.session.vocabulary());
  }

  protected onKey(event: KeyboardEvent): void {
    const layer = /^[1-7]$/u.test(event.key) ? LAYERS[Number(event.key) - 1] : undefined;
    if (!layer || isTyping(event) || event.defaultPrevented) return;
    event.preventDefault();
    this.layers.toggle(layer.name);
  }
}
