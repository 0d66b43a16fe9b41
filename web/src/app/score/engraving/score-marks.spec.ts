import type { EngravedNote } from '@vivid-cue/core/reading';
import { boxOf, clearMarks, drawChosen, drawLayers, OFF_KEY, shapeOf, type ScoreMarks } from './score-marks';

/** One measure as Verovio 6 draws it: staff lines as paths, noteheads placed by their use element. */
function measureOf(noteCount: number): Element {
  const lines = [540, 720, 900, 1080, 1260].map((y) => `<path d="M1000 ${y} L5000 ${y}" stroke-width="13"/>`);
  const notes = Array.from(
    { length: noteCount },
    (_, n) =>
      `<g class="note"><g class="notehead"><use transform="translate(${1500 + n * 600}, 900) scale(0.72, 0.72)"/></g></g>`,
  );
  const svg = `<svg xmlns="http://www.w3.org/2000/svg"><g class="measure"><g class="staff">${lines.join('')}${notes.join('')}</g></g></svg>`;
  const measure = new DOMParser().parseFromString(svg, 'image/svg+xml').querySelector('g.measure');
  if (!measure) throw new Error('the measure is drawn');
  return document.importNode(measure, true);
}

const note = (change: Partial<EngravedNote> = {}): EngravedNote => ({
  note: 1,
  name: 'C',
  articulation: 'tongued',
  isGrace: false,
  isOffKey: false,
  ...change,
});

const none: ScoreMarks = {
  engraved: [],
  heat: null,
  articulations: false,
  name: null,
  rhythms: null,
  alike: null,
  findings: null,
  signs: new Map(),
};

describe('Marks in the engraving', () => {
  const engraved = [
    [
      note({ articulation: 'staccato' }),
      note({ note: 2, name: 'Eb', isOffKey: true, articulation: 'accent+staccato' }),
      note({ note: 3, articulation: 'tenuto' }),
    ],
  ];

  it('are placed by the picture’s own numbers, without laying it out', () => {
    expect(boxOf(measureOf(0))).toEqual({ left: 1000, right: 5000, top: 540, bottom: 1260 });
    const measure = measureOf(3);
    drawLayers(measure, 0, { ...none, engraved, heat: [0.5] });
    const heat = measure.querySelector('.heat');
    expect(['x', 'width'].map((name) => heat?.getAttribute(name))).toEqual(['1000', '4000']);
    // Behind the music: drawn first.
    expect(measure.firstElementChild).toBe(heat);
  });

  it('give every articulation a shape of its own', () => {
    const measure = measureOf(3);
    drawLayers(measure, 0, { ...none, engraved, articulations: true });
    const drawn = [...measure.querySelectorAll('.articulation')].map((node) => node.getAttribute('class'));
    expect(drawn).toEqual(['dot', 'square', 'bar'].map((shape) => `vc-mark articulation ${shape}`));
    const kinds = ['tongued', 'slurred', 'staccato', 'tenuto', 'accent', 'strong accent', 'staccatissimo'];
    expect(new Set(kinds.map(shapeOf)).size).toBe(kinds.length);
  });

  it('ring the asked note, and every note off the key', () => {
    for (const name of ['Eb', OFF_KEY]) {
      const measure = measureOf(3);
      drawLayers(measure, 0, { ...none, engraved, name });
      const rings = [...measure.querySelectorAll('g.note')].map(
        (node) => node.querySelector('.asked-name') !== null,
      );
      expect(rings).withContext(name).toEqual([false, true, false]);
    }
  });

  it('ring the notes of the chosen finding, and tint the measure where it names none', () => {
    const places = new Set([0]);
    const one = measureOf(3);
    drawChosen(one, 0, { engraved, chosen: { places, notes: [{ index: 0, note: 3 }] } });
    expect(
      [...one.querySelectorAll('g.note')].map((node) => node.querySelector('.chosen-note') !== null),
    ).toEqual([false, false, true]);
    const whole = measureOf(3);
    drawChosen(whole, 0, { engraved, chosen: { places, notes: [] } });
    expect(whole.querySelector('.chosen-measure')).not.toBeNull();
  });

  it('leave notes alone where picture and reading count them differently', () => {
    const measure = measureOf(2);
    drawLayers(measure, 0, { ...none, engraved, articulations: true, heat: [1] });
    expect(measure.querySelectorAll('.articulation').length).toBe(0);
    expect(measure.querySelectorAll('.heat').length).toBe(1);
  });

  it('go without a trace', () => {
    const measure = measureOf(3);
    const before = measure.outerHTML;
    drawLayers(measure, 0, {
      engraved,
      heat: [1],
      articulations: true,
      name: 'C',
      rhythms: ['A'],
      alike: ['= 3'],
      findings: new Map([[0, 'open']]),
      signs: new Map([
        [
          0,
          [
            { note: 1, text: '6', place: 'below', isOffered: false },
            { note: 2, text: '’', place: 'after', isOffered: true },
          ],
        ],
      ]),
    });
    // Heat, two tints with one label, a line, two signs, three articulations, two rings.
    expect(measure.querySelectorAll('.vc-mark').length).toBe(12);
    const [sign, breath] = [...measure.querySelectorAll('.sign')].map((one) => ({
      x: Number(one.getAttribute('x')),
      y: Number(one.getAttribute('y')),
    }));
    // The sign under its note, the breath after its own and above.
    expect((breath?.x ?? 0) > (sign?.x ?? 0) && (breath?.y ?? 0) < (sign?.y ?? 0)).toBeTrue();
    clearMarks(measure, 'layers');
    expect(measure.outerHTML).toBe(before);
  });

  it('stand at a beat where no note is meant, in the ink and shape of their kind', () => {
    const measure = measureOf(3);
    const look = { ink: 'brick', shape: 'box' } as const;
    const sign = { note: null, place: 'below', isOffered: false, look, cueId: 'c' } as const;
    const signs = [0, 0.5, 1].map((share) => ({ ...sign, text: `${share}`, share }));
    drawLayers(measure, 0, { ...none, engraved, signs: new Map([[0, signs]]) });
    const drawn = [...measure.querySelectorAll('text.sign')];
    const [first = 0, half = 0, last = 0] = drawn.map((node) => Number(node.getAttribute('x')));
    // From the first note's head to the right of the measure.
    expect([first > 1500, half - first, last < 5000]).toEqual([true, last - half, true]);
    expect(drawn.every((node) => node.classList.contains('ink-brick'))).toBeTrue();
    expect(measure.querySelectorAll('.sign-shape.ink-brick').length).toBe(3);
    clearMarks(measure, 'layers');
    expect(measure.querySelector('.vc-mark')).toBeNull();
  });
});
