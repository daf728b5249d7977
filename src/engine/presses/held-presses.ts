import type { DeadMan } from './dead-man';

/** Ten fingers, and what hand gear holds at the same time. */
const mostHeld = 64;

/** Which client holds which press. A hold ends when its client disconnects or leaves the page; no other client can end it. */
export class HeldPresses<Client extends object> {
  private readonly held = new Map<Client, Map<string, string>>();
  private readonly holders = new Map<string, Client>();

  constructor(private readonly deadMan: DeadMan) {}

  /** Returns false when another client holds this press, or this client holds too many. */
  begin(client: Client, press: string, page: string): boolean {
    const own = this.held.get(client) ?? new Map<string, string>();
    const holder = this.holders.get(press);
    if ((holder && holder !== client) || (!own.has(press) && own.size >= mostHeld)) return false;
    own.set(press, page);
    this.held.set(client, own);
    this.holders.set(press, client);
    return true;
  }

  /** True while this client holds the press. */
  isHeldBy(client: Client, press: string): boolean {
    return this.holders.get(press) === client;
  }

  /** The client says that it is still holding. */
  still(client: Client, press: string): void {
    if (this.isHeldBy(client, press) && this.deadMan.isHeld(press)) this.deadMan.hold(press);
  }

  release(client: Client, press: string): void {
    if (!this.isHeldBy(client, press)) return;
    this.drop(client, press);
    this.deadMan.release(press, 'released');
  }

  /** The client has gone, or has left a page: everything that it held there is released. */
  leave(client: Client, page: string | undefined): void {
    for (const [press, on] of this.held.get(client) ?? []) {
      if (page !== undefined && on !== page) continue;
      this.drop(client, press);
      this.deadMan.release(press, 'panel gone');
    }
    if (page === undefined) this.held.delete(client);
  }

  private drop(client: Client, press: string): void {
    this.held.get(client)?.delete(press);
    this.holders.delete(press);
  }
}
