import { ChangeDetectionStrategy, Component } from '@angular/core';
import { RouterLink } from '@angular/router';

/** The page for an address that leads nowhere. */
@Component({
  selector: 'vc-not-here',
  host: { role: 'main', tabindex: '-1' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink],
  template: `
    <div class="page">
      <div class="empty">
        <h1>Nothing at this address</h1>
        <p>It may have been removed, or the address has a slip in it.</p>
        <a routerLink="/season">Back to the season</a>
      </div>
    </div>
  `,
})
export class NotHere {}
