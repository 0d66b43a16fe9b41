import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { PaperMusic } from '@vivid-cue/core/paper';
import type { ScoreRoomView } from '@vivid-cue/contract';
import { ScoreUpload } from './score-upload';
import { ToldForm } from './told-form';

/** The one way in for music: a digital score, or told from the printed page. */
@Component({
  selector: 'vc-bring-music',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [ScoreUpload, ToldForm],
  template: `
    <section aria-labelledby="bring-music">
      <h2 id="bring-music">{{ isReplacing() ? 'Replace the music' : 'Bring the music' }}</h2>
      <div class="ways">
        <vc-score-upload [programPartId]="room().programPartId" (uploaded)="brought.emit($event)" />
        <vc-told-form
          [room]="room()"
          [paper]="paper()"
          [isReplacing]="isReplacing()"
          (kept)="brought.emit($event)"
          (left)="left.emit()"
        />
      </div>
    </section>
  `,
  styles: `
    section {
      margin-bottom: 16px;
      padding: 20px;
      border: 1px solid var(--rule);
      border-radius: 6px;
      background: var(--sheet);
    }
    .ways {
      display: grid;
      grid-template-columns: minmax(0, 2fr) minmax(0, 3fr);
      gap: 28px;
      margin-top: 12px;
    }
    @media (max-width: 900px) {
      .ways {
        grid-template-columns: minmax(0, 1fr);
      }
    }
  `,
})
export class BringMusic {
  /** The part that the music is for. */
  readonly room = input.required<ScoreRoomView>();
  /** What was told of it before. */
  readonly paper = input<PaperMusic | null>(null);
  /** Whether music is there already. */
  readonly isReplacing = input(false);
  /** The music is there. */
  readonly brought = output<ScoreRoomView>();
  /** Nothing is to change. */
  readonly left = output<void>();
}
