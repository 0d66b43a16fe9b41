import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { Button } from 'primeng/button';
import { measureWord, signatureWords } from '@vivid-cue/core/music';
import { spanFacts, type Counted } from '@vivid-cue/core/reading';
import { hasKnownNotes, runsText, type Span } from '@vivid-cue/core/score';
import { SessionStore } from '../../data/session-store';
import { secondsText } from '../../ui/texts';
import { NumberingForm } from './numbering-form';
import { ReadingStore } from './reading-store';
import { RoomStore } from '../room/room-store';
import { RoomWords } from '../room/room-words';

interface Fact {
  readonly what: string;
  readonly text: string;
}

/** What stands in the selected measures, or in the whole part: counted, ranged, weighed. */
@Component({
  selector: 'vc-facts-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, NumberingForm],
  template: `
    <h3>{{ title() }}</h3>
    <dl>
      @for (fact of facts(); track fact.what) {
        <dt>{{ fact.what }}</dt>
        <dd>{{ fact.text }}</dd>
      }
    </dl>
    @if (single() !== null) {
      @if (isDeciding()) {
        <p class="soft">This {{ word() }} decides the tempo.</p>
      } @else {
        <p-button
          [label]="'Let this ' + word() + ' decide the tempo'"
          icon="pi pi-thumbtack"
          size="small"
          severity="secondary"
          (onClick)="store.pin(single())"
        />
      }
    } @else if (!selection()) {
      <p class="soft small">Select {{ word() }}s on the ribbon or in the music to see theirs.</p>
    }
    <vc-numbering-form [index]="single()" />
  `,
  styles: `
    :host {
      display: block;
      padding: 12px 0;
    }
    dl {
      display: grid;
      grid-template-columns: max-content minmax(0, 1fr);
      gap: 7px 14px;
      margin: 10px 0 14px;
    }
    dt {
      color: var(--ink-soft);
    }
    dd {
      margin: 0;
    }
  `,
})
export class FactsPanel {
  protected readonly store = inject(ReadingStore);
  private readonly room = inject(RoomStore);
  private readonly session = inject(SessionStore);
  private readonly words = inject(RoomWords);

  readonly selection = input<Span | null>(null);

  private readonly spans = computed((): readonly Span[] => {
    const selection = this.selection();
    if (selection) return [selection];
    const { runs, score } = this.room.room() ?? { runs: [], score: null };
    return runs.length > 0 ? runs : [{ fromIndex: 0, endIndex: score?.digest.measures.length ?? 0 }];
  });
  protected readonly word = computed(() => measureWord(1, this.session.vocabulary()));
  /** The one selected measure. */
  protected readonly single = computed(() => {
    const selection = this.selection();
    return selection && selection.endIndex - selection.fromIndex === 1 ? selection.fromIndex : null;
  });
  protected readonly isDeciding = computed(() => this.store.deciding()?.places[0] === this.single());
  protected readonly title = computed(() => {
    const measures = this.room.room()?.score?.digest.measures ?? [];
    const numbers = runsText(
      this.spans().map(({ fromIndex, endIndex }) => ({
        from: measures[fromIndex]?.number ?? '',
        to: measures[endIndex - 1]?.number ?? '',
      })),
      this.session.vocabulary(),
    );
    return this.selection() ? numbers : `All that is asked, ${numbers}`;
  });
  /** How many of the measures are only told: their notes are unknown. */
  private readonly unknown = computed(() => {
    const measures = this.room.room()?.score?.digest.measures ?? [];
    return this.spans()
      .flatMap(({ fromIndex, endIndex }) => measures.slice(fromIndex, endIndex))
      .filter((measure) => !hasKnownNotes(measure)).length;
  });

  private notesText(count: number): string {
    const unknown = this.unknown();
    if (unknown === 0) return String(count);
    const rest = `unknown in ${unknown} ${measureWord(unknown, this.session.vocabulary())}`;
    return count === 0 ? rest : `${count}, ${rest}`;
  }

  protected readonly facts = computed((): readonly Fact[] => {
    const result = this.store.result();
    if (!result) return [{ what: 'Reading', text: 'not yet' }];
    const own = spanFacts(result.facts, this.spans());
    const seconds = own.seconds === null ? '' : `, ${secondsText(own.seconds)}`;
    const rate = own.top?.notesPerSecond ?? 0;
    const list: Fact[] = [
      { what: 'Length', text: `${plain(own.quarters)} quarters${seconds}` },
      { what: own.keys.length > 1 ? 'Keys' : 'Key', text: own.keys.map(signatureWords).join(', ') },
      { what: own.meters.length > 1 ? 'Meters' : 'Meter', text: own.meters.join(', ') },
      {
        what: 'Notes',
        text: `${this.notesText(own.notes)}${rate > 0 ? `, up to ${rate.toFixed(1)} a second` : ''}`,
      },
      {
        what: 'Written range',
        text:
          own.low && own.high
            ? `${own.low.name} to ${own.high.name}`
            : this.unknown() > 0
              ? ''
              : 'no pitches',
      },
      { what: 'Articulation', text: counted(own.articulations) },
      { what: 'Accidentals', text: counted(own.accidentals) },
      { what: 'Pitches', text: counted(own.names) },
      { what: 'Dynamics', text: own.dynamics.join(', ') },
      { what: 'Ornaments', text: own.ornaments.join(', ') },
      { what: 'Playing', text: counted(own.techniques) },
      { what: 'Runs', text: [...new Set(own.runs)].slice(0, MOST_RUNS).join('; ') },
      { what: 'Ties', text: own.ties > 0 ? String(own.ties) : '' },
      { what: 'Rhythms', text: own.rhythms.join(' ') },
      { what: 'Asks most', text: own.top ? `m. ${own.top.measure}: ${own.top.because}` : '' },
    ];
    return list
      .filter(({ text }) => text !== '')
      .map(({ what, text }) => ({ what, text: this.words.say(text) }));
  });
}

/** A long piece has many. */
const MOST_RUNS = 6;

function counted(list: readonly Counted[]): string {
  return list.map(([what, count]) => `${what.replaceAll('+', ' + ')} ${count}`).join(', ');
}

function plain(value: number): string {
  return String(Math.round(value * 1000) / 1000);
}
