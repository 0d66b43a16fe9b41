import type { Signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import type { AbstractControl } from '@angular/forms';
import { scan, startWith, switchMap } from 'rxjs';

/**
 * How often a form has changed: a template that reads it is drawn anew with every change of the form, wherever that
 * came from.
 * Shape:  a count from 0; call inside an injection context
 */
export function formChanges(form: Signal<AbstractControl>): Signal<number> {
  return toSignal(
    toObservable(form).pipe(
      switchMap((one) => one.valueChanges.pipe(startWith(null))),
      scan((count) => count + 1, 0),
    ),
    { initialValue: 0 },
  );
}
