import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import type { Span } from '@vivid-cue/core/score';
import { CueStore } from './cue-store';

/** What the next key writes at the note that is looked at; each is a button too. */
@Component({
  selector: 'vc-cue-keys',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p role="status">
      <strong>Cue at {{ store.whereText(selection().fromIndex) }}:</strong>
      <span class="ask">press a key</span>
    </p>
    <ul>
      @for (one of store.quick(); track one.key) {
        <li>
          <button type="button" (click)="store.writeQuick(one, selection().fromIndex)">
            <kbd>{{ one.key }}</kbd>
            {{ one.text }}
            @if (one.sign) {
              <span class="sign">{{ one.sign }}</span>
            }
          </button>
        </li>
      }
      <li>
        <button type="button" (click)="store.isAsking.set(false)"><kbd>esc</kbd> none</button>
      </li>
    </ul>
  `,
  styles: `
    :host {
      position: sticky;
      bottom: 8px;
      z-index: 5;
      display: block;
      box-shadow: 0 6px 20px rgb(29 36 51 / 22%);
      padding: 10px 14px;
      border: 1px solid var(--rule-strong);
      border-radius: 6px;
      background: var(--sheet);
    }
    p {
      margin: 0 0 8px;
    }
    ul {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
      margin: 0;
      padding: 0;
      list-style: none;
    }
    button {
      display: inline-flex;
      gap: 8px;
      align-items: center;
      min-height: 32px;
      padding: 3px 10px;
      border: 1px solid var(--rule-strong);
      border-radius: 6px;
      background: var(--paper);
      color: var(--ink);
      font: inherit;
      cursor: pointer;
    }
    kbd {
      padding: 0 6px;
      border-radius: 4px;
      background: var(--ink);
      color: var(--sheet);
      font: 600 14px var(--font-mono);
    }
    .sign {
      color: var(--primary);
      font-weight: 700;
    }
    /* A phone has no keys to press: one row under the thumb, so that the music stays in sight. */
    @media (max-width: 640px) {
      ul {
        flex-wrap: nowrap;
        overflow-x: auto;
        padding-bottom: 6px;
      }
      li {
        flex: none;
      }
      button {
        min-height: 40px;
      }
      kbd,
      .ask {
        display: none;
      }
    }
  `,
})
export class CueKeys {
  protected readonly store = inject(CueStore);
  readonly selection = input.required<Span>();
}
