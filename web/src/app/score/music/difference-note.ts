import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { capital } from '@vivid-cue/core/base';
import { measureWord, type Vocabulary } from '@vivid-cue/core/music';
import { measureDifference, numberRuns } from '@vivid-cue/core/paper';
import type { MeasureDigest } from '@vivid-cue/core/score';

/** What measures that are to be kept have otherwise than those that are there. */
@Component({
  selector: 'vc-difference-note',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p role="status">
      <strong>{{ head() }}</strong> {{ rest() }}
    </p>
  `,
  styles: `
    p {
      margin: 0;
      padding: 8px 12px;
      border-left: 4px solid var(--vivid);
      background: var(--paper);
      font-size: 15px;
    }
  `,
})
export class DifferenceNote {
  readonly before = input.required<readonly MeasureDigest[]>();
  readonly after = input.required<readonly MeasureDigest[]>();
  readonly vocabulary = input<Vocabulary>('us');

  private readonly difference = computed(() => measureDifference(this.before(), this.after()));
  protected readonly head = computed(() =>
    this.difference().isSame
      ? `The same ${measureWord(2, this.vocabulary())} as before.`
      : 'Against what is there:',
  );
  protected readonly rest = computed(() => {
    const { gone, fresh, changed, isSame } = this.difference();
    const word = (count: number): string => measureWord(count, this.vocabulary());
    const said = [
      fresh.length > 0 ? `${fresh.length} new ${word(fresh.length)} (${numberRuns(fresh)})` : '',
      gone.length > 0 ? `${gone.length} gone (${numberRuns(gone)})` : '',
      ...changed.slice(0, 3).map(({ number, before, after }) => `${number} is ${after}, was ${before}`),
      changed.length > 3 ? `${changed.length - 3} more of other length` : '',
    ].filter((one) => one !== '');
    const what = isSame ? '' : `${capital(said.join('; '))}. `;
    return `${what}Passages, cues and reps stay at their numbers.`;
  });
}
