import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import {
  concordanceWords,
  dayResults,
  panelSlips,
  type ItemResult,
  type PanelResult,
} from '@vivid-cue/core/mock';
import type { MockPlayerView, MockView } from '@vivid-cue/contract';
import { StudioWords } from '../ui/studio-words';

/** A measure of the ribbon with how many tapped it. */
interface TappedCell {
  readonly number: string;
  readonly quarters: number;
  readonly count: number;
}

/** One thing that was played, with what it came to. */
interface ResultRow {
  readonly title: string;
  readonly panel: PanelResult | null;
  readonly most: number;
  readonly criteria: ItemResult['criteria'];
  readonly cells: readonly TappedCell[];
  readonly slips: string;
  readonly remarks: readonly string[];
}

/** What a mock day came to: points with their spread, how far listeners agree, and what goes back to the passages. */
@Component({
  selector: 'vc-mock-results',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [StudioWords],
  templateUrl: './mock-results.html',
  styleUrl: './mock-results.css',
})
export class MockResults {
  readonly mock = input.required<MockView>();

  private readonly results = computed(() => dayResults(this.mock().players, this.mock().scores));
  protected readonly agreement = computed(() => {
    const { agreement } = this.results();
    return agreement === null
      ? null
      : `${concordanceWords(agreement)} Kendall’s W is ${agreement.toFixed(2)}.`;
  });
  protected readonly listeners = computed(
    () => new Set(this.mock().scores.map(({ listenerId }) => listenerId)).size,
  );
  protected readonly players = computed(() =>
    this.mock().players.map((player, n) => {
      const result = this.results().players[n];
      return {
        id: player.id,
        name: player.student.name,
        most: result?.most ?? 0,
        panel: result?.panel ?? null,
        rows: player.items.map((_, at) => this.rowOf(player, at, result?.items[at])),
      };
    }),
  );

  private rowOf(player: MockPlayerView, at: number, result: ItemResult | undefined): ResultRow {
    const item = player.items[at];
    const taps = result?.taps ?? new Map<number, number>();
    const numbers = new Map((item?.measures ?? []).map(({ index, number }) => [index, number]));
    const slips = result ? panelSlips(result).flatMap((index) => numbers.get(index) ?? []) : [];
    return {
      title: item?.drawn && item.drawn.start === null ? item.drawn.title : (item?.title ?? ''),
      panel: result?.panel ?? null,
      most: result?.most ?? 0,
      criteria: result?.criteria ?? [],
      cells: (item?.measures ?? []).map(({ index, number, quarters }) => ({
        ...{ number, quarters, count: taps.get(index) ?? 0 },
      })),
      slips: slips.join(', '),
      remarks: this.mock()
        .scores.filter(
          ({ playerId, itemId, remark }) => playerId === player.id && itemId === item?.id && remark !== '',
        )
        .map(({ remark }) => remark),
    };
  }

  protected number(value: number | null | undefined): string {
    return value == null ? '–' : String(Math.round(value * 10) / 10);
  }
}
