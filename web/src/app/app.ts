import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { NavigationEnd, Router, RouterOutlet } from '@angular/router';
import { distinctUntilChanged, filter, map, skip } from 'rxjs';
import { focusHeading } from './ui/focus-heading';

/** The application: whichever page the address names; the instructor's pages stand in a frame of their own. */
@Component({
  selector: 'vc-app',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterOutlet],
  template: '<router-outlet />',
})
export class App {
  constructor() {
    inject(Router)
      .events.pipe(
        filter((event) => event instanceof NavigationEnd),
        map(({ urlAfterRedirects }) => urlAfterRedirects.replace(/[?#].*$/u, '')),
        distinctUntilChanged(),
        skip(1),
        takeUntilDestroyed(),
      )
      .subscribe(() => focusHeading(document.querySelector('main, [role="main"]')));
  }
}
