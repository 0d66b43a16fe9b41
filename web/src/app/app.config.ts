import { provideHttpClient, withInterceptors } from '@angular/common/http';
import type { ApplicationConfig } from '@angular/core';
import {
  provideAppInitializer,
  provideBrowserGlobalErrorListeners,
  provideZonelessChangeDetection,
} from '@angular/core';
import {
  provideRouter,
  withComponentInputBinding,
  withInMemoryScrolling,
  withPreloading,
} from '@angular/router';
import { ConfirmationService, MessageService } from 'primeng/api';
import { providePrimeNG } from 'primeng/config';
import { routes } from './app.routes';
import { csrfInterceptor } from './data/csrf-interceptor';
import { ScoreAhead } from './data/score-ahead';
import { wordsInterceptor } from './data/words-interceptor';
import { vividPreset } from './theme/preset';
import { pageFonts } from './ui/page-fonts';

/** How the application is put together. */
export const appConfig: ApplicationConfig = {
  providers: [
    provideBrowserGlobalErrorListeners(),
    provideZonelessChangeDetection(),
    provideAppInitializer(pageFonts),
    provideRouter(
      routes,
      withComponentInputBinding(),
      withInMemoryScrolling({ scrollPositionRestoration: 'enabled' }),
      withPreloading(ScoreAhead),
    ),
    provideHttpClient(withInterceptors([csrfInterceptor, wordsInterceptor])),
    providePrimeNG({ theme: { preset: vividPreset, options: { darkModeSelector: '.dim' } } }),
    ConfirmationService,
    MessageService,
  ],
};
