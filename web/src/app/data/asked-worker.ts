/** What a worker is asked, and what it answers: numbers tell which answer belongs to which question. */
interface Numbered {
  readonly id: number;
}

/** A question without its number, whichever kind it is of. */
type Unnumbered<Question> = Question extends Numbered ? Omit<Question, 'id'> : never;

/** A worker that answers each question once; begun with the first, and anew after it was lost. */
export class AskedWorker<Question extends Numbered, Answer extends Numbered> {
  private worker: Worker | null = null;
  private lastId = 0;
  private readonly open = new Map<
    number,
    { done: (answer: Answer) => void; failed: (reason: Error) => void }
  >();

  /** Shape: `lost` is the sentence of questions that a worker takes along */
  constructor(
    private readonly begin: () => Worker,
    private readonly lost: string,
  ) {}

  /** Asks. Errors: rejects with the sentence when the worker cannot be loaded */
  ask(question: Unnumbered<Question>): Promise<Answer> {
    this.lastId += 1;
    const id = this.lastId;
    const answer = new Promise<Answer>((done, failed) => this.open.set(id, { done, failed }));
    this.ready().postMessage({ id, ...question });
    return answer;
  }

  /** The worker, begun where it is not. */
  ready(): Worker {
    if (this.worker) return this.worker;
    const worker = this.begin();
    worker.addEventListener('message', ({ data }: MessageEvent<Answer>) => {
      const waiting = this.open.get(data.id);
      this.open.delete(data.id);
      waiting?.done(data);
    });
    worker.addEventListener('error', () => {
      for (const { failed } of this.open.values()) failed(new Error(this.lost));
      this.open.clear();
      this.worker = null;
    });
    this.worker = worker;
    return worker;
  }
}
