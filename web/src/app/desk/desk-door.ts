import { ChangeDetectionStrategy, Component, inject, signal, type OnInit } from '@angular/core';
import { Router } from '@angular/router';
import { DeskOutbox } from '../data/desk-outbox';

/** The desk without its link, as an installed one begins: the desk that this device knows, or where to find the link. */
@Component({
  selector: 'vc-desk-door',
  host: { role: 'main', tabindex: '-1' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (isUnknown()) {
      <h1>Your desk</h1>
      <p>Open it once by your own link: the picture or the address that your teacher gave you.</p>
    }
  `,
  styles: `
    :host {
      display: block;
      max-width: 520px;
      margin: 12vh auto 0;
      padding: 0 20px;
    }
    p {
      color: var(--ink-soft);
      font-size: 19px;
    }
  `,
})
export class DeskDoor implements OnInit {
  private readonly outbox = inject(DeskOutbox);
  private readonly router = inject(Router);
  protected readonly isUnknown = signal(false);

  async ngOnInit(): Promise<void> {
    const known = await this.outbox.database.desks
      .toCollection()
      .first()
      .catch(() => undefined);
    if (known) await this.router.navigate(['/desk', known.linkId], { replaceUrl: true });
    else this.isUnknown.set(true);
  }
}
