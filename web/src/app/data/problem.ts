import { HttpErrorResponse } from '@angular/common/http';
import type { FieldIssue, ProblemDetails } from '@vivid-cue/contract';

/**
 * What a failed request says to a person.
 * Shape:  `isOffline` when the server was not reached; `issues` name fields
 */
export interface Trouble {
  readonly message: string;
  readonly code: string;
  readonly status: number;
  readonly isOffline: boolean;
  readonly issues: readonly FieldIssue[];
  readonly current: unknown;
}

/** The sentence for a server that does not answer. */
export const OFFLINE_SENTENCE =
  'The server does not answer. What you entered is still here; try again when the connection is back.';

/**
 * Turns whatever a request threw into a sentence.
 * Shape:  never empty
 */
export function troubleOf(error: unknown): Trouble {
  const blank = { code: 'fault', status: 0, isOffline: false, issues: [], current: null };
  if (!(error instanceof HttpErrorResponse))
    return { ...blank, message: 'Something went wrong on this page; reload it and try again.' };
  const details = readDetails(error.error);
  if (error.status === 0 || error.status >= 502)
    return { ...blank, code: 'offline', isOffline: true, message: details?.detail ?? OFFLINE_SENTENCE };
  return {
    code: details?.code ?? 'fault',
    status: error.status,
    isOffline: false,
    message: details?.detail ?? 'The server could not do that; try again in a moment.',
    issues: details?.issues ?? [],
    current: details?.current ?? null,
  };
}

function readDetails(body: unknown): ProblemDetails | null {
  const value: unknown = typeof body === 'string' ? safeParse(body) : body;
  return value !== null && typeof value === 'object' && 'detail' in value ? (value as ProblemDetails) : null;
}

function safeParse(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

/** The issue of one field, or "". */
export function issueOf(trouble: Trouble | null, where: string): string {
  return trouble?.issues.find((issue) => issue.where === where)?.message ?? '';
}
