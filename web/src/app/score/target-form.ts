import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  signal,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { InputNumber } from 'primeng/inputnumber';
import { Select } from 'primeng/select';
import {
  beatUnitOf,
  checkBpm,
  beatBpm,
  meterFrom,
  tempoText,
  type BeatUnit,
  type Bpm,
} from '@vivid-cue/core/music';
import { ScoreApi } from '../data/score-api';
import { SessionStore } from '../data/session-store';
import { unitChoices } from '../ui/tempo-choice';
import { RoomStore } from './room/room-store';
import { StudioWords } from '../ui/studio-words';

/** Asks for the target tempo of a part whose sheet gives no number. */
@Component({
  selector: 'vc-target-form',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, FormsModule, InputNumber, Select, StudioWords],
  template: `
    <form (ngSubmit)="set()">
      <p>
        <strong>The sheet gives no tempo number{{ words() ? ' (' + words() + ')' : '' }}.</strong>
        Set the target this student works towards{{ ofScore() }}:
      </p>
      <p-select
        ariaLabel="Note value"
        name="unit"
        [options]="units()"
        optionLabel="label"
        optionValue="value"
        [ngModel]="unit()"
        (ngModelChange)="unit.set($event)"
      />
      <p-inputnumber
        ariaLabel="Beats a minute"
        name="bpm"
        [useGrouping]="false"
        [inputStyle]="{ width: '88px' }"
        [maxFractionDigits]="1"
        [ngModel]="bpm()"
        (ngModelChange)="bpm.set($event)"
      />
      <p-button label="Set the target" type="submit" />
      <span class="wrong" role="alert">{{ issue() | studioWords }}</span>
    </form>
  `,
  styles: `
    form {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 10px;
      margin-bottom: 12px;
      padding: 10px 14px;
      border-left: 4px solid var(--vivid);
      background: var(--sheet);
    }
  `,
})
export class TargetForm {
  private readonly api = inject(ScoreApi);
  private readonly room = inject(RoomStore);
  private readonly session = inject(SessionStore);

  readonly words = input('');
  protected readonly issue = signal('');
  /** What the score itself says at the first asked measure. */
  private readonly printed = computed((): { bpm: Bpm; unit: BeatUnit } | null => {
    const room = this.room.room();
    const measures = (room?.score?.digest.measures ?? []).slice(room?.runs[0]?.fromIndex ?? 0);
    const first = measures.find(({ implicit }) => !implicit) ?? measures[0];
    const meter = first && meterFrom(first.time);
    if (!meter || first.quarterBpm === null) return null;
    const unit = beatUnitOf(meter);
    return { bpm: Math.round(beatBpm(first.quarterBpm, unit) * 10) / 10, unit };
  });
  protected readonly ofScore = computed(() => {
    const printed = this.printed();
    return printed ? `; the score has ${tempoText(printed.bpm, printed.unit)}` : '';
  });
  protected readonly bpm = linkedSignal(() => this.printed()?.bpm ?? null);
  protected readonly unit = linkedSignal<BeatUnit>(() => this.printed()?.unit ?? 'quarter');
  protected readonly units = computed(() => [...unitChoices(this.session.vocabulary())]);

  protected set(): void {
    const bpm = this.bpm();
    const partId = this.room.room()?.programPartId;
    const checked = checkBpm(bpm ?? Number.NaN, 'target');
    this.issue.set(
      checked.ok
        ? ''
        : bpm === null
          ? 'Write a number of beats a minute.'
          : (checked.issues[0]?.message ?? ''),
    );
    if (!checked.ok || bpm === null || partId === undefined) return;
    this.room.run(this.api.setTarget(partId, { bpm, beatUnit: this.unit() }), (room) => this.room.show(room));
  }
}
