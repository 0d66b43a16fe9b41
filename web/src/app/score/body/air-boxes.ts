import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { measuresText, meterFrom } from '@vivid-cue/core/music';
import { SessionStore } from '../../data/session-store';
import { BodyStore } from './body-store';

/** Measures whose notes are not known: rests and possible breaths are marked at their ends. */
@Component({
  selector: 'vc-air-boxes',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="soft">
      Mark at the end of each box where a breath is possible (pressed once), is taken in any case (twice), or
      how long a rest stands there.
    </p>
    <ol>
      @for (box of boxes(); track box.index) {
        <li>
          <span class="mono">{{ box.number }}</span>
          <button
            type="button"
            class="rest"
            [class.is-on]="box.beats > 0"
            [attr.aria-label]="'Rest at the end of ' + box.name + ': ' + box.restText"
            (click)="store.turnRest(box.index, box.most)"
          >
            {{ box.beats > 0 ? 'rest ' + box.beats : 'rest' }}
          </button>
          <button
            type="button"
            class="end"
            [class.is-on]="box.beats === 0"
            [class.is-must]="box.isMust"
            [attr.aria-label]="'Breath after ' + box.name + ': ' + box.breathText"
            (click)="store.turnBox(box.index)"
          >
            ’
          </button>
        </li>
      }
    </ol>
  `,
  styles: `
    p {
      margin: 0 0 6px;
    }
    ol {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 0;
      margin: 0 0 8px;
      padding: 0;
      list-style: none;
    }
    li {
      position: relative;
      display: flex;
      flex-direction: column;
      gap: 3px;
      min-width: 66px;
      padding: 3px 26px 5px 5px;
      border: 1px solid var(--rule-strong);
      border-right-width: 2px;
      background: var(--sheet);
    }
    .mono {
      font-size: 14px;
    }
    button {
      min-height: 26px;
      border: 1px solid transparent;
      border-radius: 4px;
      background: none;
      color: var(--ink-soft);
      font: inherit;
      font-size: 13px;
      cursor: pointer;
    }
    button:hover,
    .rest.is-on {
      border-color: var(--rule-strong);
    }
    .rest.is-on {
      color: var(--ink);
    }
    .end {
      position: absolute;
      top: 4px;
      right: -1px;
      bottom: 4px;
      width: 26px;
      font-size: 20px;
      line-height: 1;
    }
    .end.is-on {
      border-color: var(--primary);
      color: var(--primary);
      font-weight: 700;
    }
    .end.is-must {
      background: var(--primary);
      color: var(--on-primary);
    }
  `,
})
export class AirBoxes {
  protected readonly store = inject(BodyStore);
  private readonly session = inject(SessionStore);
  protected readonly boxes = computed(() => {
    const marks = new Map(this.store.marks().map((mark) => [mark.index, mark]));
    return this.store.boxes().map(({ index, number, time }) => {
      const mark = marks.get(index);
      const meter = meterFrom(time);
      const beats = mark?.beats ?? -1;
      return {
        ...{ index, number, beats, isMust: mark?.isMust ?? false },
        most: meter ? meter.groups.reduce((sum, group) => sum + group, 0) : 4,
        name: measuresText(number, number, this.session.vocabulary()),
        restText: beats > 0 ? `${beats} ${beats === 1 ? 'beat' : 'beats'}` : 'none',
        breathText: beats !== 0 ? 'none' : mark?.isMust === true ? 'taken' : 'possible',
      };
    });
  });
}
