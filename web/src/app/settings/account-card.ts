import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router } from '@angular/router';
import { MessageService } from 'primeng/api';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { issueOf, troubleOf, type Trouble } from '../data/problem';
import { SessionStore } from '../data/session-store';
import { ProblemNote } from '../ui/problem-note';

/** The instructor's own account: its password, and the studio's end. */
@Component({
  selector: 'vc-account-card',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, FormsModule, InputText, ProblemNote],
  template: `
    <section class="card" aria-labelledby="account-title">
      <h2 id="account-title">Your account</h2>
      <form (ngSubmit)="changePassword()" aria-label="Change the password">
        <div class="grid">
          <div class="field">
            <label for="password-current">Password now</label>
            <input
              pInputText
              id="password-current"
              name="current"
              type="password"
              autocomplete="current-password"
              maxlength="256"
              [ngModel]="current()"
              (ngModelChange)="current.set($event)"
            />
            <span class="wrong">{{ issue('current') }}</span>
          </div>
          <div class="field">
            <label for="password-next">New password</label>
            <input
              pInputText
              id="password-next"
              name="next"
              type="password"
              autocomplete="new-password"
              maxlength="256"
              [ngModel]="next()"
              (ngModelChange)="next.set($event)"
            />
            <span class="hint"
              >At least 12 characters; a few words that do not belong together are easiest.</span
            >
            <span class="wrong">{{ issue('next') }}</span>
          </div>
        </div>
        <vc-problem-note [message]="message()" />
        <div class="buttons">
          <p-button
            label="Change the password"
            type="submit"
            severity="secondary"
            [outlined]="true"
            [disabled]="current() === '' || next() === ''"
            [loading]="isBusy()"
          />
        </div>
      </form>
      <details class="end">
        <summary>Remove the studio</summary>
        <form (ngSubmit)="remove()" aria-label="Remove the studio">
          <p>
            Everybody is signed out, and calendars stop. For 30 days signing in brings all of it back; then
            students, sheets, scores and reps are erased for good.
          </p>
          <div class="field">
            <label for="password-removal">Your password, to be sure</label>
            <input
              pInputText
              id="password-removal"
              name="removal"
              type="password"
              autocomplete="current-password"
              maxlength="256"
              [ngModel]="removal()"
              (ngModelChange)="removal.set($event)"
            />
            <span class="wrong">{{ refusal() }}</span>
          </div>
          <div class="buttons">
            <p-button
              label="Remove the studio"
              type="submit"
              severity="danger"
              [outlined]="true"
              [disabled]="removal() === ''"
              [loading]="isLeaving()"
            />
          </div>
        </form>
      </details>
    </section>
  `,
  styleUrls: ['./settings-page.css', './account-card.css'],
})
export class AccountCard {
  private readonly session = inject(SessionStore);
  private readonly router = inject(Router);
  private readonly messages = inject(MessageService);
  private readonly destroyRef = inject(DestroyRef);

  protected readonly current = signal('');
  protected readonly next = signal('');
  protected readonly removal = signal('');
  protected readonly isBusy = signal(false);
  protected readonly isLeaving = signal(false);
  protected readonly refusal = signal('');
  private readonly trouble = signal<Trouble | null>(null);
  /** What is wrong stands beside its field; here stands what belongs to none. */
  protected readonly message = computed(() => {
    const trouble = this.trouble();
    return trouble && trouble.issues.length === 0 ? trouble.message : null;
  });

  protected issue(field: string): string {
    return issueOf(this.trouble(), field);
  }

  protected changePassword(): void {
    if (this.isBusy()) return;
    this.isBusy.set(true);
    this.session
      .changePassword({ current: this.current(), next: this.next() })
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: () => {
          this.isBusy.set(false);
          this.trouble.set(null);
          this.current.set('');
          this.next.set('');
          this.messages.add({
            severity: 'success',
            summary: 'Password changed; everybody else is signed out',
            life: 5000,
          });
        },
        error: (error: unknown) => {
          this.isBusy.set(false);
          this.trouble.set(troubleOf(error));
        },
      });
  }

  protected remove(): void {
    if (this.isLeaving()) return;
    this.isLeaving.set(true);
    this.session
      .removeStudio(this.removal())
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: () => void this.router.navigateByUrl('/sign-in'),
        error: (error: unknown) => {
          this.isLeaving.set(false);
          this.refusal.set(troubleOf(error).message);
        },
      });
  }
}
