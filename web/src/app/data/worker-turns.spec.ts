import { provideZonelessChangeDetection } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Observable, type Subscriber } from 'rxjs';
import { WorkerTurns, type TurnRank } from './worker-turns';

describe('WorkerTurns', () => {
  let begun: string[];
  let open: Map<string, Subscriber<string>>;

  const turnsOn = (processors: number): ((name: string, rank?: TurnRank) => Observable<string>) => {
    spyOnProperty(navigator, 'hardwareConcurrency').and.returnValue(processors);
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    const turns = TestBed.inject(WorkerTurns);
    return (name, rank) =>
      turns.run(
        () =>
          new Observable<string>((subscriber) => {
            begun.push(name);
            open.set(name, subscriber);
          }),
        rank,
      );
  };
  const untilNextTurn = (): Promise<void> => new Promise((done) => setTimeout(done, 120));

  beforeEach(() => {
    begun = [];
    open = new Map();
  });

  it('keeps one of two processors for the page: the second work waits for the first', async () => {
    const work = turnsOn(2);
    const heard: string[] = [];
    work('reading').subscribe((news) => heard.push(news));
    work('engraving').subscribe();
    expect(begun).toEqual(['reading']);
    open.get('reading')?.next('found');
    open.get('reading')?.complete();
    await untilNextTurn();
    expect(heard).toEqual(['found']);
    expect(begun).toEqual(['reading', 'engraving']);
  });

  it('gives the turn on when work fails or nobody waits for it any more', async () => {
    const work = turnsOn(2);
    const failures: unknown[] = [];
    work('first').subscribe({ error: (error: unknown) => failures.push(error) });
    const second = work('second').subscribe();
    const third = work('third').subscribe();
    work('fourth').subscribe();
    open.get('first')?.error('broken');
    third.unsubscribe();
    await untilNextTurn();
    second.unsubscribe();
    await untilNextTurn();
    expect(failures).toEqual(['broken']);
    expect(begun).toEqual(['first', 'second', 'fourth']);
  });

  it('lets what is looked at go before what waited longer, but breaks nothing off for it', async () => {
    const work = turnsOn(2);
    work('reading').subscribe();
    work('suggesting').subscribe();
    work('first lines', 'seen').subscribe();
    expect(begun).toEqual(['reading']);
    open.get('reading')?.complete();
    await untilNextTurn();
    expect(begun).toEqual(['reading', 'first lines']);
    open.get('first lines')?.complete();
    await untilNextTurn();
    expect(begun).toEqual(['reading', 'first lines', 'suggesting']);
  });

  it('runs several at once where there are processors enough', () => {
    const work = turnsOn(4);
    for (const name of ['a', 'b', 'c', 'd']) work(name).subscribe();
    expect(begun).toEqual(['a', 'b', 'c']);
  });
});
