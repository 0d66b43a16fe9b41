import { readSheet, type Correction } from '@vivid-cue/core/sheet';
import { show } from '../testing/shown';
import { SheetText } from './sheet-text';

const TEXT = `Skerrin Winds 2027
FLUTE
Item\tNo.\tPage
Lyrical\t4\t9
Technical\t7\t12
Woodwinds, east door
A gull, north pier
`;

describe('SheetText', () => {
  const reading = readSheet(TEXT);
  const parts = reading.sheet.parts.map(({ id, label, kind }) => ({ id, label, kind, group: '' }));
  const open = () => show(SheetText, { reading, parts }, []);
  type Page = Awaited<ReturnType<typeof open>>;
  const said = (page: Page): Correction[] => {
    const all: Correction[] = [];
    page.fixture.componentInstance.said.subscribe((one) => all.push(one));
    return all;
  };
  const choose = async (page: Page, label: string): Promise<void> => {
    await page.settled();
    const items = [...document.querySelectorAll<HTMLElement>('.role-menu [role=menuitem]')];
    items
      .find((item) => item.textContent?.trim() === label)
      ?.querySelector('a')
      ?.click();
    await page.settled();
  };

  it('steps from phrase to phrase that became nothing, and round again', async () => {
    const page = await open();
    const reached = [1, 2, 3].map(() => {
      page.fixture.componentInstance.step();
      return document.activeElement?.textContent?.trim();
    });
    expect(reached).toEqual(['Woodwinds, east door', 'A gull, north pier', 'Woodwinds, east door']);
  });

  it('lights the words that a field came from, and every word of a part that is pointed at', async () => {
    const page = await open();
    const lit = (): string[] =>
      [...page.host.querySelectorAll('.is-lit')].map((one) => one.textContent?.trim() ?? '');
    page.fixture.componentRef.setInput('lit', `${parts[1]?.id}/page`);
    await page.settled();
    expect(lit()).toEqual(['12']);
    page.fixture.componentRef.setInput('lit', parts[1]?.id);
    await page.settled();
    expect(lit()).toEqual(['7', '12']);
  });

  it('shows a table as a table, and takes what a column is told to hold', async () => {
    const page = await open();
    const all = said(page);
    const heads = [...page.host.querySelectorAll<HTMLElement>('th .role')];
    expect(heads.map((head) => head.textContent?.trim())).toEqual(['part', 'number', 'page']);
    heads[2]?.click();
    await choose(page, 'Points');
    expect(all).toEqual([
      { kind: 'column', at: { line: 'Item No. Page', nth: 0 }, column: 2, role: 'points' },
    ]);
  });

  it('says beside each line what it was taken for, and takes what it is told to be', async () => {
    const page = await open();
    const all = said(page);
    const roles = [...page.host.querySelectorAll<HTMLElement>('.margin .role')];
    expect(roles.map((role) => role.textContent?.trim())).toEqual([
      'title',
      'instrument',
      'unread',
      'unread',
    ]);
    roles[2]?.click();
    await choose(page, 'A rule for all');
    expect(all).toEqual([{ kind: 'line', at: { line: 'Woodwinds, east door', nth: 0 }, role: 'rule' }]);
    const shown = (): string | undefined => roles[2]?.textContent?.trim();
    expect(shown()).withContext('at once, while the text is read again').toBe('for all');
    page.fixture.componentRef.setInput('reading', readSheet(TEXT));
    await page.settled();
    expect(shown()).withContext('as the text was read again').toBe('unread');
  });

  it('marks words with the arrow keys and gives them to a field of the nearest part', async () => {
    const page = await open();
    const given: unknown[] = [];
    page.fixture.componentInstance.gave.subscribe((one) => given.push(one));
    const text = page.host.querySelector<HTMLElement>('.text');
    const key = (name: string, shiftKey = false): boolean =>
      text?.dispatchEvent(new KeyboardEvent('keydown', { key: name, shiftKey, bubbles: true })) ?? false;
    text?.focus();
    for (let n = 0; n < 2; n += 1) key('ArrowLeft');
    key('ArrowRight', true);
    await new Promise((done) => setTimeout(done, 250));
    await page.settled();
    expect(page.host.querySelector('vc-word-giver q')?.textContent).toBe('north pier');
    const give = [...page.host.querySelectorAll<HTMLButtonElement>('vc-word-giver button')].find(
      (button) => button.textContent?.trim() === 'Give',
    );
    give?.click();
    await page.settled();
    const start = TEXT.indexOf('north pier');
    expect(given).toEqual([
      { partId: parts[1]?.id, field: 'title', start, end: start + 'north pier'.length },
    ]);
  });
});
