import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  output,
  signal,
  untracked,
  linkedSignal,
  type WritableSignal,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputNumber } from 'primeng/inputnumber';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import {
  buildLadder,
  likelyClimb,
  type ClimbSchool,
  type LadderStep,
  type RungRule,
  type SlipRule,
} from '@vivid-cue/core/climb';
import type { BeatUnit, Bpm } from '@vivid-cue/core/music';
import { parseSpan, spanPhrase } from '@vivid-cue/core/score';
import type { PassageView } from '@vivid-cue/contract';
import { troubleOf } from '../../data/problem';
import { ScoreApi } from '../../data/score-api';
import { SessionStore } from '../../data/session-store';
import { unitChoices } from '../../ui/tempo-choice';
import { ProblemNote } from '../../ui/problem-note';
import { CLIMB_SCHOOL_CHOICES, RUNG_RULE_CHOICES, SLIP_RULE_CHOICES } from '../../ui/school-choices';
import { StudioWords } from '../../ui/studio-words';

const STEPS: readonly { readonly value: LadderStep['kind']; readonly label: string }[] = [
  { value: 'usual', label: 'the usual eight' },
  { value: 'percent', label: 'percent of the target' },
  { value: 'bpm', label: 'beats a minute' },
  { value: 'dial', label: 'the metronome’s own numbers' },
];

/** Changes a passage: name, span, target tempo, ladder and rule. */
@Component({
  selector: 'vc-passage-editor',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, Dialog, FormsModule, InputNumber, InputText, ProblemNote, Select, StudioWords],
  template: `
    <p-dialog
      closeAriaLabel="Close"
      header="Change the passage"
      [modal]="true"
      [draggable]="false"
      [visible]="true"
      (visibleChange)="closed.emit()"
      [style]="{ width: '520px', maxWidth: '94vw' }"
    >
      <form (ngSubmit)="save()">
        <div class="two">
          <div class="field">
            <label for="passage-name">Name</label>
            <input
              pInputText
              id="passage-name"
              name="name"
              maxlength="80"
              [ngModel]="name()"
              (ngModelChange)="name.set($event)"
            />
          </div>
          <div class="field">
            <label for="passage-span">{{ 'Measures' | studioWords }}</label>
            <input
              pInputText
              id="passage-span"
              name="span"
              class="mono"
              [ngModel]="span()"
              (ngModelChange)="span.set($event)"
            />
            <span class="wrong">{{ spanIssue() | studioWords }}</span>
          </div>
        </div>
        <div class="two">
          <div class="field">
            <label for="passage-bpm">Target tempo</label>
            <p-inputnumber
              inputId="passage-bpm"
              name="bpm"
              [useGrouping]="false"
              [maxFractionDigits]="1"
              [ngModel]="bpm()"
              (ngModelChange)="setBpm($event)"
            />
            <span class="wrong">{{ bpmIssue() }}</span>
          </div>
          <div class="field">
            <label for="passage-unit" id="passage-unit-label">of this note</label>
            <p-select
              inputId="passage-unit"
              ariaLabelledBy="passage-unit-label"
              name="unit"
              [options]="units()"
              optionLabel="label"
              optionValue="value"
              [ngModel]="unit()"
              (ngModelChange)="setUnit($event)"
              appendTo="body"
            />
          </div>
        </div>
        <label class="own"
          ><input type="checkbox" name="own" [ngModel]="isOwn()" (ngModelChange)="isOwn.set($event)" /> Its
          own target, not the part’s</label
        >
        <div class="two">
          <div class="field">
            <label for="passage-step" id="passage-step-label">Rungs by</label>
            <p-select
              inputId="passage-step"
              ariaLabelledBy="passage-step-label"
              name="step"
              [options]="steps"
              optionLabel="label"
              optionValue="value"
              [ngModel]="stepKind()"
              (ngModelChange)="stepKind.set($event)"
              appendTo="body"
            />
          </div>
          @if (stepKind() === 'percent' || stepKind() === 'bpm') {
            <div class="field">
              <label for="passage-size">Step</label>
              <p-inputnumber
                inputId="passage-size"
                name="size"
                [useGrouping]="false"
                [maxFractionDigits]="1"
                [ngModel]="stepSize()"
                (ngModelChange)="stepSize.set($event)"
              />
            </div>
          }
        </div>
        <div class="two">
          <div class="field">
            <label for="passage-rule" id="passage-rule-label">A rung is done after</label>
            <p-select
              inputId="passage-rule"
              ariaLabelledBy="passage-rule-label"
              name="rule"
              [options]="rules"
              optionLabel="label"
              optionValue="value"
              [ngModel]="rule()"
              (ngModelChange)="rule.set($event)"
              appendTo="body"
            />
          </div>
          <div class="field">
            <label for="passage-slips" id="passage-slips-label">Slips</label>
            <p-select
              inputId="passage-slips"
              ariaLabelledBy="passage-slips-label"
              name="slipRule"
              [options]="slipRules"
              optionLabel="label"
              optionValue="value"
              [ngModel]="slipRule()"
              (ngModelChange)="slipRule.set($event)"
              appendTo="body"
            />
          </div>
        </div>
        <div class="field">
          <label for="passage-school" id="passage-school-label">Reaching tempo</label>
          <p-select
            inputId="passage-school"
            ariaLabelledBy="passage-school-label"
            name="school"
            [options]="schools"
            optionLabel="label"
            optionValue="value"
            [ngModel]="school()"
            (ngModelChange)="school.set($event)"
            appendTo="body"
          />
        </div>
        <p class="likely">{{ likely() }}</p>
        <p class="soft small">The record is counted anew from the reps: no rep is lost.</p>
        <vc-problem-note [message]="failure()" />
        <div class="buttons">
          <p-button
            label="Cancel"
            type="button"
            severity="secondary"
            [text]="true"
            (onClick)="closed.emit()"
          />
          <p-button
            label="Save"
            type="submit"
            [loading]="isBusy()"
            [disabled]="spanIssue() !== '' || bpmIssue() !== ''"
          />
        </div>
      </form>
    </p-dialog>
  `,
  styles: `
    form {
      display: flex;
      flex-direction: column;
      gap: 14px;
    }
    .two {
      display: grid;
      grid-template-columns: repeat(2, minmax(0, 1fr));
      gap: 14px;
    }
    .likely {
      margin: 0;
      font-weight: 600;
    }
    .own {
      display: flex;
      align-items: center;
      gap: 8px;
      min-height: 24px;
    }
    .own input {
      width: 18px;
      height: 18px;
      accent-color: var(--primary);
    }
  `,
})
export class PassageEditor {
  private readonly api = inject(ScoreApi);
  private readonly destroyRef = inject(DestroyRef);
  private readonly session = inject(SessionStore);

  readonly passage = input.required<PassageView>();
  /** How long it lasts at its target. Units: seconds */
  readonly seconds = input(8);
  readonly saved = output<PassageView>();
  readonly closed = output<void>();

  protected readonly rules = [...RUNG_RULE_CHOICES];
  protected readonly slipRules = [...SLIP_RULE_CHOICES];
  protected readonly schools = [{ value: null, label: 'as the student’s' }, ...CLIMB_SCHOOL_CHOICES];
  protected readonly steps = [...STEPS];
  protected readonly units = computed(() => [...unitChoices(this.session.vocabulary())]);
  // What is typed stays when a rep is acknowledged meanwhile: only another passage fills the fields anew.
  private readonly passageId = computed(() => this.passage().id);
  private readonly version = this.begunWith(({ version }) => version);
  protected readonly name = this.begunWith(({ name }) => name);
  protected readonly span = this.begunWith(spanPhrase);
  protected readonly bpm = this.begunWith(({ target }): number | null => target.bpm);
  protected readonly unit = this.begunWith(({ target }): BeatUnit => target.beatUnit);
  protected readonly isOwn = this.begunWith(({ hasOwnTarget }) => hasOwnTarget);
  protected readonly stepKind = this.begunWith(({ step }): LadderStep['kind'] => step.kind);
  protected readonly stepSize = this.begunWith(({ step }): number | null => ('size' in step ? step.size : 4));
  protected readonly rule = this.begunWith(({ rule }): RungRule => rule);
  protected readonly slipRule = this.begunWith(({ slipRule }): SlipRule => slipRule);
  protected readonly school = this.begunWith(({ school }): ClimbSchool | null => school);
  protected readonly isBusy = signal(false);
  protected readonly failure = signal<string | null>(null);
  private readonly parsedSpan = computed(() => parseSpan(this.span()));
  protected readonly spanIssue = computed(() => {
    const span = this.parsedSpan();
    return span.ok ? '' : (span.issues[0]?.message ?? '');
  });
  private readonly step = computed((): LadderStep => {
    const kind = this.stepKind();
    return kind === 'dial' || kind === 'usual' ? { kind } : { kind, size: this.stepSize() ?? 0 };
  });
  private readonly ladder = computed(() => {
    const toBpm = this.bpm() ?? Number.NaN;
    return buildLadder({
      fromBpm: Math.max(10, toBpm / 2),
      toBpm,
      step: this.step(),
      unit: this.unit(),
    });
  });
  protected readonly bpmIssue = computed(() => {
    const ladder = this.ladder();
    return ladder.ok ? '' : (ladder.issues[0]?.message ?? '');
  });
  /** What the whole ladder is likely to take. */
  protected readonly likely = computed(() => {
    const ladder = this.ladder();
    if (!ladder.ok) return '';
    const rungBpms = ladder.value.map(({ bpm }) => bpm);
    const { reps, minutes } = likelyClimb(
      { rungBpms, rule: this.rule() },
      { fromRung: 0, seconds: this.seconds() },
    );
    return `${rungBpms.length} rungs: about ${reps} reps, ${minutes} minutes of practice in all.`;
  });

  /** A field that begins with what the passage says and is then the person's. */
  private begunWith<Value>(of: (passage: PassageView) => Value): WritableSignal<Value> {
    return linkedSignal({ source: () => this.passageId(), computation: () => of(untracked(this.passage)) });
  }

  protected setBpm(bpm: Bpm | null): void {
    this.bpm.set(bpm);
    this.isOwn.set(true);
  }

  protected setUnit(unit: BeatUnit): void {
    this.unit.set(unit);
    this.isOwn.set(true);
  }

  protected save(): void {
    const span = this.parsedSpan();
    const bpm = this.bpm();
    if (!span.ok || bpm === null || this.bpmIssue() !== '' || this.isBusy()) return;
    const step = this.step();
    this.isBusy.set(true);
    this.api
      .changePassage(
        { ...this.passage(), version: this.version() },
        {
          name: this.name().trim(),
          ...span.value,
          target: this.isOwn() ? { bpm, beatUnit: this.unit() } : null,
          step: { kind: step.kind, size: 'size' in step ? step.size : null },
          rule: this.rule(),
          slipRule: this.slipRule(),
          school: this.school(),
        },
      )
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: (passage) => this.saved.emit(passage),
        error: (error: unknown) => {
          const trouble = troubleOf(error);
          this.isBusy.set(false);
          this.failure.set(trouble.message);
          if (trouble.code === 'version-stale') this.version.set((trouble.current as PassageView).version);
        },
      });
  }
}
