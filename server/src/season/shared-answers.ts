/**
 * Lets those who ask the same at the same time share one answer: while one is worked out, whoever asks waits for the
 * next, which begins when the first is done and is for all who wait. Nobody gets an answer that was begun before asking.
 */
export class SharedAnswers<Answer> {
  private readonly running = new Map<string, Promise<unknown>>();
  private readonly waiting = new Map<string, Promise<Answer>>();

  /** The answer to a question, worked out after it was asked. Errors: those of the work */
  ask(question: string, work: () => Promise<Answer>): Promise<Answer> {
    const next = this.waiting.get(question);
    if (next) return next;
    const before = this.running.get(question);
    if (!before) return this.begin(question, work);
    const answer = before.then(() => {
      this.waiting.delete(question);
      return this.begin(question, work);
    });
    this.waiting.set(question, answer);
    return answer;
  }

  private begin(question: string, work: () => Promise<Answer>): Promise<Answer> {
    const answer = work();
    // Who waits only wants to know when it is done, not how it ended.
    const done = answer.then(nothing, nothing).then(() => {
      if (this.running.get(question) === done) this.running.delete(question);
    });
    this.running.set(question, done);
    return answer;
  }
}

function nothing(): void {
  // Nothing is left to be done.
}
