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
    return next(request).pipe(catchError((error: unknown) => leaveWhenSignedOut(error, router)));
  const withToken = (): HttpRequest<unknown> =>
    request.clone({ setHeaders: { 'X-CSRF-Token': session.csrfToken() } });
  return next(withToken()).pipe(
    catchError((error: unknown) => {
      const isStale = error instanceof HttpErrorResponse && error.status === 403;
      return isStale ? session.refresh().pipe(switchMap(() => next(withToken()))) : throwError(() => error);
    }),
    catchError((error: unknown) => leaveWhenSignedOut(error, router)),
  );
};

function leaveWhenSignedOut(error: unknown, router: Router): ReturnType<typeof throwError> {
  const isSignedOut = error instanceof HttpErrorResponse && error.status === 401;
  if (isSignedOut && !router.url.startsWith('/sign-in'))
    void router.navigate(['/sign-in'], { queryParams: { back: router.url } });
  return throwError(() => error);
}
