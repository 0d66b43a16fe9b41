import { ChangeDetectionStrategy, Component, model } from '@angular/core';
import { Dialog } from 'primeng/dialog';
import { StudioWords } from './studio-words';

const GROUPS = [
  {
    title: 'Everywhere',
    keys: [
      ['?', 'this sheet'],
      ['Esc', 'close, or clear a selection'],
    ],
  },
  {
    title: 'Season',
    keys: [
      ['N', 'add a student'],
      ['S', 'enter a sheet'],
    ],
  },
  {
    title: 'Measure ribbon',
    keys: [
      ['← →', 'measure by measure'],
      ['Shift ← →', 'widen or narrow the selection'],
      ['Home End', 'first, last measure'],
      ['Enter', 'make a passage of the selection'],
    ],
  },
  {
    title: 'Score',
    keys: [
      ['1 … 7', 'layers on and off'],
      ['F P B Q I', 'findings, passages, air and hands, cues, facts'],
      ['← →', 'next, previous measure; Shift widens'],
      ['8', 'the layer of cues'],
      ['N', 'next note, with Shift the one before'],
      ['W', 'write a cue there: the next key says which'],
      ['A', 'start anywhere in the program'],
      ['T', 'type notes, of music on paper'],
      ['. ,', 'next, previous finding or passage'],
    ],
  },
  {
    title: 'Climb',
    keys: [
      ['← →', 'the day before, the day after'],
      ['S', 'skip that day, or practise after all'],
      ['U', 'undo'],
    ],
  },
  {
    title: 'Takes',
    keys: [
      ['R', 'record'],
      ['Space', 'listen, pause'],
      ['← →', 'the measure before, the next'],
      ['X', 'slipped here'],
      ['H', 'hear the question again'],
      ['S Y', 'it slipped, it is fine'],
      ['D', 'a downbeat, of music on paper'],
    ],
  },
  {
    title: 'Page',
    keys: [
      ['← → ↑ ↓', 'next box, next line'],
      ['B J', 'bar line in it, join the next'],
      ['1 … 99', 'stands for so many measures'],
      ['N M K L T E R', 'number, meter, key, letter, tempo, ending, bar line'],
      ['O', 'leave its line out'],
      ['Y X', 'yes, no to a doubtful bar line'],
      ['U', 'undo'],
    ],
  },
  {
    title: 'Finding',
    keys: [
      ['K', 'keep it'],
      ['D', 'not here: set it aside'],
      ['W', 'write a cue of it'],
    ],
  },
  {
    title: 'Suggested passage',
    keys: [
      ['Enter', 'choose it, then take it'],
      ['← →', 'move its end'],
      ['M', 'join the next'],
      ['S', 'cut it'],
      ['Delete', 'drop it'],
    ],
  },
  {
    title: 'Open passage',
    keys: [
      ['C', 'log a clean rep'],
      ['X', 'log a slip'],
      ['U', 'take the last rep back'],
    ],
  },
] as const;

/** What the keys do, behind "?". */
@Component({
  selector: 'vc-shortcut-sheet',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Dialog, StudioWords],
  template: `
    <p-dialog
      closeAriaLabel="Close"
      header="Keys"
      [modal]="true"
      [dismissableMask]="true"
      [draggable]="false"
      [(visible)]="isOpen"
      [style]="{ width: '960px', maxWidth: '94vw' }"
      [pt]="{ content: { tabindex: 0 } }"
    >
      <div class="groups">
        @for (group of groups; track group.title) {
          <section>
            <h3>{{ group.title | studioWords }}</h3>
            <dl>
              @for (key of group.keys; track key[0]) {
                <dt>
                  <kbd>{{ key[0] }}</kbd>
                </dt>
                <dd>{{ key[1] | studioWords }}</dd>
              }
            </dl>
          </section>
        }
      </div>
    </p-dialog>
  `,
  styles: `
    .groups {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(240px, 1fr));
      gap: 20px 32px;
    }
    dl {
      display: grid;
      grid-template-columns: max-content 1fr;
      gap: 8px 14px;
      margin: 10px 0 0;
    }
    dd {
      margin: 0;
    }
  `,
})
export class ShortcutSheet {
  readonly isOpen = model.required<boolean>();
  protected readonly groups = GROUPS;
}
