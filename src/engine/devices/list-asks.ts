import type { CompiledDriver, DecodedReply, OwnMessage } from '../../core/driver';

/** The shortest time between two questions about the same list. */
const quietMs = 250;

interface Asked {
  readonly timer: NodeJS.Timeout;
  /** Another request arrived meanwhile. */
  isAgain: boolean;
}

/** Asks the questions that a reply calls for, such as a list that has changed: at once, then at most every 250 ms. */
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
