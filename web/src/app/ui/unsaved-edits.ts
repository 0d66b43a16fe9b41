import { inject } from '@angular/core';
import type { CanDeactivateFn } from '@angular/router';
import { ConfirmationService } from 'primeng/api';

/** A page with fields that a person may have typed into. */
export interface Editing {
  /** Whether something typed would be lost by leaving. */
  hasEdits(): boolean;
}

/**
 * Asks before a page with edits is left, so that no click loses them.
 * Shape:  true at once where nothing was typed
 */
export const keepsEdits: CanDeactivateFn<Partial<Editing> | null> = (page) => {
  if (!page?.hasEdits?.()) return true;
  const confirmation = inject(ConfirmationService);
  return new Promise<boolean>((decide) => {
    confirmation.confirm({
      header: 'Leave without saving?',
      message: 'What you changed on this page is not saved yet.',
      acceptLabel: 'Leave and drop it',
      rejectLabel: 'Stay here',
      acceptButtonStyleClass: 'p-button-secondary p-button-outlined',
      defaultFocus: 'reject',
      accept: () => decide(true),
      reject: () => decide(false),
    });
  });
};
