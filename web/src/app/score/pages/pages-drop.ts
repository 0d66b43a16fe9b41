import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { Button } from 'primeng/button';
import { StudioWords } from '../../ui/studio-words';

/** Takes pages: a PDF, pictures, or photographs from the device's camera. */
@Component({
  selector: 'vc-pages-drop',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, StudioWords],
  template: `
    <div
      class="drop"
      [class.is-over]="isOver()"
      (dragover)="over($event)"
      (dragleave)="isOver.set(false)"
      (drop)="drop($event)"
    >
      <h3>Its pages</h3>
      <p class="soft">
        A PDF, a scan or photographs (JPEG, PNG, WebP), up to 20 pages. {{ 'Measures' | studioWords }} are
        found, and you put right what was missed. Drop them here, or
      </p>
      <div class="buttons">
        <input
          #chooser
          class="visually-hidden"
          type="file"
          multiple
          accept="application/pdf,image/*"
          tabindex="-1"
          aria-label="Files of pages"
          (change)="choose(chooser)"
        />
        <p-button label="Choose pages" icon="pi pi-images" (onClick)="chooser.click()" />
        <input
          #camera
          class="visually-hidden"
          type="file"
          accept="image/*"
          capture="environment"
          tabindex="-1"
          aria-label="Photograph of a page"
          (change)="choose(camera)"
        />
        <p-button
          class="camera"
          label="Photograph them"
          icon="pi pi-camera"
          severity="secondary"
          [outlined]="true"
          (onClick)="camera.click()"
        />
        @if (hasPages()) {
          <p-button
            label="Correct those that are here"
            icon="pi pi-pencil"
            severity="secondary"
            [outlined]="true"
            (onClick)="correct.emit()"
          />
        }
      </div>
      <p class="soft small">
        Printed music is somebody’s work: its pages stay in your studio, and only you and the student who
        plays this part see them.
      </p>
    </div>
  `,
  styles: `
    .drop {
      padding: 20px 24px;
      border: 2px dashed var(--rule-strong);
      border-radius: 6px;
    }
    .drop.is-over {
      border-color: var(--primary);
    }
    p {
      margin: 6px 0 14px;
    }
    .small {
      margin-bottom: 0;
      font-size: 14px;
    }
    .buttons {
      display: flex;
      flex-wrap: wrap;
      justify-content: flex-start;
      gap: 8px;
      margin-bottom: 14px;
    }
    /* A device that is held in the hand has its camera where the page is. */
    @media (pointer: fine) {
      .camera {
        display: none;
      }
    }
  `,
})
export class PagesDrop {
  /** Whether pages are there to be corrected. */
  readonly hasPages = input(false);
  readonly brought = output<readonly File[]>();
  readonly correct = output<void>();

  protected readonly isOver = signal(false);

  protected over(event: DragEvent): void {
    event.preventDefault();
    this.isOver.set(true);
  }

  protected drop(event: DragEvent): void {
    event.preventDefault();
    this.isOver.set(false);
    this.emit([...(event.dataTransfer?.files ?? [])]);
  }

  protected choose(chooser: HTMLInputElement): void {
    const files = [...(chooser.files ?? [])];
    chooser.value = '';
    this.emit(files);
  }

  private emit(files: readonly File[]): void {
    if (files.length > 0) this.brought.emit(files);
  }
}
