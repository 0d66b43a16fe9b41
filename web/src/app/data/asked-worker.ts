/** How far a worker is with a question, before its answer. Shape: 0 to 1 */
export interface Underway {
  readonly id: number;
  readonly progress: number;
}

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
    { done: (answer: Answer) => void; failed: (reason: Error) => void; watch: (progress: number) => void }
  >();

  /** Shape: `lost` is the sentence of questions that a worker takes along */
  constructor(
    private readonly begin: () => Worker,
    private readonly lost: string,
  ) {}

  /** Asks; is told how far it is. Errors: rejects with the sentence when the worker cannot be loaded */
  ask(question: Unnumbered<Question>, watch: (progress: number) => void = () => undefined): Promise<Answer> {
    this.lastId += 1;
    const id = this.lastId;
    const answer = new Promise<Answer>((done, failed) => this.open.set(id, { done, failed, watch }));
    this.ready().postMessage({ id, ...question });
    return answer;
  }

  /** The worker, begun where it is not. */
  ready(): Worker {
    if (this.worker) return this.worker;
    const worker = this.begin();
    worker.addEventListener('message', ({ data }: MessageEvent<Answer | Underway>) => {
      const waiting = this.open.get(data.id);
      if ('progress' in data) {
        waiting?.watch(data.progress);
        return;
      }
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
