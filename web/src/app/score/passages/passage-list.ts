import { ChangeDetectionStrategy, Component, computed, inject, output } from '@angular/core';
import { Button } from 'primeng/button';
import { measureWord, measuresText, tempoText } from '@vivid-cue/core/music';
import { spanFacts } from '@vivid-cue/core/reading';
import { SessionStore } from '../../data/session-store';
import { RungGlyph } from '../../ui/rung-glyph';
import { percentText } from '../../ui/texts';
import { ReadingStore } from '../findings/reading-store';
import { RoomStore } from '../room/room-store';
import { RoomWords } from '../room/room-words';
import { SuggestionStore } from './suggestion-store';

/** The passages and seams of a part in the order of the music, each with what it asks. */
@Component({
  selector: 'vc-passage-list',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, RungGlyph],
  template: `
    @if (rows().length === 0) {
      <p class="soft none">
        None yet. Take the suggested ones under the ribbon, drag across it, or type {{ word() }} numbers such
        as <span class="mono">9–12</span>. Each passage takes the part’s target tempo and gets its own ladder.
      </p>
    } @else {
      <ul>
        @for (row of rows(); track row.id) {
          <li>
            <button type="button" [class.is-seam]="row.isSeam" (click)="openPassage.emit(row.id)">
              <vc-rung-glyph [state]="row.readiness.state" [hasWord]="false" />
              <span class="name"
                >{{ row.name
                }}<span class="soft small">
                  @if (row.name !== row.spanText) {
                    {{ row.spanText }} ·
                  }
                  <span class="mono">{{ row.target }}</span></span
                >
                @if (row.asks) {
                  <span class="soft small">{{ row.asks }}</span>
                }
              </span>
              <span class="number"
                >{{ row.chance ?? '–' }}<small>{{ row.chance === null ? '' : '%' }}</small>
              </span>
            </button>
          </li>
        }
      </ul>
    }
    @if (!suggestions.isShown() && reading.result()) {
      <p-button
        [label]="rows().length === 0 ? 'Suggest passages' : 'Suggest passages for the rest'"
        size="small"
        severity="secondary"
        (onClick)="suggestions.again()"
      />
    }
    @if (rows().length) {
      <p class="soft small">
        Percent: chance of clean at target tempo in a run today. <kbd>.</kbd> <kbd>,</kbd> open the next or
        previous.
      </p>
    }
  `,
  styleUrl: './passage-list.css',
})
export class PassageList {
  protected readonly reading = inject(ReadingStore);
  protected readonly suggestions = inject(SuggestionStore);
  private readonly room = inject(RoomStore);
  private readonly session = inject(SessionStore);
  private readonly words = inject(RoomWords);

  readonly openPassage = output<string>();

  protected readonly word = computed(() => measureWord(1, this.session.vocabulary()));
  protected readonly rows = computed(() => {
    const facts = this.reading.result()?.facts ?? [];
    const vocabulary = this.session.vocabulary();
    return this.room.passages().map((passage) => {
      const top = facts.length === 0 || passage.isSeam ? null : spanFacts(facts, [passage]).top;
      return {
        ...passage,
        spanText: measuresText(passage.from, passage.to, vocabulary),
        target: tempoText(passage.target.bpm, passage.target.beatUnit),
        chance: passage.readiness.chance === null ? null : percentText(passage.readiness.chance),
        asks: top?.because ? this.words.say(`m. ${top.measure} asks most: ${top.because}`) : '',
      };
    });
  });
}
