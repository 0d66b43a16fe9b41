import { type Handlers, studioOf } from '../http/mount.js';
import { addressOf } from '../http/address.js';
import { notFound, Problem } from '../http/problem.js';
import { countTry, quota } from '../http/tries.js';
import { bodyOf, idFrom } from '../http/validate.js';
import { addCalendarLink, calendarOf, listCalendarLinks, revokeCalendarLink } from './calendar.js';
import { timeline } from './timeline.js';

/** Addresses that were guessed, in a quarter of an hour. */
const GUESSES = quota('calendar', 120, 15 * 60_000);

/** The line of time, and calendars to subscribe. */
export const calendarHandlers: Handlers<
  'readTimeline' | 'listCalendarLinks' | 'createCalendarLink' | 'revokeCalendarLink' | 'readCalendar'
> = {
  async readTimeline(deps, request, response) {
    response.json(await timeline(studioOf(deps, request), deps.now(), null));
  },
  async listCalendarLinks(deps, request, response) {
    response.json(await listCalendarLinks(studioOf(deps, request)));
  },
  async createCalendarLink(deps, request, response) {
    const input = bodyOf(request, 'createCalendarLink');
    response.status(201).json(
      await addCalendarLink(studioOf(deps, request), input, {
        secret: deps.config.sessionSecret,
        nowMs: deps.now(),
      }),
    );
  },
  async revokeCalendarLink(deps, request, response) {
    if (!(await revokeCalendarLink(studioOf(deps, request), idFrom(request, 'linkId', 'calendar'))))
      throw notFound('calendar');
    response.status(204).end();
  },
  async readCalendar(deps, request, response) {
    const token = String(request.params['token'] ?? '').replace(/\.ics$/u, '');
    const text = await calendarOf(deps.db, token, deps.now()).catch(async (error: unknown) => {
      // Only tries that find nothing are counted: who has an address is never kept waiting by who guesses.
      if (error instanceof Problem && error.code === 'not-found')
        await countTry(deps.db, { limit: GUESSES, whose: addressOf(request) }, deps.now());
      throw error;
    });
    response
      .set('Content-Type', 'text/calendar; charset=utf-8')
      .set('Content-Disposition', 'inline; filename="vivid-cue.ics"')
      .send(text);
  },
};
