import { ChangeDetectionStrategy, Component, input, model, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { Textarea } from 'primeng/textarea';
import { ProblemNote } from '../ui/problem-note';
import { takeLongPaste } from './long-paste';
import { StudioWords } from '../ui/studio-words';

/** Where the published text is pasted. */
@Component({
  selector: 'vc-paste-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, FormsModule, ProblemNote, Textarea, StudioWords],
  templateUrl: './paste-card.html',
  styleUrls: ['./card.css', './paste-card.css'],
})
export class PasteCard {
  /** The text. */
  readonly text = model('');
  /** Why the text could not be read. */
  readonly failure = input<string | null>(null);
  /** Whether it is being read. */
  readonly isReading = input(false);
  /** A paste that is too long, in a sentence. */
  readonly refused = output<string>();
  /** The sheet is entered by hand instead. */
  readonly byHand = output<void>();
  /** The text is to be read. */
  readonly read = output<void>();

  protected takePaste(event: ClipboardEvent): void {
    const taken = takeLongPaste(event);
    if (taken?.refusal) this.refused.emit(taken.refusal);
    else if (taken) this.text.set(taken.value);
  }
}
