import { HttpErrorResponse } from '@angular/common/http';
import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { MessageService, type ToastMessageOptions } from 'primeng/api';
import { of, throwError, type Observable } from 'rxjs';
import { UndoNotice } from './undo-notice';

describe('UndoNotice', () => {
  let shown: ToastMessageOptions[];
  let isBack: boolean;

  beforeEach(() => {
    [shown, isBack] = [[], false];
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection(), MessageService] });
    const messages = TestBed.inject(MessageService);
    messages.messageObserver.subscribe((message) => shown.push(...[message].flat()));
    messages.clearObserver.subscribe(() => shown.splice(0));
  });

  function removed(undo: () => Observable<unknown>, done = 'return removed'): () => void {
    TestBed.inject(UndoNotice).offer({
      done,
      undone: 'return is there again',
      undo,
      back: () => (isBack = true),
    });
    return (shown.at(-1)?.data as { undo: () => void }).undo;
  }

  it('names what was done, then that it was taken back', () => {
    const undo = removed(() => of(null));
    expect(shown.map(({ summary }) => summary)).toEqual(['return removed']);
    expect(isBack).toBeFalse();
    undo();
    expect(isBack).toBeTrue();
    expect(shown.at(-1)?.summary).toBe('Taken back: return is there again');
  });

  it('says why something could not be taken back', () => {
    const undo = removed(() => throwError(() => new HttpErrorResponse({ status: 0 })));
    undo();
    expect(isBack).toBeFalse();
    expect([shown.at(-1)?.severity, shown.at(-1)?.detail]).toEqual([
      'error',
      jasmine.stringContaining('The server does not answer'),
    ]);
  });

  it('shows one notice at a time: the last state', () => {
    removed(() => of(null));
    removed(() => of(null), 'tune removed');
    expect(shown.map(({ summary }) => summary)).toEqual(['tune removed']);
  });
});
