import { HttpErrorResponse } from '@angular/common/http';
import {
  ChangeDetectionStrategy,
  Component,
  provideZonelessChangeDetection,
  type EnvironmentProviders,
  type Provider,
  type Type,
} from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter, Router } from '@angular/router';
import { ConfirmationService, MessageService } from 'primeng/api';
import { providePrimeNG } from 'primeng/config';

/** Whatever page one is led to. */
@Component({
  selector: 'vc-elsewhere',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: 'elsewhere',
})
class Elsewhere {}

/** A component as somebody in front of the screen has it: by the names of buttons and the words on the page. */
export class Shown<T> {
  readonly host: HTMLElement;

  constructor(readonly fixture: ComponentFixture<T>) {
    this.host = fixture.nativeElement as HTMLElement;
  }

  /** All that is to be read, also in dialogs, which stand beside the component; spaces are made one. */
  get text(): string {
    return [...document.body.children]
      .filter(({ tagName }) => tagName !== 'SCRIPT' && tagName !== 'STYLE')
      .map(({ textContent }) => textContent)
      .join(' ')
      .replace(/\s+/gu, ' ');
  }

  /** An element; what a spec asks for is there. */
  find<E extends Element = HTMLElement>(selector: string): E {
    const found = this.host.querySelector<E>(selector) ?? document.body.querySelector<E>(selector);
    if (!found) throw new Error(`Nothing answers to ${selector}.`);
    return found;
  }

  /** A button or link by its accessible name. */
  named(name: string): HTMLElement {
    const found = [...document.body.querySelectorAll<HTMLElement>('button, a, summary')].find(
      (element) =>
        (element.getAttribute('aria-label') ?? element.textContent ?? '').replace(/\s+/gu, ' ').trim() ===
        name,
    );
    if (!found) throw new Error(`No button is named “${name}”: ${this.text.slice(0, 2000)}`);
    return found;
  }

  /** Where one was led. */
  get address(): string {
    return this.fixture.debugElement.injector.get(Router).url;
  }

  async press(name: string): Promise<void> {
    this.named(name).click();
    await this.settled();
  }

  async type(selector: string, text: string): Promise<void> {
    const field = this.find<HTMLInputElement>(selector);
    field.value = text;
    field.dispatchEvent(new Event('input', { bubbles: true }));
    await this.settled();
  }

  async tick(selector: string): Promise<void> {
    this.find<HTMLInputElement>(selector).click();
    await this.settled();
  }

  async key(key: string, on: EventTarget = document.body): Promise<void> {
    on.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
    await this.settled();
  }

  async settled(): Promise<void> {
    await this.fixture.whenStable();
    await new Promise((done) => setTimeout(done));
    await this.fixture.whenStable();
  }

  /** Waits until the page says something: an effect, a file or a dialog comes in its own time. */
  async until(text: string): Promise<void> {
    for (let tries = 0; tries < 100 && !this.text.includes(text); tries += 1) {
      await new Promise((done) => setTimeout(done, 20));
      await this.fixture.whenStable();
    }
    expect(this.text).toContain(text);
  }
}

/** Shows a component with its inputs; what it asks of the server is given by `providers`. Shape: removed after the spec */
export async function show<T>(
  type: Type<T>,
  inputs: Readonly<Record<string, unknown>>,
  providers: (Provider | EnvironmentProviders)[],
): Promise<Shown<T>> {
  TestBed.configureTestingModule({
    providers: [
      provideZonelessChangeDetection(),
      provideRouter([{ path: '**', component: Elsewhere }]),
      providePrimeNG({}),
      MessageService,
      ConfirmationService,
      ...providers,
    ],
  });
  const fixture = TestBed.createComponent(type);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  document.body.append(fixture.nativeElement as HTMLElement);
  const shown = new Shown(fixture);
  await shown.settled();
  return shown;
}

/** A refusal as the server writes one. Source: RFC 9457 */
export function refusal(
  status: number,
  detail: string,
  more: Readonly<Record<string, unknown>> = {},
): HttpErrorResponse {
  return new HttpErrorResponse({
    status,
    error: { type: 'about:blank', title: 'Refused', status, code: 'refused', detail, ...more },
  });
}
