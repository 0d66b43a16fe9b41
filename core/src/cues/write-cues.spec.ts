import { abcToMusicXml } from '../abc/index.js';
import { readScore } from '../score/index.js';
import { readFileSync } from 'node:fs';
import { CUE_KINDS } from '../cue-kinds/index.js';
import { drawnNotes, drawnSigns, engineWarnings } from '../score/testing/verovio.js';
import { structureSlips } from './testing/structure.js';
import { cuesIn, withCues, withoutCues, type FileCue } from './index.js';

/** Signs of every kind that is written otherwise. */
const SIGNS = ['’', 'R', 'V', '⊓', '2', 'II', '', '4', 'fork', '<&>'];

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

const cue = (change: Partial<FileCue>): FileCue => ({
  kind: 'other',
  fromIndex: 0,
  endIndex: 1,
  note: null,
  beat: null,
  sign: '',
  text: 'listen',
  status: 'settled',
  reason: '',
  author: 'instructor',
  alternatives: [],
  ...change,
});

function studyXml(): string {
  const xml = abcToMusicXml('X:1\nM:4/4\nL:1/4\nK:C\nc d {e}d- d | (e f) g2 | z c c4 z |\n');
  if (!xml.ok) throw new Error(xml.issues[0]?.message);
  return xml.value;
}

describe('cues in a file', () => {
  const cues = [
    cue({ kind: 'fingering', note: 2, sign: 'R', text: 'Right', reason: '"left" is <taken> & blocked' }),
    cue({ kind: 'breath', fromIndex: 1, endIndex: 2, note: 3, sign: '’', text: 'Breathe here' }),
    cue({
      ...{ kind: 'string', fromIndex: 1, endIndex: 2, note: 2, sign: '2', text: 'On the D string' },
      ...{ author: 'solver', alternatives: [{ text: 'open A', reason: 'too bright', isSafe: true }] },
    }),
    cue({ kind: 'bow', fromIndex: 1, endIndex: 2, note: 1, sign: 'V', text: 'Up-bow' }),
    cue({ kind: 'trap', fromIndex: 2, endIndex: 3, beat: 2.5, text: 'count the rest' }),
  ];

  // MusicXML 4.0: technical, articulations and directions where the schema has them.
  it('stand at their notes as other programs read them', () => {
    const written = withCues(bytes(studyXml()), { partId: null, cues });
    if (!written.ok) throw new Error(written.issues[0]?.message);
    const score = readScore(bytes(written.value));
    if (!score.ok) throw new Error(score.issues[0]?.message);
    const [before] = [readScore(bytes(studyXml()))];
    if (!before.ok) throw new Error(before.issues[0]?.message);
    expect(score.value.notes.length).toBe(before.value.notes.length);
    const breath = score.value.notes.filter(({ signs }) => signs.hasBreath);
    expect(breath.map(({ measureIndex, written: pitch }) => [measureIndex, pitch?.step])).toEqual([[1, 'G']]);
    const up = score.value.notes.filter(({ signs }) => signs.techniques.includes('up-bow'));
    expect(up.map(({ measureIndex, written: pitch }) => [measureIndex, pitch?.step])).toEqual([[1, 'E']]);
    expect(written.value).toContain('<fingering color="#7A3E6E">R</fingering>');
    expect(score.value.marks.words.map(({ measureIndex, text }) => [measureIndex, text])).toEqual([
      [2, 'beat 2.5: count the rest'],
    ]);
  });

  it('come back as they were, and the music with them; nothing comes from files of others', () => {
    const written = withCues(bytes(studyXml()), { partId: null, cues });
    expect(written.ok && cuesIn(written.value)).toEqual(cues);
    expect(cuesIn(studyXml())).toEqual([]);
    expect(cuesIn('<miscellaneous-field name="vivid-cue-cues">[{broken</miscellaneous-field>')).toEqual([]);
  });

  it('changed by hand are taken as far as they can be understood', () => {
    const field = (list: unknown): string =>
      `<miscellaneous-field name="vivid-cue-cues">${JSON.stringify(list).replaceAll('"', '&quot;')}</miscellaneous-field>`;
    const good = { kind: 'ear', text: 'hear it', fromIndex: 1, endIndex: 2 };
    expect(
      cuesIn(
        field([
          good,
          null,
          3,
          { ...good, kind: 'spell' },
          { ...good, endIndex: 1 },
          { ...good, fromIndex: -1 },
          { ...good, text: 7 },
        ]),
      ),
    ).toEqual([cue({ ...good, kind: 'ear' })]);
    const odd = { ...good, note: 'x', status: 'lost', author: 'who', alternatives: [{ text: 'so' }, 'no'] };
    expect(cuesIn(field([odd]))).toEqual([
      cue({ ...good, kind: 'ear', alternatives: [{ text: 'so', reason: '', isSafe: false }] }),
    ]);
  });

  // MusicXML 4.0 lets a note have notations twice; many programs read the first alone.
  it('stand within the notations that a note has already', async () => {
    const study = studyXml().replaceAll(
      '</note>',
      '<notations><articulations><staccato/></articulations></notations></note>',
    );
    const two = [
      cue({ kind: 'breath', note: 1, sign: '’' }),
      cue({ kind: 'fingering', note: 1, sign: '4' }),
      cue({ kind: 'bow', note: 1, sign: 'V' }),
    ];
    const written = withCues(bytes(study), { partId: null, cues: two });
    if (!written.ok) throw new Error(written.issues[0]?.message);
    expect(structureSlips(written.value)).toEqual([]);
    expect(written.value.match(/<notations>/gu)?.length).toBe(study.match(/<notations>/gu)?.length ?? 0);
    expect(written.value).toContain('<staccato/><breath-mark');
    expect(withoutCues(written.value)).toBe(study);
    expect(withoutCues(study)).toBe(study);
    const signs = await drawnSigns();
    expect(signs(written.value)).toEqual({ breath: 1, fing: 1 });
  });

  it('are drawn by the engraving engine, note for note', async () => {
    const written = withCues(bytes(studyXml()), { partId: null, cues });
    if (!written.ok) throw new Error(written.issues[0]?.message);
    const draw = await drawnNotes();
    expect(draw(written.value)).toEqual(draw(studyXml()));
  });

  // Real files too: every study of the demo with a cue of each kind at every note of its first measures.
  it('keep a file as the schema has it, and the engine takes it without a warning', async () => {
    const warnings = await engineWarnings();
    const kinds = CUE_KINDS.flatMap((kind, n) => [
      cue({ kind, note: 1 + (n % 3), fromIndex: 1, endIndex: 2, sign: SIGNS[n % SIGNS.length] ?? '' }),
      cue({ kind, fromIndex: 2, endIndex: 3 }),
    ]);
    for (const name of [
      'ferry-lines',
      'glass-harbour',
      'harbor-bell',
      'lee-shore',
      'petrel-song',
      'slack-water',
    ]) {
      const file = readFileSync(new URL(`../../../demo/studies/${name}.musicxml`, import.meta.url));
      const before = warnings(file.toString());
      const written = withCues(file, { partId: null, cues: kinds });
      if (!written.ok) throw new Error(written.issues[0]?.message);
      expect(structureSlips(file.toString())).withContext(`${name} as it came`).toEqual([]);
      expect(structureSlips(written.value)).withContext(name).toEqual([]);
      expect(warnings(written.value)).withContext(name).toEqual(before);
      // Taken out again they leave nothing behind.
      expect(withoutCues(written.value) === file.toString())
        .withContext(name)
        .toBeTrue();
      expect(before).withContext(`${name} as it came`).toBe('');
    }
    // Both would tell.
    const broken = studyXml().replace(
      '<pitch>',
      '<notations><technical/></notations><fingering>1</fingering><pitch>',
    );
    expect(structureSlips(broken).length).toBeGreaterThan(1);
    expect(
      warnings(studyXml().replace('</note>', '<notations><slur type="stop"/></notations></note>')),
    ).toContain('slur');
  });
});
