import { focusHeading } from './focus-heading';

// WCAG 2.2, success criterion 2.4.3: the focus keeps an order that makes sense.
describe('focusHeading', () => {
  let main: HTMLElement;
  const later = (): Promise<void> => new Promise((done) => setTimeout(done, 20));
  const add = (html: string, where: HTMLElement = main): HTMLElement => {
    where.insertAdjacentHTML('beforeend', html);
    return where.lastElementChild as HTMLElement;
  };

  beforeEach(() => {
    main = document.createElement('main');
    document.body.append(main);
  });
  afterEach(() => main.remove());

  it('goes to the heading that is there, and to one that comes when its data are there', async () => {
    const first = add('<h1>Season</h1>');
    focusHeading(main);
    expect(document.activeElement).toBe(first);
    first.remove();
    focusHeading(main);
    await later();
    const second = add('<h1>Ilse</h1>');
    await later();
    expect(document.activeElement).toBe(second);
  });

  it('leaves whoever works in the page by then where they are, a field or a list', async () => {
    for (const html of ['<input>', '<div role="listbox" tabindex="0"></div>']) {
      main.replaceChildren();
      focusHeading(main);
      const here = add(html);
      here.focus();
      add('<h1>Score</h1>');
      await later();
      expect(document.activeElement).toBe(here);
    }
  });

  it('comes away from the link that led here, which stands outside the page', () => {
    const link = add('<a href="#">Season</a>', document.body);
    link.focus();
    const heading = add('<h1>Season</h1>');
    focusHeading(main);
    expect(document.activeElement).toBe(heading);
    link.remove();
  });
});
