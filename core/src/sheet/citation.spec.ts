import { citationOf } from './citation.js';
import { NO_SOURCE } from './model.js';

// The order number, page, book, edition is common practice of requirement lists, no source.
describe('where a part’s music stands', () => {
  const said = (source: Partial<typeof NO_SOURCE>): string =>
    citationOf({ source: { ...NO_SOURCE, ...source } });

  it('is told in one line, with all that the sheet states and no more', () => {
    const whole = {
      composer: 'L. Osk',
      book: 'Shoreline Pieces',
      number: '17',
      page: '26',
      edition: 'rev. ed.',
    };
    expect(said(whole)).toBe('no. 17, p. 26, Shoreline Pieces, rev. ed., by L. Osk');
    expect(said({ book: 'Shoreline Pieces', number: '7b' })).toBe('no. 7b, Shoreline Pieces');
    expect(said({ number: 'Book II', page: '26–27' })).toBe('Book II, pp. 26–27');
    expect(said({})).toBe('');
  });
});
