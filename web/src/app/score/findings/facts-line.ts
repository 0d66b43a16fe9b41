import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { spanFacts } from '@vivid-cue/core/reading';
import { hasKnownNotes, spanInWords, type Span } from '@vivid-cue/core/score';
import { SessionStore } from '../../data/session-store';
import { secondsText } from '../../ui/texts';
import { ReadingStore } from './reading-store';
import { RoomStore } from '../room/room-store';
import { RoomWords } from '../room/room-words';

/** The selected measures in one line: how long, how many notes, from where to where, what they ask. */
@Component({
  selector: 'vc-facts-line',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (text(); as line) {
      <p role="status">{{ line }} <kbd>I</kbd></p>
    }
  `,
  styles: `
    p {
      overflow: hidden;
      margin: 0;
      color: var(--ink-soft);
      font-size: 14px;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
  `,
})
export class FactsLine {
  private readonly reading = inject(ReadingStore);
  private readonly room = inject(RoomStore);
  private readonly session = inject(SessionStore);
  private readonly words = inject(RoomWords);

  readonly selection = input<Span | null>(null);

  protected readonly text = computed(() => {
    const [result, span] = [this.reading.result(), this.selection()];
    const measures = this.room.room()?.score?.digest.measures ?? [];
    if (!result || !span) return '';
    const own = spanFacts(result.facts, [span]);
    const vocabulary = this.session.vocabulary();
    const isKnown = measures.slice(span.fromIndex, span.endIndex).every(hasKnownNotes);
    const line = [
      spanInWords(measures, span, vocabulary),
      own.seconds === null ? '' : secondsText(own.seconds),
      isKnown ? `${own.notes} note${own.notes === 1 ? '' : 's'}` : '',
      own.low && own.high ? `${own.low.name} to ${own.high.name}` : '',
      own.top?.because ?? '',
    ];
    return this.words.say(line.filter((part) => part !== '').join(' · '));
  });
}
