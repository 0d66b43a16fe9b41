import { HttpErrorResponse } from '@angular/common/http';
import { issueOf, OFFLINE_SENTENCE, troubleOf } from './problem';

const response = (status: number, error: unknown): HttpErrorResponse =>
  new HttpErrorResponse({ status, error });

describe('what a failed request says', () => {
  const problem = {
    type: 'about:blank',
    title: 'Unprocessable',
    status: 422,
    code: 'invalid',
    detail: 'Two fields need another look.',
    issues: [{ where: 'parts[0].label', code: 'missing', message: 'The part’s name is missing.' }],
    current: { version: 3 },
  };

  // RFC 9457 names type, title, status, detail; a body of another type of response is no problem body.
  it('is the sentence of the problem body, with what is wrong in each field', () => {
    for (const body of [problem, JSON.stringify(problem)]) {
      const trouble = troubleOf(response(422, body));
      expect(trouble.message).toBe('Two fields need another look.');
      expect([trouble.code, trouble.status, trouble.isOffline]).toEqual(['invalid', 422, false]);
      expect(issueOf(trouble, 'parts[0].label')).toBe('The part’s name is missing.');
      expect(issueOf(trouble, 'year')).toBe('');
      expect(trouble.current).toEqual({ version: 3 });
    }
  });

  it('is that the server does not answer, where it was not reached or only its front door was', () => {
    for (const status of [0, 502, 503, 504]) {
      const trouble = troubleOf(response(status, '<html>Bad gateway</html>'));
      expect([trouble.message, trouble.isOffline]).toEqual([OFFLINE_SENTENCE, true]);
    }
  });

  it('is the server’s own sentence where it says itself that it cannot now', () => {
    const busy = troubleOf(
      response(503, { ...problem, status: 503, detail: 'The database does not answer.' }),
    );
    expect([busy.message, busy.isOffline]).toEqual(['The database does not answer.', true]);
  });

  it('is never empty, whatever came', () => {
    for (const thrown of [
      response(500, null),
      response(404, '<p>'),
      response(400, 7),
      new Error('x'),
      undefined,
      'text',
    ])
      expect(troubleOf(thrown).message.length).toBeGreaterThan(20);
    expect(issueOf(null, 'year')).toBe('');
  });
});
