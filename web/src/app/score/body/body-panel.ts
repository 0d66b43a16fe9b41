import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  type OnDestroy,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { CARE } from '@vivid-cue/core/care';

import { measuresText, tempoText } from '@vivid-cue/core/music';
import { printedSpan, type Span } from '@vivid-cue/core/score';
import type { CueInput } from '@vivid-cue/contract';
import { SessionStore } from '../../data/session-store';
import { shortDay } from '../../ui/texts';
import { StudioWords } from '../../ui/studio-words';
import { CueStore } from '../cues/cue-store';
import { RoomStore } from '../room/room-store';
import { AirBoxes } from './air-boxes';
import { AirClock } from './air-clock';
import { HandWay } from './hand-way';
import { BodyStore } from './body-store';

/** Where advice comes from, in words. */
const RULE_SOURCES = { chart: 'fingering chart', practice: 'common practice', studio: 'your rule' } as const;

/** What the body does in the open passage: where to breathe, and what the hands take, to be settled and written in. */
@Component({
  selector: 'vc-body-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [AirBoxes, AirClock, HandWay, Button, FormsModule, StudioWords],
  templateUrl: './body-panel.html',
  styleUrl: './body-panel.css',
})
export class BodyPanel implements OnDestroy {
  private readonly cues = inject(CueStore);
  private readonly session = inject(SessionStore);
  protected readonly room = inject(RoomStore);
  protected readonly store = inject(BodyStore);

  protected readonly care = CARE.breath;
  readonly selection = input<Span | null>(null);
  readonly look = output<Span>();

  private looked: Span | null = null;

  protected readonly where = computed(() => {
    const [span, measures] = [this.store.span(), this.room.room()?.score?.digest.measures ?? []];
    if (!span) return '';
    const { from, to } = printedSpan(measures, span);
    return measuresText(from, to, this.session.vocabulary());
  });
  protected readonly tempo = computed(() => {
    const result = this.store.result();
    const target = this.room.room()?.target;
    if (!result) return '';
    const unit = target?.beatUnit ?? (result.beatQuarters === 1.5 ? 'dotted-quarter' : 'quarter');
    const bpm = target ? (target.bpm * this.store.percent()) / 100 : result.quarterBpm / result.beatQuarters;
    return tempoText(Math.round(bpm), unit);
  });
  private readonly bpmNow = computed(() => {
    const [result, target] = [this.store.result(), this.room.room()?.target];
    if (target) return (target.bpm * this.store.percent()) / 100;
    return result ? result.quarterBpm / result.beatQuarters : 0;
  });
  protected readonly breathSentence = computed(() => {
    const breaths = this.store.result()?.breaths;
    if (!breaths) return '';
    const { plan, usable } = breaths;
    const longest = Math.max(...plan.stretches.map(({ seconds }) => seconds));
    const taken = plan.breaths.filter(({ place }) => place.kind !== 'rest').length;
    const of = `the longest stretch takes ${longest.toFixed(1)} of ${usable.toFixed(1)} seconds`;
    if (!plan.isFeasible)
      return `No choice of breaths fits ${usable.toFixed(1)} seconds of air at this tempo.`;
    if (taken === 0) return `${plan.breaths.length === 0 ? 'One breath is' : 'The rests are'} enough: ${of}.`;
    return `${taken === 1 ? 'One breath' : `${taken} breaths`} beside the rests; ${of}.`;
  });
  protected readonly oneBreath = computed(() => {
    const plan = this.store.result()?.breaths?.plan;
    if (!plan || plan.breaths.every(({ place }) => place.kind === 'rest')) return '';
    const bpm = Math.ceil(plan.oneBreathSpeed * this.bpmNow());
    return `None would be needed from ${this.tempoAt(bpm)} on, or with long tones of ${plan.oneBreathCapacity.toFixed(0)} seconds.`;
  });
  /** The stretches as wide as they last, with how much of the air each takes. */
  protected readonly bars = computed(() => {
    const breaths = this.store.result()?.breaths;
    if (!breaths) return [];
    const all = breaths.plan.stretches.reduce((sum, { seconds }) => sum + seconds, 0);
    return breaths.plan.stretches.map(({ seconds }) => ({
      width: (seconds / all) * 100,
      share: Math.min(1, seconds / breaths.usable),
      isOver: seconds > breaths.usable + 1e-6,
      text: seconds.toFixed(1),
    }));
  });
  protected readonly places = computed(() => {
    const breaths = this.store.result()?.breaths;
    return (breaths?.plan.breaths ?? []).flatMap(({ place, needlessAt }, n) =>
      place.kind === 'rest'
        ? []
        : [
            {
              at: place.at,
              index: place.measureIndex,
              where: `${this.measureAt(place.measureIndex)}, ${this.beatText(place.beat, place.measureIndex)}`,
              why: breaths?.reasons[n] ?? '',
              needless:
                needlessAt === null
                  ? ''
                  : `not needed from ${this.tempoAt(Math.ceil(needlessAt * this.bpmNow()))}`,
              isPinned: this.store.isPinnedBreath(place.at),
            },
          ],
    );
  });
  protected readonly rolls = computed(() => this.store.result()?.rolls ?? []);
  protected readonly advice = computed(() =>
    (this.store.result()?.advice ?? []).map((one) => ({
      id: one.rule.id,
      text: one.rule.advice,
      source: RULE_SOURCES[one.rule.source],
      where: [...new Set(one.places.map(({ measure }) => measure))].join(', '),
      first: one.places[0]?.measureIndex ?? 0,
      cues: this.store.adviceCues(one),
    })),
  );
  protected readonly longStrokes = computed(() =>
    (this.store.result()?.strokes ?? [])
      .filter(({ splits }) => splits.length > 0)
      .map(({ measureIndex, seconds, usable, level, splits }) => ({
        where: this.numberOf(measureIndex),
        text: `${seconds.toFixed(1)} s; a bow lasts about ${usable.toFixed(1)} s at ${level}. ${
          splits.length === 1 ? 'One change' : `${splits.length} changes`
        } of bow would do.`,
      })),
  );

  constructor() {
    this.store.isOpen.set(true);
    effect(() => {
      const selection = this.selection();
      // A measure that is looked at from here is shown, and the stretch stays.
      if (selection === null || selection !== this.looked) this.store.wished.set(selection);
    });
  }

  ngOnDestroy(): void {
    this.store.isOpen.set(false);
  }

  protected airText(): string {
    const { on } = this.store.air();
    return on === null ? 'not measured yet: 15 seconds are taken' : `measured on ${shortDay(on)}`;
  }

  /** The best of some tries, each beside what was known of the other. */
  protected keepTries({ soft, loud }: { readonly soft: number | null; readonly loud: number | null }): void {
    const known = this.store.air();
    const on = new Date().toISOString().slice(0, 10);
    this.store.keepAir({ soft: soft ?? known.soft, loud: loud ?? known.loud, on });
  }

  protected setAir(name: 'soft' | 'loud', event: Event): void {
    const text = (event.target as HTMLInputElement).value.trim();
    const seconds = text === '' ? null : Number(text.replace(',', '.'));
    if (seconds !== null && !(seconds >= 1 && seconds <= 120)) return;
    const air = { ...this.store.air(), [name]: seconds };
    const isKnown = air.soft !== null || air.loud !== null;
    this.store.keepAir({ ...air, on: isKnown ? new Date().toISOString().slice(0, 10) : null });
  }

  protected show(index: number): void {
    this.looked = { fromIndex: index, endIndex: index + 1 };
    this.look.emit(this.looked);
  }

  protected write(cues: readonly CueInput[]): void {
    this.cues.write(cues, ({ length }) => `${length === 1 ? 'One cue' : `${length} cues`} written in`);
  }

  private tempoAt(bpm: number): string {
    return tempoText(bpm, this.room.room()?.target?.beatUnit ?? 'quarter');
  }

  private numberOf(index: number): string {
    return this.room.room()?.score?.digest.measures[index]?.number ?? '';
  }

  private measureAt(index: number): string {
    const number = this.numberOf(index);
    return measuresText(number, number, this.session.vocabulary());
  }

  /** Shape: "at the bar line", "before beat 3" */
  private beatText(beat: number, index: number): string {
    const measure = this.room.room()?.score?.digest.measures[index];
    const [, beatType = '4'] = (measure?.time ?? '4/4').split('/');
    const beats = ((measure?.quarters ?? 4) * Number(beatType)) / 4;
    return beat > beats ? 'at the bar line' : `before beat ${Math.round(beat * 100) / 100}`;
  }
}
