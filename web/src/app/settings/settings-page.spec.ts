import { signal } from '@angular/core';
import { of, throwError, type Observable } from 'rxjs';
import type { CalendarLinkInput, CalendarLinkView, Settings, SettingsView } from '@vivid-cue/contract';
import { SessionStore } from '../data/session-store';
import { StudioApi } from '../data/studio-api';
import { refusal, show, type Shown } from '../testing/shown';
import { SettingsPage } from './settings-page';

const settings = (change: Partial<SettingsView> = {}): SettingsView => ({
  studioName: 'Tern Island Studio',
  zone: 'Atlantic/Reykjavik',
  vocabulary: 'us',
  rungRule: 'three-in-a-row',
  tempoPolicy: 'keep',
  climbSchool: 'steady',
  slipRule: 'two-down',
  dayMinutes: 40,
  dayCap: 60,
  takeDays: 60,
  restDays: [0],
  version: 4,
  ...change,
});

describe('SettingsPage', () => {
  let page: Shown<SettingsPage>;
  let sent: (readonly [version: number, wish: Settings])[];
  let made: CalendarLinkInput[];
  let links: CalendarLinkView[];
  let refreshed: number;
  let fails: unknown;

  beforeEach(async () => {
    [sent, made, links, refreshed, fails] = [[], [], [], 0, null];
    const answer = <T>(value: T): Observable<T> => (fails ? throwError(() => fails) : of(value));
    const api = {
      book: () => of({ looks: [], rules: [], silenced: [], version: 1 }),
      settings: () => of(settings()),
      season: () => of({ rows: [{ student: { id: 'ilse', name: 'Ilse', instrument: 'oboe' } }] }),
      calendarLinks: () => of(links),
      changeSettings: (version: number, wish: Settings) => {
        sent.push([version, wish]);
        return answer({ ...wish, version: version + 1 });
      },
      addCalendarLink: (input: CalendarLinkInput) => {
        made.push(input);
        links = [
          {
            id: input.id,
            studentId: null,
            studentName: null,
            createdAt: '2026-11-28T10:00:00.000Z',
            path: null,
          },
        ] as unknown as CalendarLinkView[];
        return answer({ ...links[0], path: '/calendar/abc.ics' });
      },
      revokeCalendarLink: (linkId: string) => {
        links = links.filter(({ id }) => id !== linkId);
        return answer(undefined);
      },
    };
    const session = {
      vocabulary: signal('us'),
      zone: signal('UTC'),
      refresh: () => {
        refreshed += 1;
        return of(null);
      },
    };
    page = await show(SettingsPage, {}, [
      { provide: StudioApi, useValue: api },
      { provide: SessionStore, useValue: session },
    ]);
  });

  it('saves what was changed and lets the whole page speak by it at once', async () => {
    expect(page.fixture.componentInstance.hasEdits()).toBeFalse();
    await page.type('#studio-name', '  Skerry Studio ');
    expect(page.fixture.componentInstance.hasEdits()).toBeTrue();
    await page.press('Save the settings');
    expect(sent).toEqual([
      [
        4,
        {
          studioName: 'Skerry Studio',
          zone: 'Atlantic/Reykjavik',
          vocabulary: 'us',
          rungRule: 'three-in-a-row',
          tempoPolicy: 'keep',
          climbSchool: 'steady',
          slipRule: 'two-down',
          dayMinutes: 40,
          dayCap: 60,
          takeDays: 60,
          restDays: [0],
        },
      ],
    ]);
    expect([page.fixture.componentInstance.hasEdits(), refreshed]).toEqual([false, 1]);
  });

  it('keeps what was typed where it is refused', async () => {
    fails = refusal(422, 'The studio’s name is missing.');
    await page.type('#studio-name', '');
    await page.press('Save the settings');
    expect(page.text).toContain('The studio’s name is missing.');
    expect(page.fixture.componentInstance.hasEdits()).toBeTrue();
  });

  it('shows what stands where somebody else saved first, so that the next try can succeed', async () => {
    await page.type('#studio-name', 'Mine');
    fails = refusal(409, 'Somebody else changed the settings.', {
      code: 'version-stale',
      current: settings({ studioName: 'Theirs', version: 7 }),
    });
    await page.press('Save the settings');
    expect(page.find<HTMLInputElement>('#studio-name').value).toBe('Theirs');
    fails = null;
    await page.press('Save the settings');
    expect(sent.map(([version]) => version)).toEqual([4, 7]);
  });

  it('shows a private address once, lists that it is out, and revokes it', async () => {
    expect(page.text).toContain('No address is out.');
    await page.press('Make an address');
    expect(page.find('code').textContent).toBe(`${location.origin}/calendar/abc.ics`);
    expect(made[0]?.studentId).toBeNull();
    expect(page.text).toContain('since 28 November 2026');
    await page.press('Revoke the address of the whole studio');
    expect(page.text).toContain('No address is out.');
  });
});
