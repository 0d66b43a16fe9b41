import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { Message } from 'primeng/message';

/** A sentence about what went wrong, next to where it happened, read out at once. */
@Component({
  selector: 'vc-problem-note',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Message],
  template: `
    @if (message()) {
      <p-message severity="error" icon="pi pi-exclamation-circle">{{ message() }}</p-message>
    }
  `,
})
export class ProblemNote {
  readonly message = input.required<string | null | undefined>();
}
