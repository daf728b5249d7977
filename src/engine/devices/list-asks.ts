import type { CompiledDriver, DecodedReply, OwnMessage } from '../../core/driver';

/** A device that says again and again that a list has changed is asked for it at most once in this time. */
const quietMs = 250;

interface Asked {
  readonly timer: NodeJS.Timeout;
  /** It was to be asked meanwhile. */
  isAgain: boolean;
}

/** Asks what a device gives cause to ask: a list that it says has changed. At once, and then not more often than is bearable. */
export class ListAsks {
  private readonly asked = new Map<string, Asked>();

  constructor(
    private readonly driver: CompiledDriver,
    private readonly ask: (own: OwnMessage) => void,
  ) {}

  onReply({ asks }: DecodedReply): void {
    for (const { question, member } of asks)
      for (const own of this.driver.asked.get(question) ?? [])
        if (member === undefined || !own.member || own.member.text === member) this.soon(own);
  }

  stop(): void {
    for (const { timer } of this.asked.values()) clearTimeout(timer);
    this.asked.clear();
  }

  private soon(own: OwnMessage): void {
    const key = `${own.ask} ${own.member?.index}`;
    const before = this.asked.get(key);
    if (before) {
      before.isAgain = true;
      return;
    }
    const timer = setTimeout(() => {
      const { isAgain } = this.asked.get(key) ?? {};
      this.asked.delete(key);
      if (isAgain) this.soon(own);
    }, quietMs);
    this.asked.set(key, { timer, isAgain: false });
    this.ask(own);
  }
}
