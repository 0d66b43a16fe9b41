import { signal } from '@angular/core';
import { of, throwError } from 'rxjs';
import type { PassageChange, PassageView } from '@vivid-cue/contract';
import { ScoreApi } from '../../data/score-api';
import { SessionStore } from '../../data/session-store';
import { refusal, show, type Shown } from '../../testing/shown';
import { CutBar } from './cut-bar';
import { PassageEditor } from './passage-editor';

const passage = (change: Partial<PassageView> = {}): PassageView =>
  ({
    id: 'a',
    name: 'the run',
    from: '9',
    to: '12',
    target: { bpm: 96, beatUnit: 'quarter' },
    hasOwnTarget: false,
    step: { kind: 'usual' },
    rule: 'three-in-a-row',
    slipRule: 'two-down',
    school: null,
    version: 3,
    ...change,
  }) as PassageView;
const words = { provide: SessionStore, useValue: { vocabulary: signal('us'), zone: signal('UTC') } };

describe('PassageEditor', () => {
  let editor: Shown<PassageEditor>;
  let sent: (readonly [version: number, change: PassageChange])[];
  let saved: PassageView[];
  let fails: unknown;

  beforeEach(async () => {
    [sent, saved, fails] = [[], [], null];
    const api = {
      changePassage: ({ version }: PassageView, change: PassageChange) => {
        sent.push([version, change]);
        return fails ? throwError(() => fails) : of(passage({ version: version + 1 }));
      },
    };
    editor = await show(PassageEditor, { passage: passage() }, [{ provide: ScoreApi, useValue: api }, words]);
    editor.fixture.componentInstance.saved.subscribe((view) => saved.push(view));
    await editor.until('Change the passage');
  });
  const number = async (selector: string, text: string): Promise<void> => {
    const field = editor.find<HTMLInputElement>(selector);
    field.focus();
    field.value = text;
    field.dispatchEvent(new Event('input', { bubbles: true }));
    field.dispatchEvent(new Event('blur'));
    await editor.settled();
  };

  it('saves name and measures, and leaves the tempo to the part', async () => {
    await editor.type('#passage-name', ' the climb ');
    await editor.type('#passage-span', 'mm. 9 to 14');
    await editor.press('Save');
    expect(sent).toEqual([
      [
        3,
        {
          name: 'the climb',
          from: '9',
          to: '14',
          target: null,
          step: { kind: 'usual', size: null },
          rule: 'three-in-a-row',
          slipRule: 'two-down',
          school: null,
        },
      ],
    ]);
    expect(saved.map(({ version }) => version)).toEqual([4]);
  });

  it('takes a tempo that is typed for the passage’s own', async () => {
    await number('#passage-bpm', '88');
    expect(editor.find<HTMLInputElement>('input[name="own"]').checked).toBeTrue();
    await editor.press('Save');
    expect(sent[0]?.[1].target).toEqual({ bpm: 88, beatUnit: 'quarter' });
  });

  it('says while one types what cannot be, and saves nothing of it', async () => {
    await editor.type('#passage-span', '9 and a bit');
    expect(editor.text).toContain('is not a run of measures');
    await editor.type('#passage-span', '9–12');
    await number('#passage-bpm', '4000');
    expect(editor.text).toContain('A tempo lies between 10 and 400');
    expect(editor.named('Save').hasAttribute('disabled')).toBeTrue();
    expect(sent).toEqual([]);
  });

  it('keeps what is typed when a rep is acknowledged meanwhile, and begins anew with another passage', async () => {
    await editor.type('#passage-name', 'half typed');
    editor.fixture.componentRef.setInput('passage', passage({ writes: 9 }));
    await editor.settled();
    expect(editor.find<HTMLInputElement>('#passage-name').value).toBe('half typed');
    editor.fixture.componentRef.setInput('passage', passage({ id: 'b', name: 'the end', version: 8 }));
    await editor.settled();
    expect(editor.find<HTMLInputElement>('#passage-name').value).toBe('the end');
    await editor.press('Save');
    expect(sent[0]?.[0]).toBe(8);
  });

  it('is saved at the second try where somebody else was faster, with what was typed', async () => {
    await editor.type('#passage-name', 'mine');
    fails = refusal(409, 'Somebody else changed this passage.', {
      code: 'version-stale',
      current: passage({ version: 6, name: 'theirs' }),
    });
    await editor.press('Save');
    expect(editor.text).toContain('Somebody else changed this passage.');
    fails = null;
    await editor.press('Save');
    expect(sent.map(([version, { name }]) => [version, name])).toEqual([
      [3, 'mine'],
      [6, 'mine'],
    ]);
  });
});

describe('CutBar', () => {
  let bar: Shown<CutBar>;
  let sent: { readonly id: string; readonly from: string; readonly to: string }[];
  let fails: unknown;
  const measures = ['0', '1', '2', '3', '3a', '4'].map((number, index) => ({
    index,
    number,
    quarters: 4,
    isAsked: true,
  }));

  beforeEach(async () => {
    [sent, fails] = [[], null];
    const api = {
      addPassage: (_part: string, input: { id: string; from: string; to: string }) => {
        sent.push(input);
        return fails ? throwError(() => fails) : of(passage());
      },
    };
    bar = await show(CutBar, { programPartId: 'p', measures }, [{ provide: ScoreApi, useValue: api }, words]);
  });

  it('makes a passage of what is typed, and says nothing while a number is half typed', async () => {
    const made: PassageView[] = [];
    bar.fixture.componentInstance.made.subscribe((view) => made.push(view));
    await bar.type('#cut-span', '2–');
    expect(bar.find('.wrong').textContent).toBe('');
    expect(bar.named('Make it').hasAttribute('disabled')).toBeTrue();
    await bar.type('#cut-span', '2–3A');
    await bar.press('Make it');
    expect(sent.map(({ from, to }) => [from, to])).toEqual([['2', '3A']]);
    expect([made.length, bar.find<HTMLInputElement>('#cut-span').value]).toEqual([1, '']);
  });

  it('says what the score does not hold', async () => {
    await bar.type('#cut-span', '2–9');
    expect(bar.text).toContain('This piece has measures 0 to 4; 9 is not one of them.');
    expect(sent).toEqual([]);
  });

  it('shows the numbers of a selection; what is typed stays when it goes', async () => {
    bar.fixture.componentRef.setInput('selection', { fromIndex: 1, endIndex: 4 });
    await bar.settled();
    expect(bar.find<HTMLInputElement>('#cut-span').value).toBe('1–3');
    bar.fixture.componentRef.setInput('selection', null);
    await bar.settled();
    expect(bar.find<HTMLInputElement>('#cut-span').value).toBe('1–3');
  });

  it('keeps what was typed where it is refused; sent again it is the same passage', async () => {
    await bar.type('#cut-span', '1-2');
    fails = refusal(503, 'Busy.');
    await bar.press('Make it');
    expect(bar.find('.wrong').textContent).toContain('Busy.');
    fails = null;
    await bar.press('Make it');
    expect(new Set(sent.map(({ id }) => id)).size).toBe(1);
  });
});
