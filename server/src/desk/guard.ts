import type { RequestHandler } from 'express';
import type { Knex } from 'knex';
import { Problem } from '../http/problem.js';
import { deskCallerOf } from '../http/session-guard.js';
import { refuseGoneLink } from './links.js';

/**
 * Lets in who came by a personal link that is still good; a session whose link was taken back ends.
 * Errors: Problem signed-out, link-gone
 */
export function deskGuard({ db, now }: { readonly db: Knex; readonly now: () => number }): RequestHandler {
  return async (request, _response, next) => {
    try {
      await refuseGoneLink(db, deskCallerOf(request), now());
    } catch (error) {
      if (error instanceof Problem && error.code === 'link-gone') delete request.session.desk;
      throw error;
    }
    next();
  };
}
