import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { InputNumber } from 'primeng/inputnumber';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { v7 as newId } from 'uuid';
import type { BeatUnit } from '@vivid-cue/core/music';
import type { ScaleNoteValue } from '@vivid-cue/core/scale';
import type { TempoPolicy } from '@vivid-cue/core/program';
import type { PartChoice, ProgramPartDetail, ScaleChoice, Target } from '@vivid-cue/contract';
import { SessionStore } from '../data/session-store';
import { unitChoices } from '../ui/tempo-choice';
import { ProblemNote } from '../ui/problem-note';
import { noteValueChoices } from '../ui/note-values';

/** What a student plays for one part: work, edition, repeats, tempo; scales are written out from here. */
@Component({
  selector: 'vc-part-answer-form',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, FormsModule, InputNumber, InputText, ProblemNote, Select],
  templateUrl: './part-answer-form.html',
  styles: `
    :host {
      display: block;
      margin: 12px 0 4px;
      padding: 16px 18px;
      border: 1px solid var(--rule);
      border-radius: 6px;
      background: var(--sheet);
    }
    form {
      display: flex;
      flex-direction: column;
      gap: 14px;
    }
    .grid {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
      gap: 10px 16px;
    }
    .check {
      display: flex;
      gap: 10px;
      align-items: center;
      font-weight: 600;
    }
    .check input {
      width: 20px;
      height: 20px;
      accent-color: var(--primary);
    }
    h4 {
      margin: 6px 0 0;
      font-family: var(--font-title);
      font-size: 17px;
    }
  `,
})
export class PartAnswerForm {
  private readonly session = inject(SessionStore);

  /** The part with the choice as it stands. */
  readonly part = input.required<ProgramPartDetail>();
  /** Scores the studio has already. */
  readonly scores = input.required<ProgramScores>();
  /** Whether the student's instrument has a known range. */
  readonly instrumentKnown = input.required<boolean>();
  /** Why the last wish was refused. */
  readonly failure = input<string | null>(null);
  /** A choice to store. */
  readonly chosen = output<PartChoice>();
  /** A choice with a tempo of one's own. */
  readonly aimed = output<{ readonly target: Target; readonly choice: PartChoice }>();
  /** A scale to write out. */
  readonly scaleWanted = output<ScaleChoice>();

  protected readonly workTitle = linkedSignal(() => this.part().choice.workTitle);
  protected readonly edition = linkedSignal(
    () => this.part().choice.edition || (this.part().part.source.edition ?? ''),
  );
  protected readonly page = linkedSignal(
    () => this.part().choice.page || (this.part().part.source.page ?? ''),
  );
  protected readonly repeats = linkedSignal(() => this.part().choice.repeats);
  protected readonly pickupCounts = linkedSignal(() => this.part().choice.pickupCounts);
  protected readonly policy = linkedSignal<TempoPolicy>(() => this.part().choice.policy);
  protected readonly scoreId = linkedSignal<string | null>(() => this.part().score?.id ?? null);
  protected readonly bpm = linkedSignal<number | null>(() => this.part().target?.bpm ?? null);
  protected readonly unit = linkedSignal<BeatUnit>(() => this.part().target?.beatUnit ?? 'quarter');
  protected readonly isScale = computed(() => ['scale', 'chromatic'].includes(this.part().part.kind));
  protected readonly isChromatic = computed(() => this.part().part.kind === 'chromatic');
  protected readonly key = linkedSignal(() => this.part().part.key ?? (this.isChromatic() ? 'C' : ''));
  protected readonly isArpeggio = linkedSignal(() => this.part().part.title === 'arpeggio');
  protected readonly octaves = linkedSignal(() => this.part().part.octaves ?? 2);
  protected readonly noteValue = linkedSignal<ScaleNoteValue>(() => this.part().part.noteValue ?? 'eighth');
  protected readonly articulation = linkedSignal(() => this.part().part.articulation ?? '');

  protected readonly units = computed(() => [...unitChoices(this.session.vocabulary())]);
  protected readonly noteValues = computed(() => noteValueChoices(this.session.vocabulary()));
  protected readonly octaveChoices = [1, 1.5, 2, 2.5, 3, 4].map((value) => ({
    value,
    label: value === 1.5 ? 'a twelfth' : `${value} ${value === 1 ? 'octave' : 'octaves'}`,
  }));
  protected readonly repeatChoices = [
    { value: null, label: 'as the sheet says' },
    { value: 'take' as const, label: 'take them' },
    { value: 'omit' as const, label: 'leave them out' },
  ];
  protected readonly policies: readonly { readonly value: TempoPolicy; readonly label: string }[] = [
    { value: 'keep', label: 'keep the sheet’s number' },
    { value: 'own', label: 'an own tempo' },
    { value: 'range', label: 'a tempo inside the range' },
  ];
  protected readonly scoreChoices = computed(() => [...this.scores()]);

  private choice(): PartChoice {
    const isOther = this.scoreId() !== (this.part().score?.id ?? null);
    return {
      isTaken: this.part().choice.isTaken,
      workTitle: this.workTitle().trim(),
      edition: this.edition().trim(),
      page: this.page().trim(),
      repeats: this.repeats(),
      policy: this.policy(),
      pickupCounts: this.pickupCounts(),
      scoreId: isOther ? this.scoreId() : null,
    };
  }

  protected save(): void {
    const [bpm, target] = [this.bpm(), this.part().target];
    const isOwn =
      this.policy() !== 'keep' && bpm !== null && (bpm !== target?.bpm || this.unit() !== target.beatUnit);
    if (isOwn) this.aimed.emit({ target: { bpm, beatUnit: this.unit() }, choice: this.choice() });
    else this.chosen.emit(this.choice());
  }

  protected writeOut(): void {
    this.scaleWanted.emit({
      scoreId: newId(),
      key: this.isChromatic() ? `${this.key().trim()} chromatic` : this.key().trim(),
      isArpeggio: this.isArpeggio(),
      octaves: this.octaves(),
      noteValue: this.noteValue(),
      articulation: this.articulation().trim(),
    });
  }
}

type ProgramScores = readonly { readonly id: string; readonly title: string }[];
