import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { TabStrip } from './tab-strip';

// WAI-ARIA Authoring Practices, tabs pattern: arrows go round, Home and End to the ends, one tab stop.
describe('TabStrip', () => {
  it('is walked by the arrow keys and lets every other key through to the page', async () => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    const fixture = TestBed.createComponent(TabStrip);
    const tabs = ['one', 'two', 'three'].map((value) => ({ value, label: value, count: null }));
    fixture.componentRef.setInput('tabs', tabs);
    fixture.componentRef.setInput('active', 'one');
    fixture.componentRef.setInput('label', 'Tabs');
    fixture.componentInstance.open.subscribe((value) => fixture.componentRef.setInput('active', value));
    const host = fixture.nativeElement as HTMLElement;
    document.body.append(host);
    await fixture.whenStable();
    const press = async (key: string): Promise<string> => {
      const focused = host.querySelector('[tabindex="0"]');
      focused?.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
      await fixture.whenStable();
      return host.querySelector('[aria-selected=true]')?.id ?? '';
    };
    expect(await press('ArrowLeft')).toBe('tab-three');
    expect(await press('ArrowRight')).toBe('tab-one');
    expect(await press('End')).toBe('tab-three');
    expect(await press('Home')).toBe('tab-one');
    expect(host.querySelectorAll('[tabindex="0"]').length).toBe(1);
    let heard = '';
    const listen = (event: KeyboardEvent): void => {
      heard += event.key;
    };
    document.addEventListener('keydown', listen);
    await press('a');
    document.removeEventListener('keydown', listen);
    expect(heard).toBe('a');
    host.remove();
  });
});
