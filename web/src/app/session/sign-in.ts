import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  signal,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { Router } from '@angular/router';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { v7 as newId } from 'uuid';
import type { Observable } from 'rxjs';
import { issueOf, troubleOf, type Trouble } from '../data/problem';
import { SessionStore } from '../data/session-store';
import { ProblemNote } from '../ui/problem-note';

/** Sign in, or open a studio. */
@Component({
  selector: 'vc-sign-in',
  host: { role: 'main', tabindex: '-1' },
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, InputText, ProblemNote, ReactiveFormsModule],
  templateUrl: './sign-in.html',
  styleUrl: './sign-in.css',
})
export class SignInPage {
  private readonly router = inject(Router);
  private readonly session = inject(SessionStore);
  private readonly destroyRef = inject(DestroyRef);
  private readonly ids = { id: newId(), studioId: newId() };

  /** Where to go afterwards. */
  readonly back = input<string>();

  protected readonly demo = this.session.demo;
  protected readonly isNew = signal(false);
  protected readonly isBusy = signal(false);
  protected readonly trouble = signal<Trouble | null>(null);
  protected readonly message = computed(() => this.trouble()?.message ?? null);
  protected readonly form = inject(FormBuilder).nonNullable.group({
    email: ['', [Validators.required, Validators.email]],
    password: ['', Validators.required],
    name: [''],
    studioName: [''],
  });
  protected readonly wasSent = signal(false);

  protected issue(field: string): string {
    return issueOf(this.trouble(), field);
  }

  protected turn(): void {
    this.isNew.update((isNew) => !isNew);
    this.trouble.set(null);
    this.wasSent.set(false);
  }

  protected useDemo(): void {
    const demo = this.demo();
    if (!demo) return;
    this.form.patchValue(demo);
    this.submit();
  }

  /** Whether the studio was removed and can be brought back with what was typed. */
  protected readonly isRemoved = computed(() => this.trouble()?.code === 'studio-removed');

  protected restore(): void {
    const { email, password } = this.form.getRawValue();
    this.enter(this.session.restoreStudio({ email, password }));
  }

  protected submit(): void {
    this.wasSent.set(true);
    const { email, password, name, studioName } = this.form.getRawValue();
    if (this.form.invalid || this.isBusy()) return;
    const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
    const enter: Observable<unknown> = this.isNew()
      ? this.session.openStudio({ ...this.ids, email, password, name, studioName, zone })
      : this.session.signIn({ email, password });
    this.enter(enter);
  }

  private enter(call: Observable<unknown>): void {
    if (this.isBusy()) return;
    this.isBusy.set(true);
    call.pipe(takeUntilDestroyed(this.destroyRef)).subscribe({
      next: () => void this.router.navigateByUrl(this.safeBack()),
      error: (error: unknown) => {
        this.trouble.set(troubleOf(error));
        this.isBusy.set(false);
      },
    });
  }

  private safeBack(): string {
    const back = this.back() ?? '';
    return /^\/(?!\/|sign-in)/u.test(back) ? back : '/season';
  }
}
