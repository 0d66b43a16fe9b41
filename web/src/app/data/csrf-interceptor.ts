import { HttpErrorResponse, type HttpInterceptorFn, type HttpRequest } from '@angular/common/http';
import { inject } from '@angular/core';
import { Router } from '@angular/router';
import { catchError, switchMap, throwError } from 'rxjs';
import { SessionStore } from './session-store';

/**
 * Adds the session's token to changing requests; a token that is out of date is fetched anew once; a lost session leads
 * to the sign-in page.
 */
export const csrfInterceptor: HttpInterceptorFn = (request, next) => {
  const session = inject(SessionStore);
  const router = inject(Router);
  if (request.method === 'GET')
    return next(request).pipe(catchError((error: unknown) => leaveWhenSignedOut(error, request, router)));
  const withToken = (): HttpRequest<unknown> =>
    request.clone({ setHeaders: { 'X-CSRF-Token': session.csrfToken() } });
  return next(withToken()).pipe(
    catchError((error: unknown) => {
      const isStale = error instanceof HttpErrorResponse && error.status === 403;
      return isStale ? session.refresh().pipe(switchMap(() => next(withToken()))) : throwError(() => error);
    }),
    catchError((error: unknown) => leaveWhenSignedOut(error, request, router)),
  );
};

function leaveWhenSignedOut(
  error: unknown,
  request: HttpRequest<unknown>,
  router: Router,
): ReturnType<typeof throwError> {
  const isSignedOut = error instanceof HttpErrorResponse && error.status === 401;
  // A desk enters again by itself, and says so where it cannot.
  const isElsewhere = /^\/(?:sign-in|desk)/u.test(router.url) || request.url.startsWith('/api/desk');
  if (isSignedOut && !isElsewhere) void router.navigate(['/sign-in'], { queryParams: { back: router.url } });
  return throwError(() => error);
}
