import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import type { PaperMusic } from '@vivid-cue/core/paper';
import type { ScoreRoomView } from '@vivid-cue/contract';
import { ScoreUpload } from './music/score-upload';
import { ToldForm } from './music/told-form';
import { PagesDrop } from './pages/pages-drop';

/** The one way in for music: a digital score, its pages, or told. */
@Component({
  selector: 'vc-bring-music',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [PagesDrop, ScoreUpload, ToldForm],
  template: `
    <section aria-labelledby="bring-music">
      <h2 id="bring-music">{{ isReplacing() ? 'Replace the music' : 'Bring the music' }}</h2>
      <div class="ways">
        <div class="files">
          <vc-score-upload
            [programPartId]="room().programPartId"
            [before]="room().score?.digest?.measures ?? null"
            [instrument]="room().student.instrument"
            (uploaded)="brought.emit($event)"
            (pages)="pages.emit($event)"
          />
          <vc-pages-drop
            [hasPages]="(paper()?.pages?.length ?? 0) > 0"
            (brought)="pages.emit($event)"
            (correct)="pages.emit([])"
          />
        </div>
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
    .files {
      display: flex;
      flex-direction: column;
      gap: 16px;
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
  /** Pages were brought; none where those that are there are to be corrected. */
  readonly pages = output<readonly File[]>();
  /** Nothing is to change. */
  readonly left = output<void>();
}
