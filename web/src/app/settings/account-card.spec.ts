import { signal } from '@angular/core';
import { of, throwError, type Observable } from 'rxjs';
import type { PasswordChange } from '@vivid-cue/contract';
import { SessionStore } from '../data/session-store';
import { refusal, show, type Shown } from '../testing/shown';
import { AccountCard } from './account-card';

describe('AccountCard', () => {
  let card: Shown<AccountCard>;
  let sent: (PasswordChange | string)[];
  let fails: unknown;

  beforeEach(async () => {
    [sent, fails] = [[], null];
    const answer = (given: PasswordChange | string): Observable<unknown> => {
      sent.push(given);
      return fails ? throwError(() => fails) : of(null);
    };
    const session = {
      vocabulary: signal('us'),
      zone: signal('UTC'),
      changePassword: answer,
      removeStudio: answer,
    };
    card = await show(AccountCard, {}, [{ provide: SessionStore, useValue: session }]);
  });

  it('changes the password and forgets what was typed', async () => {
    expect(card.named('Change the password').hasAttribute('disabled')).toBeTrue();
    await card.type('#password-current', 'long enough to guess');
    await card.type('#password-next', 'three wet herons waiting');
    await card.press('Change the password');
    expect(sent).toEqual([{ current: 'long enough to guess', next: 'three wet herons waiting' }]);
    expect(card.find<HTMLInputElement>('#password-next').value).toBe('');
  });

  it('says beside the field which of the two is refused', async () => {
    await card.type('#password-current', 'not this one');
    await card.type('#password-next', 'three wet herons waiting');
    const message = 'This is not your password. Check it and try again.';
    fails = refusal(422, message, { issues: [{ where: 'current', message }] });
    await card.press('Change the password');
    expect(card.find('.wrong').textContent).toContain('This is not your password.');
    expect(card.text.split(message).length).toBe(2);
    expect(card.find<HTMLInputElement>('#password-next').value).toBe('three wet herons waiting');
  });

  it('removes the studio only with the password, says what that means, and leads to the sign-in page', async () => {
    await card.press('Remove the studio');
    expect(card.text).toContain('For 30 days signing in brings all of it back');
    const remove = [...document.querySelectorAll<HTMLButtonElement>('details button')][0];
    expect(remove?.disabled).toBeTrue();
    await card.type('#password-removal', 'long enough to guess');
    remove?.click();
    await card.settled();
    expect(sent).toEqual(['long enough to guess']);
    expect(card.address).toBe('/sign-in');
  });
});
