import { type Handlers, studioOf } from '../http/mount.js';
import { forecasts } from './service.js';

/** How the season is likely to go. */
export const forecastHandlers: Handlers<'readForecasts'> = {
  async readForecasts(deps, request, response) {
    response.json(await forecasts(studioOf(deps, request), deps.now()));
  },
};
