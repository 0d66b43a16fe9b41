import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { PageRow, PaperPage } from '@vivid-cue/core/paper';

/** A row cut out of a page, upright. */
@Component({
  selector: 'vc-page-cut',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="view()" role="img" [attr.aria-label]="label()" preserveAspectRatio="none">
      <image
        [attr.href]="url()"
        [attr.width]="page().width"
        [attr.height]="page().height"
        [attr.transform]="turn()"
        preserveAspectRatio="none"
      />
    </svg>
  `,
  styles: `
    :host {
      display: block;
    }
    svg {
      display: block;
      width: 100%;
    }
  `,
})
export class PageCut {
  readonly row = input.required<PageRow>();
  readonly page = input.required<PaperPage>();
  /** Where the page's picture is. */
  readonly url = input.required<string>();
  readonly label = input('');

  protected readonly view = computed(() => {
    const { width, height } = this.page();
    const { left, right, top, bottom } = this.row();
    return [left * width, top * height, (right - left) * width, (bottom - top) * height]
      .map((one) => one.toFixed(1))
      .join(' ');
  });
  protected readonly turn = computed(() => {
    const { width, height } = this.page();
    const { left, right, top, bottom, angle } = this.row();
    const degrees = (-angle * 180) / Math.PI;
    return `rotate(${degrees.toFixed(3)} ${(((left + right) / 2) * width).toFixed(1)} ${(((top + bottom) / 2) * height).toFixed(1)})`;
  });
}
