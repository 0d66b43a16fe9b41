import { signal } from '@angular/core';
import { of, throwError, type Observable } from 'rxjs';
import type { AccountInput, SignIn } from '@vivid-cue/contract';
import { SessionStore } from '../data/session-store';
import { refusal, show, type Shown } from '../testing/shown';
import { SignInPage } from './sign-in';

describe('SignInPage', () => {
  let page: Shown<SignInPage>;
  let sent: (SignIn | AccountInput)[];
  let fails: unknown;

  const open = async (back: string): Promise<void> => {
    [sent, fails] = [[], null];
    const enter = (input: SignIn | AccountInput): Observable<unknown> => {
      sent.push(input);
      return fails ? throwError(() => fails) : of({});
    };
    const session = {
      demo: signal(null),
      vocabulary: signal('us'),
      signIn: enter,
      openStudio: enter,
      restoreStudio: enter,
    };
    page = await show(SignInPage, { back }, [{ provide: SessionStore, useValue: session }]);
  };
  const fill = async (): Promise<void> => {
    await page.type('#email', 'ann@studio.example');
    await page.type('#password', 'four plain words here');
  };

  it('says beside the field what is missing, and sends nothing', async () => {
    await open('');
    await page.type('#email', 'ann');
    await page.press('Sign in');
    expect(page.text).toContain('Write your e-mail address');
    expect(page.text).toContain('Write your password.');
    expect(sent).toEqual([]);
  });

  it('leads back to where one came from', async () => {
    await open('/students/ilse');
    await fill();
    await page.press('Sign in');
    expect(page.address).toBe('/students/ilse');
  });

  // An address of another site, in the forms that a browser takes for one.
  for (const back of ['//elsewhere.example', 'https://elsewhere.example', '/sign-in?back=/sign-in', ''])
    it(`goes to the season instead of to “${back}”`, async () => {
      await open(back);
      await fill();
      await page.press('Sign in');
      expect(page.address).toBe('/season');
    });

  it('keeps what was typed where it is refused, and asks again with the same', async () => {
    await open('');
    await fill();
    fails = refusal(401, 'E-mail and password do not go together.');
    await page.press('Sign in');
    expect(page.text).toContain('E-mail and password do not go together.');
    expect(page.find<HTMLInputElement>('#email').value).toBe('ann@studio.example');
    fails = null;
    await page.press('Sign in');
    expect(sent.length).toBe(2);
  });

  it('opens a studio; sent twice it is one, and each refused field says why', async () => {
    await open('');
    await page.press('New here: open a studio');
    await fill();
    await page.type('#name', 'Ann');
    fails = refusal(422, 'Some fields need another look.', {
      issues: [{ where: 'studioName', code: 'missing', message: 'The studio’s name is missing.' }],
    });
    await page.press('Open the studio');
    expect(page.text).toContain('The studio’s name is missing.');
    fails = null;
    await page.type('#studio', 'Skerry Studio');
    await page.press('Open the studio');
    const [first, second] = sent as AccountInput[];
    expect([second?.id, second?.studioId]).toEqual([first?.id, first?.studioId]);
    expect(second?.studioName).toBe('Skerry Studio');
  });

  it('brings a removed studio back with what was typed', async () => {
    await open('');
    await fill();
    fails = refusal(409, 'This studio was removed.', { code: 'studio-removed' });
    await page.press('Sign in');
    expect(page.text).toContain('This studio was removed.');
    fails = null;
    await page.press('Bring the studio back');
    expect(page.address).toBe('/season');
    expect(sent[1]).toEqual(sent[0]);
  });
});
