import { HttpErrorResponse, type HttpInterceptorFn } from '@angular/common/http';
import { inject } from '@angular/core';
import { catchError, throwError } from 'rxjs';
import { inVocabulary } from '@vivid-cue/core/music';
import type { ProblemDetails } from '@vivid-cue/contract';
import { SessionStore } from './session-store';

/** What the server refuses it says in the studio's words as well. */
export const wordsInterceptor: HttpInterceptorFn = (request, next) => {
  const session = inject(SessionStore);
  return next(request).pipe(
    catchError((error: unknown) =>
      throwError(() => (error instanceof HttpErrorResponse ? worded(error, session) : error)),
    ),
  );
};

function worded(error: HttpErrorResponse, session: SessionStore): HttpErrorResponse {
  const details = error.error as Partial<ProblemDetails> | null;
  if (typeof details?.detail !== 'string') return error;
  const say = (text: string): string => inVocabulary(text, session.vocabulary());
  const body = {
    ...details,
    detail: say(details.detail),
    issues: details.issues?.map(({ where, message }) => ({ where, message: say(message) })),
  };
  const { headers, status, statusText, url } = error;
  return new HttpErrorResponse({ error: body, headers, status, statusText, ...(url !== null && { url }) });
}
