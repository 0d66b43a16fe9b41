import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  viewChild,
} from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { Button, ButtonDirective } from 'primeng/button';
import { PlaceStore } from '../data/place-store';
import { SessionStore } from '../data/session-store';
import { TakeDesk } from '../take/take-desk';
import { TakesList } from '../take/takes-list';
import { ProblemNote } from '../ui/problem-note';
import { isTyping } from '../ui/typing';
import { STUDIO_TAKES } from './studio-takes';

/** All takes of one student. */
@Component({
  selector: 'vc-takes-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, ButtonDirective, ProblemNote, RouterLink, TakesList],
  providers: STUDIO_TAKES,
  template: `
    <div class="page">
      <vc-problem-note [message]="desk.failure()" />
      @if (desk.view(); as view) {
        <div class="page-head">
          <div>
            <h1>{{ view.student.name }}, takes</h1>
            <p class="soft">{{ view.student.instrument }} · {{ countText() }}</p>
          </div>
          <div class="buttons">
            <a pButton severity="secondary" [outlined]="true" [routerLink]="['/students', studentId()]"
              >Student</a
            >
            <p-button (onClick)="record()">Record <kbd aria-hidden="true">R</kbd></p-button>
          </div>
        </div>
      }
      <vc-takes-list [partId]="part()" (open)="open($event)" (beside)="lay($event)" />
    </div>
  `,
  host: { '(document:keydown)': 'onKey($event)' },
})
export class TakesPage {
  protected readonly desk = inject(TakeDesk);
  private readonly router = inject(Router);
  private readonly place = inject(PlaceStore);
  private readonly session = inject(SessionStore);

  readonly studentId = input.required<string>();
  /** The part that somebody came from, to be recorded first. */
  readonly part = input<string | null>(null);

  private readonly list = viewChild.required(TakesList);
  protected readonly countText = computed(() => {
    const count = this.desk.view()?.takes.length ?? 0;
    return count === 0 ? 'no take yet' : count === 1 ? 'one take' : `${count} takes`;
  });

  constructor() {
    effect(() => {
      const studentId = this.studentId();
      this.place.studentId.set(studentId);
      this.desk.open({ door: 'studio', ownerId: this.session.instructor()?.studioId ?? '' }, studentId);
    });
  }

  protected record(): void {
    this.list().isRecording.set(true);
  }

  protected open(takeId: string): void {
    void this.router.navigate(['/takes', takeId]);
  }

  protected lay([before, after]: readonly [string, string]): void {
    void this.router.navigate(['/takes', before, 'beside', after]);
  }

  protected onKey(event: KeyboardEvent): void {
    if (event.key !== 'r' || isTyping(event) || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    this.record();
  }
}
