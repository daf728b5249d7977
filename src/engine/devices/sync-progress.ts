/** Counts the questions by which the state of a device is fetched after connecting, until all are answered. */
export class SyncProgress {
  private left = 0;

  /** @param onAnswered told when nothing is left to be answered; it may be told more than once */
  constructor(private readonly onAnswered: () => void) {}

  begin(): void {
    this.left = 0;
  }

  asked(): void {
    this.left += 1;
  }

  /** A question is put once more, or the next piece of a list takes its place: it is counted anew. */
  askedAgain(): void {
    this.left -= 1;
  }

  answered(): void {
    this.left -= 1;
    this.look();
  }

  look(): void {
    if (this.left <= 0) this.onAnswered();
  }
}
