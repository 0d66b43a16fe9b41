import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal } from '@angular/core';
import { withoutTyped, type PaperMusic, type TypedPassage, type TypedWork } from '@vivid-cue/core/paper';
import { TypedReaderClient } from '../../data/typed-reader';
import { StudioWords } from '../../ui/studio-words';
import { TypedPicture } from './typed-picture';

interface Strip {
  readonly passage: TypedPassage;
  readonly work: TypedWork;
  readonly name: string;
}

/** The typed passages of music on paper, engraved. */
@Component({
  selector: 'vc-typed-strips',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [StudioWords, TypedPicture],
  template: `
    @for (strip of strips(); track strip.passage.from) {
      <figure>
        <figcaption>
          <button type="button" (click)="open.emit(strip.passage)">
            {{ 'Measures' | studioWords }} {{ strip.name }}, typed
          </button>
        </figcaption>
        <vc-typed-picture
          [musicXml]="strip.work.musicXml"
          [numbers]="strip.work.numbers"
          [label]="'Engraved as typed, ' + strip.name"
        />
      </figure>
    }
  `,
  styles: `
    figure {
      margin: 0;
      padding: 8px 12px 0;
      border-bottom: 1px solid #d9d2c3;
      background: var(--score-ground);
    }
    button {
      padding: 0;
      border: 0;
      background: none;
      color: #0a474b;
      font: inherit;
      font-size: 14px;
      text-decoration: underline;
      cursor: pointer;
    }
  `,
})
export class TypedStrips {
  private readonly reader = inject(TypedReaderClient);

  readonly paper = input.required<PaperMusic>();
  readonly open = output<TypedPassage>();
  protected readonly strips = signal<readonly Strip[]>([]);

  constructor() {
    effect((onCleanup) => {
      const paper = this.paper();
      let isOpen = true;
      onCleanup(() => (isOpen = false));
      void Promise.all(paper.typed.map(async (passage) => this.stripOf(paper, passage)))
        .then((strips) => {
          if (isOpen) this.strips.set(strips);
        })
        // Without its reader the room has everything but these pictures.
        .catch(() => undefined);
    });
  }

  private async stripOf(paper: PaperMusic, passage: TypedPassage): Promise<Strip> {
    const work = await this.reader.read(withoutTyped(paper, passage.from), passage);
    const last = work.numbers.at(-1) ?? passage.from;
    return { passage, work, name: last === passage.from ? last : `${passage.from}–${last}` };
  }
}
