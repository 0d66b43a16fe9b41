import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { Message } from 'primeng/message';
import { StudioWords } from './studio-words';

/** A sentence about what went wrong, next to where it happened, read out at once. */
@Component({
  selector: 'vc-problem-note',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Message, StudioWords],
  template: `
    @if (message()) {
      <p-message severity="error" icon="pi pi-exclamation-circle">{{
        message() ?? '' | studioWords
      }}</p-message>
    }
  `,
})
export class ProblemNote {
  readonly message = input.required<string | null | undefined>();
}
