import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import {
  fieldOf,
  partField,
  partName,
  readField,
  WORD_FIELDS,
  writeField,
  type ErrataReading,
  type SheetChangeNotice,
  type SheetPart,
} from '@vivid-cue/core/sheet';
import { fieldText, partText, valueText } from './change-text';

/** A change that a notice makes, to be ticked and put right. Shape: `typed` is what will stand, as a person types it */
interface Row {
  readonly change: SheetChangeNotice;
  readonly doubt: string | null;
  readonly isTicked: boolean;
  readonly typed: string;
}

/** A sentence that nobody could read, and what is to become of it by hand. */
interface Loose {
  readonly text: string;
  readonly partId: string;
  readonly field: string;
  readonly typed: string;
}

/** A sentence of a notice that stays as a note. */
const AS_NOTE = 'notes';

/** What a notice changes, row by row: each is ticked or not, and can be put right; what was not read can be laid by hand. */
@Component({
  selector: 'vc-errata-rows',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, FormsModule, InputText, Select],
  templateUrl: './errata-rows.html',
  styleUrl: './errata-rows.css',
})
export class ErrataRows {
  /** The notice as it was read. */
  readonly errata = input.required<ErrataReading>();
  /** The parts of the sheet that it amends. */
  readonly parts = input.required<readonly SheetPart[]>();

  protected readonly rows = linkedSignal((): readonly Row[] =>
    this.errata().changes.map((change) => ({
      change,
      doubt: change.doubt,
      isTicked: change.doubt === null,
      typed: typedOf(change),
    })),
  );
  protected readonly loose = linkedSignal((): readonly Loose[] =>
    this.errata().unread.map((text) => ({ text, partId: '', field: AS_NOTE, typed: '' })),
  );
  private readonly wasTried = signal(false);
  /** What cannot be read of what was typed, row by row. */
  protected readonly issues = computed(() => this.rows().map((row) => (row.isTicked ? issueOf(row) : '')));
  protected readonly partChoices = computed(() =>
    this.parts().map((part) => ({ value: part.id, label: partName(part, this.parts()) })),
  );
  protected readonly fieldChoices = [
    { value: AS_NOTE, label: 'a note, in its words' },
    ...WORD_FIELDS.map((name) => ({ value: name as string, label: fieldText(name) })),
  ];

  protected readonly valueText = valueText;
  protected readonly fieldText = fieldText;
  protected readonly partText = partText;

  /** How many rows are ticked. */
  readonly ticked = computed(() => this.rows().filter(({ isTicked }) => isTicked).length);
  /** Whether every ticked row can be read. */
  readonly isSound = computed(() => this.issues().every((issue) => issue === ''));

  /** The notice with the rows that were ticked, as they were put right. */
  chosen(): ErrataReading {
    const rows = this.rows();
    const changes = rows
      .filter(({ isTicked }) => isTicked)
      .map(({ change, typed, doubt }) => ({
        ...change,
        text: change.text ?? '',
        doubt,
        new: valueOf(change, typed),
      }));
    const isKept = (text: string): boolean => {
      const own = rows.filter(({ change }) => change.text === text);
      return own.length === 0 || own.some(({ isTicked }) => isTicked);
    };
    return { ...this.errata(), changes, notes: this.errata().notes.filter(({ text }) => isKept(text)) };
  }

  protected tick(n: number): void {
    this.rows.update((rows) => rows.map((row, at) => (at === n ? { ...row, isTicked: !row.isTicked } : row)));
  }

  /** Whoever puts a row right wants it. */
  protected type(n: number, typed: string): void {
    this.rows.update((rows) => rows.map((row, at) => (at === n ? { ...row, typed, isTicked: true } : row)));
  }

  protected lay(n: number, change: Partial<Loose>): void {
    this.loose.update((all) => all.map((one, at) => (at === n ? { ...one, ...change } : one)));
  }

  protected looseIssue({ partId, field, typed }: Loose): string {
    if (field === AS_NOTE) return '';
    if (partId === '') return this.wasTried() ? 'Choose the part that it changes.' : '';
    const known = partField(field);
    const read = known && typed.trim() !== '' ? readField(known, typed) : null;
    if (read && 'issue' in read) return read.issue;
    return this.wasTried() && typed.trim() === '' ? 'Write what will stand.' : '';
  }

  /** A sentence becomes a row of its own, as a change or as a note. */
  protected take(n: number): void {
    const one = this.loose()[n];
    if (!one) return;
    this.wasTried.set(true);
    if (this.looseIssue(one) !== '') return;
    const part = this.parts().find(({ id }) => id === one.partId);
    const known = partField(one.field);
    const change: SheetChangeNotice = {
      partId: part?.id ?? null,
      part: part?.label ?? 'the sheet',
      field: one.field,
      old: part && known ? fieldOf(part, known.name) : null,
      new: one.field === AS_NOTE ? one.text : null,
      text: one.text,
    };
    const typed = one.field === AS_NOTE ? one.text : one.typed;
    this.rows.update((rows) => [...rows, { change, doubt: null, isTicked: true, typed }]);
    this.loose.update((all) => all.filter((_, at) => at !== n));
    this.wasTried.set(false);
  }
}

function typedOf({ field, new: value }: SheetChangeNotice): string {
  const known = partField(field);
  return known ? writeField(known, value) : String(value ?? '');
}

function valueOf({ field, new: value }: SheetChangeNotice, typed: string): unknown {
  const known = partField(field);
  if (!known) return typed.trim() === '' ? null : typed.trim();
  // What nobody touched keeps what no text holds, such as the words of an anchor.
  if (typed === writeField(known, value)) return value;
  const read = readField(known, typed);
  return 'value' in read ? read.value : value;
}

function issueOf({ change, typed }: Row): string {
  const known = partField(change.field);
  if (known) {
    const read = typed === writeField(known, change.new) ? null : readField(known, typed);
    return read && 'issue' in read ? read.issue : '';
  }
  if (change.field === 'date' && !/^\d{4}-\d{2}-\d{2}(?:\/\d{4}-\d{2}-\d{2})?$/u.test(typed))
    return 'Write the day as year-month-day.';
  if (change.field === 'time' && !/^(?:[01]\d|2[0-3]):[0-5]\d$/u.test(typed))
    return 'Write a time of day such as 17:00.';
  return typed.trim() === '' ? 'Write what will stand.' : '';
}
