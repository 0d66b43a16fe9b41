import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { CueKind, KindLook } from '@vivid-cue/core/cue-kinds';
import { CueMark } from './cue-mark';

/** What the inks and shapes of some cues stand for. */
@Component({
  selector: 'vc-cue-legend',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [CueMark],
  template: `
    @if (kinds().length > 0) {
      <p aria-label="What the signs stand for">
        @for (one of kinds(); track one.kind) {
          <span class="one"
            ><vc-cue-mark [kind]="one.kind" [sign]="one.sign" [looks]="looks()" />{{ one.kind }}</span
          >
        }
      </p>
    }
  `,
  styles: `
    p {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 14px;
      margin: 0;
      color: var(--ink-soft);
      font-size: 14px;
    }
    .one {
      display: inline-flex;
      gap: 6px;
      align-items: center;
    }
  `,
})
export class CueLegend {
  readonly cues = input.required<readonly { readonly kind: CueKind; readonly sign: string }[]>();
  readonly looks = input<readonly KindLook[]>([]);
  /** Each kind once, with the first sign it has. */
  protected readonly kinds = computed(() => {
    const first = new Map<CueKind, string>();
    for (const { kind, sign } of this.cues()) if (!first.get(kind)) first.set(kind, sign);
    return [...first].map(([kind, sign]) => ({ kind, sign }));
  });
}
