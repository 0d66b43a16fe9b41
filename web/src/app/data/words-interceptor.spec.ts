import { HttpClient, provideHttpClient, withInterceptors } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideZonelessChangeDetection, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { troubleOf, type Trouble } from './problem';
import { SessionStore } from './session-store';
import { wordsInterceptor } from './words-interceptor';

describe('wordsInterceptor', () => {
  const vocabulary = signal<'us' | 'uk'>('uk');
  let http: HttpClient;
  let server: HttpTestingController;

  beforeEach(() => {
    vocabulary.set('uk');
    TestBed.configureTestingModule({
      providers: [
        provideZonelessChangeDetection(),
        provideHttpClient(withInterceptors([wordsInterceptor])),
        provideHttpClientTesting(),
        { provide: SessionStore, useValue: { vocabulary } },
      ],
    });
    [http, server] = [TestBed.inject(HttpClient), TestBed.inject(HttpTestingController)];
  });

  function refused(body: unknown): Trouble {
    let trouble: Trouble | null = null;
    http.post('/api/passages', {}).subscribe({ error: (error: unknown) => (trouble = troubleOf(error)) });
    server.expectOne('/api/passages').flush(body as object, { status: 422, statusText: 'Unprocessable' });
    if (!trouble) throw new Error('It was not refused.');
    return trouble;
  }

  const problem = {
    type: 'urn:vivid-cue:problem:span-refused',
    code: 'span-refused',
    detail: 'This piece has measures 1 to 32.',
    issues: [{ where: 'measures', message: 'A quarter note is missing in measure 3.' }],
    current: { name: 'Measures of grace' },
  };

  it('says refusals in the words of the studio, and leaves places and data alone', () => {
    const { message, issues, code, current } = refused(problem);
    expect(message).toBe('This piece has bars 1 to 32.');
    expect(issues).toEqual([{ where: 'measures', message: 'A crotchet is missing in bar 3.' }]);
    expect([code, current]).toEqual(['span-refused', { name: 'Measures of grace' }]);
  });

  it('changes nothing for a studio that says measure, nor what is no problem of ours', () => {
    vocabulary.set('us');
    expect(refused(problem).message).toBe('This piece has measures 1 to 32.');
    vocabulary.set('uk');
    expect(refused('<html>measures</html>').message).toContain('could not do that');
  });
});
