/** Values that come one by one from elsewhere, for one who takes them in order. */
export class LineStream<T> implements AsyncIterable<T> {
  private readonly there: T[] = [];
  private isEnded = false;
  private failure: Error | undefined;
  private wake: (() => void) | undefined;

  push(value: T): void {
    this.there.push(value);
    this.wake?.();
  }

  /** Nothing more comes; with a reason where that is for a failure. */
  end(failure?: Error): void {
    this.isEnded = true;
    this.failure = failure;
    this.wake?.();
  }

  async *[Symbol.asyncIterator](): AsyncGenerator<T> {
    for (;;) {
      while (this.there.length > 0) yield this.there.shift()!;
      if (this.failure !== undefined) throw this.failure;
      if (this.isEnded) return;
      await new Promise<void>((resolve) => (this.wake = resolve));
    }
  }
}
