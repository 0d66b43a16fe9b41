import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { lookOf, type CueKind, type KindLook } from '@vivid-cue/core/cue-kinds';

/** A cue's sign as it stands on the music: in the ink and shape of its kind. */
@Component({
  selector: 'vc-cue-mark',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<span class="cue-mark" [class]="'ink-' + look().ink + ' shape-' + look().shape">{{
    sign() || '·'
  }}</span>`,
})
export class CueMark {
  readonly kind = input.required<CueKind>();
  readonly sign = input('');
  readonly looks = input<readonly KindLook[]>([]);
  protected readonly look = computed(() => lookOf(this.kind(), this.looks()));
}
