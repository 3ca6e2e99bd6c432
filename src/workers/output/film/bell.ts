/** Rung when something has changed; whoever waits looks again then. */
export class Bell {
  private waiting: (() => void)[] = [];

  ring(): void {
    for (const go of this.waiting.splice(0)) go();
  }

  /** Goes on with the next ring. */
  next(): Promise<void> {
    return new Promise((resolve) => this.waiting.push(resolve));
  }
}
