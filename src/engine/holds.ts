import type { DeadMan } from './dead-man';
import type { HubClient } from './hub';

/** Which client holds which press, so that it counts as let go when the client goes or leaves the page. */
export class Holds {
  private readonly held = new Map<HubClient, Map<string, string>>();

  constructor(private readonly deadMan: DeadMan) {}

  begin(client: HubClient, press: string, page: string): void {
    const own = this.held.get(client);
    if (own) own.set(press, page);
    else this.held.set(client, new Map([[press, page]]));
  }

  /** The client says that it is still holding. */
  still(client: HubClient, press: string): void {
    if (this.held.get(client)?.has(press) && this.deadMan.isHeld(press)) this.deadMan.hold(press);
  }

  release(client: HubClient, press: string): void {
    if (!this.held.get(client)?.delete(press)) return;
    this.deadMan.release(press, 'released');
  }

  /** The client has gone, or has left a page: whatever it held there is let go. */
  leave(client: HubClient, page: string | undefined): void {
    for (const [press, on] of this.held.get(client) ?? []) {
      if (page !== undefined && on !== page) continue;
      this.held.get(client)?.delete(press);
      this.deadMan.release(press, 'panel gone');
    }
    if (page === undefined) this.held.delete(client);
  }
}
