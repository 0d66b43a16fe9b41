import { Turns } from './turns';

describe('Turns', () => {
  it('do each thing once and one at a time, whenever it is added', async () => {
    const done: number[] = [];
    let atOnce = 0;
    let most = 0;
    const turns = new Turns<number>(async (item) => {
      atOnce += 1;
      most = Math.max(most, atOnce);
      await Promise.resolve();
      // What comes in the very last moment of the work before it.
      if (item === 2) queueMicrotask(() => turns.add([3, 4]));
      await Promise.resolve();
      done.push(item);
      atOnce -= 1;
    });
    turns.add([1, 2]);
    for (let n = 0; n < 40; n += 1) await Promise.resolve();
    turns.add([5]);
    for (let n = 0; n < 40; n += 1) await Promise.resolve();
    expect(done).toEqual([1, 2, 3, 4, 5]);
    expect(most).toBe(1);
  });

  it('go on after a thing that fails, and leave out what is cleared', async () => {
    const done: string[] = [];
    const turns = new Turns<string>((item) => {
      done.push(item);
      return item === 'broken' ? Promise.reject(new Error('broken')) : Promise.resolve();
    });
    turns.add(['broken', 'next', 'cleared']);
    turns.clear();
    turns.add(['last']);
    for (let n = 0; n < 20; n += 1) await Promise.resolve();
    expect(done).toEqual(['broken', 'last']);
  });
});
