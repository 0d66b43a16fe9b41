import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { measuresText } from '@vivid-cue/core/music';
import { contrastReach, hairpinReach, unevenness, type Reach, type ToldTake } from '@vivid-cue/core/takes';
import { StudioWords } from '../ui/studio-words';
import type { TempoBand } from './take-map';

/** A number with what it means. */
interface FactRow {
  readonly what: string;
  readonly number: string;
  readonly means: string;
}

const HAIRPIN_MEANS: Readonly<Record<Reach['became'], string>> = {
  heard: 'reaches the listener',
  turned: 'goes the other way',
  flat: 'stays flat',
};
const EVEN_MEANS = { uneven: 'heard as uneven', 'nearly even': 'nearly even', steady: 'steady' } as const;

/** What a take says: first the sentence, then the numbers of what the panel hears and of how even it is. */
@Component({
  selector: 'vc-take-facts',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [StudioWords],
  template: `
    @if (part() === 'sentence') {
      <div class="said">
        <p>
          <strong>{{ first().text | studioWords }}</strong> {{ asked() }}
          <span class="sure">{{ first().sure }}</span>
        </p>
        @for (one of others(); track one.text) {
          <p>
            {{ one.text | studioWords }} <span class="sure">{{ one.sure }}</span>
          </p>
        }
        @for (text of notices(); track text) {
          <p class="soft">{{ text | studioWords }}</p>
        }
      </div>
    } @else {
      <section aria-labelledby="panel-title">
        <h2 id="panel-title">What the panel hears</h2>
        @for (row of heard(); track row.what) {
          <div class="row">
            <p>{{ row.what | studioWords }}</p>
            <p class="mono">{{ row.number }}</p>
            <p class="soft">{{ row.means | studioWords }}</p>
          </div>
        } @empty {
          <p class="soft">No dynamics are printed that could be held against it.</p>
        }
      </section>
      <section aria-labelledby="even-title">
        <h2 id="even-title">Even</h2>
        @for (row of even(); track row.what) {
          <div class="row">
            <p>{{ row.what | studioWords }}</p>
            <p class="mono">{{ row.number }}</p>
            <p class="soft">{{ row.means | studioWords }}</p>
          </div>
        } @empty {
          <p class="soft">No run of equal notes was followed surely enough.</p>
        }
      </section>
    }
  `,
  styles: `
    .said {
      padding: 12px 16px;
      border-left: 4px solid var(--vivid);
      background: var(--sheet);
      font-size: 17px;
    }
    .said p + p {
      margin-top: 4px;
    }
    .sure {
      color: var(--ink-soft);
      font-size: 14px;
      white-space: nowrap;
    }
    h2 {
      margin-bottom: 8px;
      font-size: 19px;
    }
    .row {
      display: grid;
      grid-template-columns: 1fr auto;
      gap: 2px 12px;
      padding: 9px 12px;
      border-bottom: 1px solid var(--rule);
      background: var(--sheet);
    }
    .row .soft {
      grid-column: 1 / -1;
      font-size: 14px;
    }
  `,
})
export class TakeFacts {
  readonly part = input.required<'sentence' | 'columns'>();
  readonly told = input.required<ToldTake>();
  readonly band = input<TempoBand | null>(null);

  private readonly texts = computed(() =>
    this.told().sentences.map(({ text, confidence }) => ({
      text,
      sure: `${Math.min(99, Math.round(confidence * 100))} % sure`,
    })),
  );
  protected readonly first = computed(
    () => this.texts()[0] ?? { text: 'Steady from beginning to end.', sure: '' },
  );
  protected readonly others = computed(() => this.texts().slice(1, 5));
  protected readonly asked = computed(() => {
    const { min = null, max = null, isExact = false } = this.band() ?? {};
    const round = (bpm: number | null): string => String(Math.round(bpm ?? 0));
    if (isExact) return `The sheet asks ${Math.round(((min ?? 0) + (max ?? 0)) / 2)}.`;
    if (min !== null && max !== null) return `The sheet asks ${round(min)} to ${round(max)}.`;
    if (min !== null) return `The sheet asks ${round(min)} at least.`;
    return max === null ? '' : `The sheet asks ${round(max)} at most.`;
  });
  protected readonly notices = computed(() =>
    this.told().notices.map((notice) => {
      switch (notice.kind) {
        case 'clipped':
          return 'The microphone was turned up too far: some of it is cut off. Turn it down for the next take.';
        case 'shifted':
          return `It sounds ${Math.abs(notice.semitones)} semitones ${notice.semitones < 0 ? 'below' : 'above'} what is written.`;
        case 'unsure':
          return `Only ${Math.round(notice.share * 100)} % of it was followed surely: trust your ears before these numbers.`;
      }
    }),
  );
  protected readonly heard = computed((): readonly FactRow[] => {
    const { contrasts, hairpins, loudest } = this.told();
    return [
      ...contrasts.map((contrast) => ({
        what: `${contrast.fromLevel} from ${contrast.from} against ${contrast.toLevel} from ${contrast.to}`,
        number: lu(contrast.changeLu),
        means: contrastReach(contrast).became === 'heard' ? 'reaches the listener' : 'reads as one level',
      })),
      ...hairpins.map((hairpin) => ({
        what: `${hairpin.printed} ${measuresText(hairpin.from, hairpin.to, 'us')}`,
        number: lu(hairpin.changeLu),
        means: HAIRPIN_MEANS[hairpinReach(hairpin).became],
      })),
      ...(loudest
        ? [
            {
              what: 'loudest place',
              number: `m. ${loudest.heard}`,
              means: loudest.isAsPrinted
                ? 'as printed'
                : `printed is the ${loudest.level} of measure ${loudest.printed}`,
            },
          ]
        : []),
    ];
  });
  protected readonly even = computed((): readonly FactRow[] =>
    [...this.told().evenness]
      .sort((a, b) => b.percent - a.percent)
      .slice(0, 6)
      .map(({ from, to, percent, notes }) => ({
        what: `${notes} running notes, ${measuresText(from, to, 'us')}`,
        number: `± ${Math.round(percent)} %`,
        means: EVEN_MEANS[unevenness(percent)],
      })),
  );
}

function lu(change: number): string {
  return `${change > 0 ? '+' : change < 0 ? '−' : ''}${Math.abs(change).toFixed(1)} LU`;
}
