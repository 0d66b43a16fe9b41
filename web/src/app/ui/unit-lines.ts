import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { UnitKind, UnitLine } from '@vivid-cue/contract';
import { dayText } from './texts';

/** How kinds of units are called. */
export const UNIT_WORDS: Readonly<Record<UnitKind, string>> = {
  sight: 'Sight-reading',
  echo: 'Sing back',
  clap: 'Tap back',
  interval: 'Intervals',
  cadence: 'Cadences',
  meter: 'Meter',
  pulse: 'Pulse',
};

/** How somebody stands with sight-reading and ear tests: each kind at its level, by the last ten. */
@Component({
  selector: 'vc-unit-lines',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (line of shown(); track line.key) {
        <li>
          <strong>{{ line.name }}</strong>
          <span class="soft">level {{ line.level }}</span>
          <span class="mono">{{ line.percent }} %</span>
          <span class="soft">right of the last ten, {{ line.done }} done, {{ line.last }}</span>
        </li>
      } @empty {
        <li class="soft">Nothing was done yet.</li>
      }
    </ul>
  `,
  styles: `
    ul {
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 12px;
      align-items: baseline;
      padding: 6px 0;
      border-bottom: 1px solid var(--rule);
    }
  `,
})
export class UnitLines {
  readonly lines = input.required<readonly UnitLine[]>();

  protected readonly shown = computed(() =>
    this.lines().map(({ kind, level, done, share, lastAt }) => ({
      ...{ key: `${kind} ${level}`, name: UNIT_WORDS[kind], level, done },
      percent: Math.round(share * 100),
      last: dayText(lastAt.slice(0, 10)),
    })),
  );
}
