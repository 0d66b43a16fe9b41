import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { ActivatedRouteSnapshot, RouterStateSnapshot } from '@angular/router';
import { ConfirmationService, type Confirmation } from 'primeng/api';
import { keepsEdits, type Editing } from './unsaved-edits';

describe('keepsEdits', () => {
  let asked: Confirmation[];

  beforeEach(() => {
    asked = [];
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection(), ConfirmationService] });
    TestBed.inject(ConfirmationService).requireConfirmation$.subscribe((one) => one && asked.push(one));
  });

  const leave = (page: Partial<Editing> | null): unknown =>
    TestBed.runInInjectionContext(() =>
      keepsEdits(page, {} as ActivatedRouteSnapshot, {} as RouterStateSnapshot, {} as RouterStateSnapshot),
    );

  it('lets a page go that has no fields, or none that were changed', () => {
    expect([leave(null), leave({}), leave({ hasEdits: () => false })]).toEqual([true, true, true]);
    expect(asked).toEqual([]);
  });

  it('asks before edits are left, and stays where that is wanted', async () => {
    const staying = leave({ hasEdits: () => true });
    const leaving = leave({ hasEdits: () => true });
    expect(asked.map(({ defaultFocus }) => defaultFocus)).toEqual(['reject', 'reject']);
    (asked[0]?.reject as () => void)();
    (asked[1]?.accept as () => void)();
    await expectAsync(staying as Promise<boolean>).toBeResolvedTo(false);
    await expectAsync(leaving as Promise<boolean>).toBeResolvedTo(true);
  });
});
