import { join } from 'node:path';
import compression from 'compression';
import express, { json, type Express } from 'express';
import servePressed from 'express-static-gzip';
import session from 'express-session';
import helmet from 'helmet';
import type { Knex } from 'knex';
import type { Logger } from 'pino';
import type { RouteName } from '@vivid-cue/contract';
import type { Config } from './config.js';
import { noSuchRoute, problemAnswers } from './http/error-middleware.js';
import { mountRoutes, type Deps, type Handlers } from './http/mount.js';
import { isNearby } from './http/address.js';
import { Problem } from './http/problem.js';
import { roomGuard } from './http/room-guard.js';
import { csrfGuard } from './http/session-guard.js';
import { DatabaseSessions, SESSION_MS } from './http/session-store.js';
import { calendarHandlers } from './calendar/routes.js';
import { deskGuard } from './desk/guard.js';
import { deskHandlers, linkHandlers } from './desk/routes.js';
import { cueHandlers } from './cues/routes.js';
import { findingHandlers } from './findings/routes.js';
import { forecastHandlers } from './forecasts/routes.js';
import { listenerGuard, listeningHandlers } from './mocks/listening-routes.js';
import { mockHandlers } from './mocks/routes.js';
import { pageHandlers } from './pages/routes.js';
import { passageHandlers } from './passages/routes.js';
import { programHandlers } from './programs/routes.js';
import { scoreHandlers } from './scores/routes.js';
import { recordHandlers } from './record/routes.js';
import { seasonHandlers } from './season/routes.js';
import { sessionHandlers } from './sessions/routes.js';
import { settingsHandlers } from './studio/routes.js';
import { sheetHandlers } from './sheets/routes.js';
import { studentHandlers } from './students/routes.js';
import { unitHandlers } from './units/routes.js';
import { takeHandlers } from './takes/routes.js';
import { deskTakeHandlers } from './desk/takes.js';

/** What the application is built from. */
export interface AppParts {
  readonly db: Knex;
  readonly config: Config;
  readonly logger: Logger;
  readonly now: () => number;
}

/** What every route does. */
const HANDLERS: Handlers<RouteName> = {
  ...sessionHandlers,
  ...seasonHandlers,
  ...forecastHandlers,
  ...studentHandlers,
  ...recordHandlers,
  ...sheetHandlers,
  ...programHandlers,
  ...scoreHandlers,
  ...pageHandlers,
  ...passageHandlers,
  ...findingHandlers,
  ...cueHandlers,
  ...calendarHandlers,
  ...settingsHandlers,
  ...linkHandlers,
  ...deskHandlers,
  ...takeHandlers,
  ...deskTakeHandlers,
  ...mockHandlers,
  ...listeningHandlers,
  ...unitHandlers,
};

/** The database answers whether it is there within so long. */
const HEALTH_MS = 2000;

/**
 * The whole server as an Express application, not yet listening.
 * Source: docs/architecture.md
 */
export function createApp({ db, config, logger, now }: AppParts): Express {
  const app = express();
  const deps: Deps = {
    db,
    config,
    now,
    deskGuard: deskGuard({ db, now }),
    listenerGuard: listenerGuard({ db, now }),
  };
  app.disable('x-powered-by');
  // What a proxy says is believed of so many, and only of those that stand nearby: nobody outside can say it too.
  app.set('trust proxy', (address: string, hop: number) => hop < config.proxyHops && isNearby(address));
  app.use(securityHeaders(config));
  app.use(compression());
  app.get('/health', async (_request, response) => {
    await db.raw('SELECT 1').timeout(HEALTH_MS, { cancel: false });
    response.set('Cache-Control', 'no-store').json({ ok: true });
  });
  app.use('/api', (_request, response, next) => {
    response.set('Cache-Control', 'no-store');
    next();
  });
  if (config.isBehindTls) app.use('/api', refuseSilentProxy);
  app.use('/api', sessions({ db, config, now }));
  app.use('/api', csrfGuard(config.sessionSecret));
  app.use('/api', roomGuard(db));
  app.use('/api', json({ limit: '1mb' }));
  mountRoutes(app, deps, HANDLERS);
  app.use('/api', noSuchRoute);
  if (config.webFolder !== null) serveWeb(app, config.webFolder);
  app.use(noSuchRoute);
  app.use(problemAnswers(logger));
  return app;
}

function securityHeaders(config: Config): express.RequestHandler {
  return helmet({
    strictTransportSecurity: config.isBehindTls,
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        // The engraving engine is WebAssembly; nothing else is compiled at run time, and no script stands in a page.
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        workerSrc: ["'self'"],
        // The component library and the engraved pictures carry style elements.
        styleSrc: ["'self'", "'unsafe-inline'"],
        // A page that was just brought is shown before it is sent.
        imgSrc: ["'self'", 'data:', 'blob:'],
        // The engraving engine carries its text glyphs inside the picture.
        // A take is listened to before it is sent.
        mediaSrc: ["'self'", 'blob:'],
        fontSrc: ["'self'", 'data:'],
        connectSrc: ["'self'"],
        objectSrc: ["'none'"],
        baseUri: ["'self'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
  });
}

/** A cookie for TLS alone would silently never be set where nobody says that a request came over it. */
const refuseSilentProxy: express.RequestHandler = (request, _response, next) => {
  if (!request.secure)
    throw new Problem(
      'proxy-silent',
      'This server is set up behind TLS, but the request does not say that it came over TLS. Let the proxy set X-Forwarded-Proto and set TRUST_PROXY to the number of proxies, or BEHIND_TLS=no.',
    );
  next();
};

function sessions({ db, config, now }: Omit<AppParts, 'logger'>): express.RequestHandler {
  return session({
    name: 'vivid-cue',
    secret: config.sessionSecret,
    store: new DatabaseSessions(db, now),
    resave: false,
    saveUninitialized: false,
    rolling: false,
    cookie: { httpOnly: true, sameSite: 'lax', secure: config.isBehindTls, maxAge: SESSION_MS },
  });
}

/**
 * The built web application: hashed files are kept by the browser, the page itself is asked for each time. Files go out
 * as the build pressed them.
 */
function serveWeb(app: Express, folder: string): void {
  app.use(
    servePressed(folder, {
      index: false,
      enableBrotli: true,
      orderPreference: ['br'],
      serveStatic: {
        dotfiles: 'allow',
        setHeaders: (response, path) => {
          const isHashed = /-[A-Z0-9]{8}\.\w+(?:\.br)?$/u.test(path);
          response.setHeader('Cache-Control', isHashed ? 'public, max-age=31536000, immutable' : 'no-cache');
        },
      },
    }),
  );
  app.get('/{*path}', (request, response, next) => {
    if (/\.\w+$/u.test(request.path)) {
      next();
      return;
    }
    response.set('Cache-Control', 'no-cache').sendFile(join(folder, 'index.html'), { dotfiles: 'allow' });
  });
}
