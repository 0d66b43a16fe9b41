import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { Button, ButtonDirective } from 'primeng/button';
import type { UnitsView } from '@vivid-cue/contract';
import { PlaceStore } from '../data/place-store';
import { SessionStore } from '../data/session-store';
import { UnitApi } from '../data/unit-api';
import { TakeDesk } from '../take/take-desk';
import { TakesList } from '../take/takes-list';
import { ToneMeasure } from '../take/tone-measure';
import { ProblemNote } from '../ui/problem-note';
import { isTyping } from '../ui/typing';
import { UnitLines } from '../ui/unit-lines';
import { STUDIO_TAKES } from './studio-takes';

/** All takes of one student. */
@Component({
  selector: 'vc-takes-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, ButtonDirective, ProblemNote, RouterLink, TakesList, ToneMeasure, UnitLines],
  providers: STUDIO_TAKES,
  styles: `
    .units {
      max-width: 760px;
      margin-top: 24px;
    }
  `,
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
      <section class="units" aria-labelledby="tone-title">
        <h2 id="tone-title">A long tone</h2>
        <p class="soft">
          Held as long as it is steady: its length, level and pitch are measured, nothing is kept.
        </p>
        <vc-tone-measure />
      </section>
      @if (units()?.lines?.length) {
        <section class="units" aria-labelledby="units-title">
          <h2 id="units-title">Sight-reading and ear</h2>
          <vc-unit-lines [lines]="units()!.lines" />
        </section>
      }
    </div>
  `,
  host: { '(document:keydown)': 'onKey($event)' },
})
export class TakesPage {
  protected readonly desk = inject(TakeDesk);
  private readonly router = inject(Router);
  private readonly place = inject(PlaceStore);
  private readonly session = inject(SessionStore);
  private readonly unitApi = inject(UnitApi);

  readonly studentId = input.required<string>();
  /** The part that somebody came from, to be recorded first. */
  readonly part = input<string | null, string | undefined>(null, { transform: (part) => part ?? null });

  protected readonly units = signal<UnitsView | null>(null);
  private readonly list = viewChild.required(TakesList);
  protected readonly countText = computed(() => {
    const count = this.desk.view()?.takes.length ?? 0;
    return count === 0 ? 'no take yet' : count === 1 ? 'one take' : `${count} takes`;
  });

  constructor() {
    effect(() => {
      if (this.part() !== null) this.list().isRecording.set(true);
    });
    effect(() => {
      const studentId = this.studentId();
      this.place.studentId.set(studentId);
      this.desk.open({ door: 'studio', ownerId: this.session.instructor()?.studioId ?? '' }, studentId);
      this.unitApi.ofStudent(studentId).subscribe({
        next: (units) => this.units.set(units),
        error: () => undefined,
      });
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
