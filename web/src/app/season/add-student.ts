import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  inject,
  model,
  output,
  signal,
  linkedSignal,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormBuilder, ReactiveFormsModule, Validators } from '@angular/forms';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { v7 as newId } from 'uuid';
import type { RecordReadView, StudentView } from '@vivid-cue/contract';
import { troubleOf } from '../data/problem';
import { StudioApi } from '../data/studio-api';
import { ProblemNote } from '../ui/problem-note';
import { AddStudents } from './add-students';
import { InstrumentList } from '../ui/instrument-list';
import { ReadRecord } from './read-record';

/** A new student: a name and an instrument. */
@Component({
  selector: 'vc-add-student',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    AddStudents,
    Button,
    Dialog,
    InputText,
    InstrumentList,
    ProblemNote,
    ReactiveFormsModule,
    ReadRecord,
  ],
  template: `
    <p-dialog
      [focusOnShow]="false"
      (onShow)="focusName()"
      closeAriaLabel="Close"
      [header]="way() === 'many' ? 'Add students' : 'Add a student'"
      [modal]="true"
      [draggable]="false"
      [(visible)]="isOpen"
      [style]="{ width: '480px', maxWidth: '94vw' }"
    >
      <div class="ways" role="group" aria-label="How many">
        <p-button
          label="One"
          size="small"
          severity="secondary"
          [outlined]="way() !== 'one'"
          (onClick)="way.set('one')"
        />
        <p-button
          label="Several at once"
          size="small"
          severity="secondary"
          [outlined]="way() !== 'many'"
          (onClick)="way.set('many')"
        />
        <p-button
          label="From a saved record"
          size="small"
          severity="secondary"
          [outlined]="way() !== 'record'"
          (onClick)="way.set('record')"
        />
      </div>
      @if (way() === 'record') {
        <vc-read-record (taken)="recordTaken.emit($event)" (closed)="isOpen.set(false)" />
      } @else if (way() === 'many') {
        <vc-add-students (added)="addedMany.emit($event)" (closed)="isOpen.set(false)" />
      } @else {
        <form [formGroup]="form" (ngSubmit)="submit()" novalidate>
          <vc-problem-note [message]="failure()" />
          <div class="field">
            <label for="student-name">Name</label>
            <input pInputText id="student-name" formControlName="name" maxlength="120" autocomplete="off" />
            <span class="hint"
              >As you call them in the studio; no more is kept than this and the instrument.</span
            >
            @if (wasSent() && form.controls.name.invalid) {
              <span class="wrong">Write the student’s name.</span>
            }
          </div>
          <div class="field">
            <label for="student-instrument">Instrument</label>
            <input
              pInputText
              id="student-instrument"
              formControlName="instrument"
              maxlength="60"
              list="instruments"
              autocomplete="off"
            />
            <vc-instrument-list listId="instruments" />
            @if (wasSent() && form.controls.instrument.invalid) {
              <span class="wrong">Write the instrument, such as clarinet.</span>
            }
          </div>
          <div class="buttons">
            <p-button
              label="Cancel"
              type="button"
              severity="secondary"
              [text]="true"
              (onClick)="isOpen.set(false)"
            />
            <p-button label="Add the student" type="submit" [loading]="isBusy()" />
          </div>
        </form>
      }
    </p-dialog>
  `,
  styles: `
    .ways {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
      margin-bottom: 16px;
    }
    form {
      display: flex;
      flex-direction: column;
      gap: 16px;
    }
  `,
})
export class AddStudent {
  private readonly api = inject(StudioApi);
  private readonly destroyRef = inject(DestroyRef);
  private id = newId();

  readonly isOpen = model.required<boolean>();
  readonly added = output<StudentView>();
  /** How many were added at once. */
  readonly addedMany = output<number>();

  /** What came with a record of a student. */
  readonly recordTaken = output<RecordReadView>();

  protected readonly way = signal<'one' | 'many' | 'record'>('one');

  protected readonly isBusy = signal(false);
  protected readonly wasSent = linkedSignal({ source: this.isOpen, computation: () => false });
  protected readonly failure = signal<string | null>(null);
  protected readonly form = inject(FormBuilder).nonNullable.group({
    name: ['', [Validators.required, Validators.pattern(/\S/u)]],
    instrument: ['', [Validators.required, Validators.pattern(/\S/u)]],
  });

  /** Whoever types already is not interrupted: the dialog opens with a motion that takes its time. */
  protected focusName(): void {
    if (document.activeElement instanceof HTMLInputElement) return;
    document.getElementById('student-name')?.focus();
  }

  protected submit(): void {
    this.wasSent.set(true);
    if (this.form.invalid || this.isBusy()) return;
    this.isBusy.set(true);
    this.api
      .addStudent({ id: this.id, ...this.form.getRawValue() })
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: (student) => {
          this.id = newId();
          this.isBusy.set(false);
          this.failure.set(null);
          this.form.reset();
          this.added.emit(student);
        },
        error: (error: unknown) => {
          this.isBusy.set(false);
          this.failure.set(troubleOf(error).message);
        },
      });
  }
}
