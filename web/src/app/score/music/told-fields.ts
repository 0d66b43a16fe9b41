import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { InputText } from 'primeng/inputtext';
import type { ToldFields as Fields } from '@vivid-cue/core/paper';
import { StudioWords } from '../../ui/studio-words';
import { ofFields, ofLine, type ToldDraft } from './told-draft';

interface FieldShown {
  readonly name: keyof Fields;
  readonly label: string;
  readonly example: string;
  readonly size: 'short' | 'third' | 'half';
  readonly isNumber?: boolean;
}

const FIELDS: readonly FieldShown[] = [
  { name: 'first', label: 'First measure', example: '1', size: 'short', isNumber: true },
  { name: 'last', label: 'Last measure', example: '32', size: 'short', isNumber: true },
  { name: 'meter', label: 'Meter', example: '4/4', size: 'short' },
  { name: 'pickup', label: 'Pickup', example: '1/4', size: 'short' },
  { name: 'tempos', label: 'Tempo', example: '♩=116', size: 'third' },
  { name: 'keys', label: 'Key', example: '3 flats', size: 'third' },
  { name: 'changes', label: 'Other meters', example: '6/8 from 17', size: 'third' },
  { name: 'letters', label: 'Letters', example: 'A9 B17', size: 'third' },
  { name: 'repeats', label: 'Repeats and endings', example: '|: 1–8 :| 1. 7 2. 8', size: 'third' },
  { name: 'dense', label: 'Where most notes are', example: '18 sixteenths', size: 'third' },
];
const METERS = ['4/4', '3/4', '2/4', '6/8', '2/2', '9/8', '12/8', '3/8', '5/4', '7/8'];

/** What is told of music, in fields and in one line that says the same. */
@Component({
  selector: 'vc-told-fields',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, InputText, StudioWords],
  templateUrl: './told-fields.html',
  styleUrl: './told-fields.css',
})
export class ToldFields {
  readonly draft = input.required<ToldDraft>();
  /** Whether boxes on a page say which measures there are. */
  readonly isOnPages = input(false);
  readonly draftChange = output<ToldDraft>();

  protected readonly meters = METERS;
  protected readonly fields = computed(() =>
    this.isOnPages() ? FIELDS.filter(({ name }) => name !== 'last') : FIELDS,
  );
  /** Measures and meter are there: what is wrong may be said. */
  protected readonly isBegun = computed(() => {
    const { fields, music, line } = this.draft();
    return music !== null || (fields.last !== '' && fields.meter !== '') || line.includes('/');
  });

  protected set(name: keyof Fields, text: string): void {
    this.draftChange.emit(ofFields({ ...this.draft().fields, [name]: text }));
  }

  protected setLine(line: string): void {
    this.draftChange.emit(ofLine(line, this.draft().fields));
  }
}
