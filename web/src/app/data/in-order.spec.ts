import { defer, lastValueFrom, Subject, take } from 'rxjs';
import { InOrder } from './in-order';

describe('InOrder', () => {
  const settle = (): Promise<void> => new Promise((done) => setTimeout(done));

  it('sends the next request when the one before was answered', async () => {
    const order = new InOrder();
    const sent: string[] = [];
    const server = { first: new Subject<string>(), second: new Subject<string>() };
    const call = (name: 'first' | 'second') =>
      defer(() => {
        sent.push(name);
        return server[name].pipe(take(1));
      });
    const answers: string[] = [];
    order.run(call('first')).subscribe((answer) => answers.push(answer));
    order.run(call('second')).subscribe((answer) => answers.push(answer));
    await settle();
    expect(sent).toEqual(['first']);
    server.first.next('one');
    await settle();
    expect(sent).toEqual(['first', 'second']);
    server.second.next('two');
    await settle();
    expect(answers).toEqual(['one', 'two']);
  });

  it('goes on after a request that failed, whose own caller hears of it', async () => {
    const order = new InOrder();
    const refused = defer(() => Promise.reject(new Error('refused')));
    const first = lastValueFrom(order.run(refused));
    const second = lastValueFrom(order.run(defer(() => Promise.resolve('there'))));
    await expectAsync(first).toBeRejectedWithError('refused');
    await expectAsync(second).toBeResolvedTo('there');
  });
});
