/**
 * Does what comes one after the other, whenever it comes, and never two at once.
 * Shape:  in the order in which it was added; what was cleared before its turn is not done
 * Errors: those of the work end its own turn only
 */
export class Turns<T> {
  private waiting: T[] = [];
  private isBusy = false;

  constructor(private readonly work: (item: T) => Promise<void>) {}

  add(items: readonly T[]): void {
    this.waiting.push(...items);
    if (!this.isBusy) void this.go();
  }

  clear(): void {
    this.waiting = [];
  }

  private async go(): Promise<void> {
    this.isBusy = true;
    // Between the last look and the end nothing is waited for, so that nothing can be added unseen.
    for (let item = this.waiting.shift(); item !== undefined; item = this.waiting.shift())
      await this.work(item).catch(() => undefined);
    this.isBusy = false;
  }
}
