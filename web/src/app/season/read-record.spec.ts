import { RECORD_BYTES } from '@vivid-cue/contract/record-limits';
import { of } from 'rxjs';
import { StudioApi } from '../data/studio-api';
import { show } from '../testing/shown';
import { ReadRecord } from './read-record';

describe('ReadRecord', () => {
  const choose = async (bytes: number): Promise<{ text: string; sent: number }> => {
    let sent = 0;
    const api = {
      readRecord: () => {
        sent += 1;
        return of({ studentId: 's', passages: 0, reps: 0, differing: [] });
      },
    };
    const page = await show(ReadRecord, {}, [{ provide: StudioApi, useValue: api }]);
    const file = new File(['{}'], 'record.json', { type: 'application/json' });
    Object.defineProperty(file, 'size', { value: bytes });
    const input = page.find<HTMLInputElement>('#record-file');
    Object.defineProperty(input, 'files', { value: [file] });
    input.dispatchEvent(new Event('change'));
    await page.settled();
    return { text: page.text, sent };
  };

  it('says before anything is sent how a record is read in that is too large', async () => {
    const { text, sent } = await choose(RECORD_BYTES + 1);
    expect(sent).toBe(0);
    expect(text).toContain('Export the student again with “Export without sounds”');
  });

  it('sends one that is not', async () => {
    const { text, sent } = await choose(RECORD_BYTES);
    expect(sent).toBe(1);
    expect(text).not.toContain('larger than');
  });
});
