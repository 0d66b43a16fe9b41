import { choosePart } from './index.js';

// In a solo with accompaniment the solo stands above (common practice, no source).
describe('choosePart', () => {
  const parts = (...names: string[]): { id: string; name: string; noteCount: number }[] =>
    names.map((name, n) => ({ id: `P${n + 1}`, name, noteCount: name.startsWith('(') ? 0 : 9 }));
  const chosen = (instrument: string | null, ...names: string[]): string | null =>
    choosePart(parts(...names), instrument)?.name ?? null;

  it('takes the part named like the instrument, whatever its key and number', () => {
    expect(chosen('clarinet', 'Flute', 'Clarinet in B♭', 'Piano')).toBe('Clarinet in B♭');
    expect(chosen('Clarinet in A', 'Flute', 'Solo Clarinet', 'Piano')).toBe('Solo Clarinet');
    expect(chosen('horn', 'Piano', 'Horn in F 1', 'Horn in F 2')).toBe('Horn in F 1');
    expect(chosen('piano', 'Oboe', 'Piano')).toBe('Piano');
  });

  it('passes accompaniment over when nothing is named', () => {
    expect(chosen(null, 'Piano', 'Oboe')).toBe('Oboe');
    expect(chosen('tuba', 'Pno.', 'Oboe')).toBe('Oboe');
    expect(chosen(null, 'Piano')).toBe('Piano');
  });

  it('never takes a part without notes', () => {
    expect(chosen('oboe', '(empty) Oboe', 'Piano')).toBe('Piano');
    expect(chosen(null, '(nothing)')).toBeNull();
  });
});
