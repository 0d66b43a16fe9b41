import { inject } from '@angular/core';
import { Router, type CanActivateFn } from '@angular/router';
import { catchError, map, of } from 'rxjs';
import { SessionStore } from '../data/session-store';

/** Pages for the signed in; others are led to the sign-in page and back. */
export const signedIn: CanActivateFn = (_route, state) => {
  const router = inject(Router);
  return inject(SessionStore)
    .ensure()
    .pipe(
      map(
        ({ instructor }) =>
          instructor !== null || router.createUrlTree(['/sign-in'], { queryParams: { back: state.url } }),
      ),
      catchError(() => of(router.createUrlTree(['/sign-in'], { queryParams: { back: state.url } }))),
    );
};

/** The sign-in page is for the signed out. */
export const signedOut: CanActivateFn = () => {
  const router = inject(Router);
  return inject(SessionStore)
    .ensure()
    .pipe(
      map(({ instructor }) => instructor === null || router.createUrlTree(['/season'])),
      catchError(() => of(true)),
    );
};
