import { ChangeDetectionStrategy, Component, DestroyRef, inject, input, output, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { MenuItem } from 'primeng/api';
import { Button, ButtonDirective } from 'primeng/button';
import { Menu } from 'primeng/menu';
import { Select } from 'primeng/select';
import { catchError, filter, map, of, switchMap } from 'rxjs';
import { v7 as newId } from 'uuid';
import { sheetFromStructure, type CsvParts, type SheetChange } from '@vivid-cue/contract';
import { troubleOf } from '../data/problem';
import { SessionStore } from '../data/session-store';
import { StudioApi } from '../data/studio-api';
import { importSheet } from './sheet-files';
import { nextYearOf } from './sheet-form';

/** What a sheet can be begun from beside a text: another sheet or a file; and what it can be saved as. */
@Component({
  selector: 'vc-desk-actions',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, ButtonDirective, FormsModule, Menu, RouterLink, Select],
  template: `
    @if (sheetId() === undefined) {
      <p-select
        [options]="[...others()]"
        optionLabel="label"
        optionValue="id"
        placeholder="Start from another sheet …"
        emptyMessage="No other sheet yet"
        [disabled]="others().length === 0"
        ariaLabel="Start from another sheet"
        [ngModel]="null"
        (ngModelChange)="copyFrom($event)"
        [style]="{ width: '260px', maxWidth: '80vw' }"
      />
    }
    <label class="p-button p-button-secondary p-button-outlined file">
      <i class="pi pi-upload" aria-hidden="true"></i>Import JSON or CSV
      <input type="file" accept=".json,.csv,application/json,text/csv" (change)="importFile($event)" />
    </label>
    @if (sheetId(); as id) {
      <p-button
        label="Export"
        icon="pi pi-angle-down"
        iconPos="right"
        severity="secondary"
        [outlined]="true"
        type="button"
        (onClick)="exports.toggle($event)"
      />
      <p-menu #exports [model]="fileMenu" [popup]="true" appendTo="body" />
      <a pButton [routerLink]="['/sheets', id, 'revisions']">A notice came</a>
    }
  `,
  styles: `
    :host {
      display: contents;
    }
    .file {
      cursor: pointer;
    }
    .file input {
      position: absolute;
      width: 1px;
      height: 1px;
      overflow: hidden;
      clip-path: inset(50%);
    }
    .file:focus-within {
      outline: 3px solid var(--focus);
      outline-offset: 2px;
    }
  `,
})
export class DeskActions {
  private readonly api = inject(StudioApi);
  private readonly session = inject(SessionStore);
  private readonly destroyRef = inject(DestroyRef);

  /** The sheet; none for a new one. */
  readonly sheetId = input<string>();
  /** The desk is to be filled from another sheet or a file. */
  readonly filled = output<SheetChange>();
  /** Parts came from a file, with the rows that could not be read. */
  readonly partsRead = output<CsvParts>();
  /** Something could not be read, in a sentence. */
  readonly failed = output<string>();
  /** The sheet is to be saved as a file. */
  readonly exported = output<'json' | 'csv'>();

  protected readonly others = signal<readonly { readonly id: string; readonly label: string }[]>([]);
  protected readonly fileMenu: MenuItem[] = [
    { label: 'Save as JSON', icon: 'pi pi-download', command: () => this.exported.emit('json') },
    { label: 'Save the parts as CSV', icon: 'pi pi-download', command: () => this.exported.emit('csv') },
  ];

  constructor() {
    toObservable(this.sheetId)
      .pipe(
        filter((id) => id === undefined),
        switchMap(() => this.api.sheets()),
        map((sheets) =>
          sheets.map(({ id, title, instrument }) => ({ id, label: `${title}, ${instrument}` })),
        ),
        catchError(() => of([])),
        takeUntilDestroyed(this.destroyRef),
      )
      .subscribe((sheets) => this.others.set(sheets));
  }

  /** Starts from another sheet: its parts with identifiers of their own, its dates without their days. */
  protected copyFrom(id: string): void {
    this.api
      .sheet(id)
      .pipe(takeUntilDestroyed(this.destroyRef))
      .subscribe({
        next: (sheet) => this.filled.emit(nextYearOf(sheet)),
        error: (error: unknown) => this.failed.emit(troubleOf(error).message),
      });
  }

  protected async importFile(event: Event): Promise<void> {
    const field = event.target as HTMLInputElement;
    const file = field.files?.[0];
    field.value = '';
    if (!file) return;
    try {
      const imported = await importSheet(file);
      if (imported.kind === 'parts') this.partsRead.emit(imported.csv);
      else this.filled.emit(sheetFromStructure(imported.sheet, { zone: this.session.zone(), newId }));
    } catch (error) {
      this.failed.emit(error instanceof Error ? error.message : 'The file could not be read.');
    }
  }
}
