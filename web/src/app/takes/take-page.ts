import { ChangeDetectionStrategy, Component, effect, inject, input } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { firstValueFrom } from 'rxjs';
import { PlaceStore } from '../data/place-store';
import { SessionStore } from '../data/session-store';
import { TakeApi } from '../data/take-api';
import { BesideView } from '../take/beside-view';
import { TakeDesk } from '../take/take-desk';
import { TakeOne } from '../take/take-view';
import { STUDIO_TAKES } from './studio-takes';

/** One take, or two beside each other. */
@Component({
  selector: 'vc-take-page',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [BesideView, RouterLink, TakeOne],
  providers: STUDIO_TAKES,
  template: `
    <div class="page">
      @if (desk.view(); as view) {
        <p class="back">
          <a [routerLink]="['/students', view.student.id, 'takes']">All takes of {{ view.student.name }}</a>
        </p>
      }
      @if (otherId(); as other) {
        <vc-beside-view [beforeId]="takeId()" [afterId]="other" />
      } @else {
        <vc-take-view [takeId]="takeId()" (beside)="lay($event)" />
      }
    </div>
  `,
  styles: `
    .back {
      margin-bottom: 8px;
    }
  `,
})
export class TakePage {
  protected readonly desk = inject(TakeDesk);
  private readonly api = inject(TakeApi);
  private readonly router = inject(Router);
  private readonly place = inject(PlaceStore);
  private readonly session = inject(SessionStore);

  readonly takeId = input.required<string>();
  readonly otherId = input<string | undefined>();

  constructor() {
    effect(() => void this.find(this.takeId()));
  }

  /** Whose take it is: so that the work line leads back there and other takes can be chosen. */
  private async find(takeId: string): Promise<void> {
    const view = await firstValueFrom(this.api.studio.read(takeId)).catch(() => null);
    if (!view) return;
    this.place.studentId.set(view.student.id);
    this.desk.open({ door: 'studio', ownerId: this.session.instructor()?.studioId ?? '' }, view.student.id);
  }

  protected lay(other: string): void {
    const [before, after] = this.desk.inOrder(this.takeId(), other);
    void this.router.navigate(['/takes', before, 'beside', after]);
  }
}
