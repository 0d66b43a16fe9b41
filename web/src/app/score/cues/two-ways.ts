import { ChangeDetectionStrategy, Component, inject, output } from '@angular/core';
import type { Span } from '@vivid-cue/core/score';
import { StudioWords } from '../../ui/studio-words';
import { CueStore } from './cue-store';

/** Like notes that are cued two ways: each is looked at, and settled with one press. */
@Component({
  selector: 'vc-two-ways',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [StudioWords],
  template: `
    @for (one of store.disagreements(); track one.key) {
      <div role="note">
        <p>{{ one.text | studioWords }}</p>
        @for (cue of one.cues; track cue.id) {
          <button type="button" (click)="look.emit(cue)">Look at {{ cue.from }}</button>
        }
        @for (sign of one.signs; track sign) {
          <button type="button" (click)="store.agree(one, sign)">{{ sign }} everywhere</button>
        }
      </div>
    }
  `,
  styles: `
    div {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 8px;
      margin: 8px 0;
      padding: 8px 10px;
      border-left: 4px solid var(--vivid);
      background: var(--sheet);
    }
    p {
      flex-basis: 100%;
      margin: 0;
    }
    button {
      min-height: 30px;
      padding: 2px 10px;
      border: 1px solid var(--rule-strong);
      border-radius: 6px;
      background: var(--sheet);
      color: var(--primary);
      font: inherit;
      cursor: pointer;
    }
  `,
})
export class TwoWaysNote {
  protected readonly store = inject(CueStore);
  readonly look = output<Span>();
}
