import { of, throwError } from 'rxjs';
import type { ProgramList, SheetLine } from '@vivid-cue/contract';
import { StudioApi } from '../data/studio-api';
import { refusal, show, type Shown } from '../testing/shown';
import { GiveSheet } from './give-sheet';

const student = (name: string, instrument: string) => ({
  student: { id: name.toLowerCase(), name, instrument, version: 1 },
});
const sheet = { id: 's', title: 'Skerry Board 2027', instrument: 'Clarinet, Alto saxophone' } as SheetLine;

describe('GiveSheet', () => {
  let dialog: Shown<GiveSheet>;
  let sent: ProgramList[];
  let fails: unknown;
  let given: number[];

  beforeEach(async () => {
    [sent, fails, given] = [[], null, []];
    const api = {
      season: () =>
        of({
          rows: [
            student('Tam', 'bassoon'),
            student('Oru', 'alto sax'),
            student('Ilse', 'B♭ clarinet'),
            student('Ann', 'clarinet'),
          ],
        }),
      sheetPrograms: () => of([{ programId: 'p', studentId: 'ann' }]),
      addPrograms: (_id: string, list: ProgramList) => {
        sent.push(list);
        return fails ? throwError(() => fails) : of([]);
      },
    };
    dialog = await show(GiveSheet, { sheet }, [{ provide: StudioApi, useValue: api }]);
    dialog.fixture.componentInstance.given.subscribe((count) => given.push(count));
    await dialog.until('has it');
  });

  const boxes = (): (readonly [name: string, isTicked: boolean, isOpen: boolean])[] =>
    [...document.querySelectorAll('li label')].map((label) => {
      const box = label.querySelector('input');
      return [label.querySelector('span')?.textContent ?? '', box?.checked ?? false, box?.disabled === false];
    });

  it('has ticked who plays an instrument of the sheet, by whatever name, and leaves out who has it', () => {
    expect(boxes()).toEqual([
      ['Ann', true, false],
      ['Ilse', true, true],
      ['Oru', true, true],
      ['Tam', false, true],
    ]);
    expect(dialog.named('Give it to 2 students')).toBeDefined();
  });

  it('gives it to whom is ticked, says why where it could not, and tries again', async () => {
    document.querySelectorAll<HTMLInputElement>('li input')[1]?.click();
    await dialog.settled();
    fails = refusal(409, 'The sheet was removed meanwhile.');
    await dialog.press('Give it to 1 student');
    expect(dialog.text).toContain('The sheet was removed meanwhile.');
    expect(given).toEqual([]);
    fails = null;
    await dialog.press('Give it to 1 student');
    expect(sent.map(({ programs }) => programs.map(({ studentId }) => studentId))).toEqual([
      ['oru'],
      ['oru'],
    ]);
    expect(given).toEqual([1]);
  });
});
