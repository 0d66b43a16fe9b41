import type { SheetReading } from '@vivid-cue/core/sheet';
import { show } from '../testing/shown';
import { SheetText } from './sheet-text';

describe('SheetText', () => {
  const text = 'Etude 1, p. 9. Bring a stand. Etude 2. Wear black.';
  const place = (words: string): { start: number; end: number } => ({
    start: text.indexOf(words),
    end: text.indexOf(words) + words.length,
  });
  const reading = {
    text,
    marks: [
      { ...place('Etude 1'), about: 'parts[0]/label' },
      { ...place('p. 9'), about: 'parts[0]/page' },
      { ...place('Etude 2'), about: 'parts[1]/label' },
    ],
    unread: [place('Bring a stand.'), place('Wear black.')],
  } as unknown as SheetReading;

  it('steps from phrase to phrase that became nothing, and round again', async () => {
    const page = await show(SheetText, { reading }, []);
    const component = page.fixture.componentInstance;
    const reached = [1, 2, 3].map(() => {
      component.step();
      return document.activeElement?.textContent;
    });
    expect(reached).toEqual(['Bring a stand.', 'Wear black.', 'Bring a stand.']);
  });

  it('lights every place of a part when one of them is pointed at', async () => {
    const page = await show(SheetText, { reading }, []);
    const [first] = page.host.querySelectorAll('.known');
    first?.dispatchEvent(new Event('mouseenter'));
    await page.settled();
    expect([...page.host.querySelectorAll('.is-lit')].map((lit) => lit.textContent)).toEqual([
      'Etude 1',
      'p. 9',
    ]);
  });
});
