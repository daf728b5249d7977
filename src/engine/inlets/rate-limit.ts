/** Beyond so many packets in a second the rest is dropped unread. */
const mostPerSecond = 500;

/** Counts the packets of a source that sends all the time by its nature. */
export class RateLimit {
  private second = 0;
  private count = 0;

  takes(): boolean {
    const second = Math.floor(performance.now() / 1000);
    if (second !== this.second) {
      this.second = second;
      this.count = 0;
    }
    this.count += 1;
    return this.count <= mostPerSecond;
  }
}
