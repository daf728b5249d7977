import { createSocket, type Socket } from 'node:dgram';
import type { DriverDocument } from '../../../core/driver';
import { causeOfSocketError, type DownCause } from '../../../core/session';
import {
  discoveryGroup,
  discoveryMs,
  encodeSacn,
  encodeSacnUniverses,
  keepAliveMs,
  packetMs,
  repeats,
  terminations,
  type Arrived,
  type Framing,
  type Outgoing,
} from '../../../core/wire';
import { levelClock } from './level-clock';
import type { DeviceLink, LinkAddress, LinkEvents, Written } from './link';
import { udpSocket } from './udp-socket';
import { universeAt, type Universe } from './universe-book';

/** What is sent is told as readings this often while it moves. */
const tellEveryMs = 200;
/** So many readings are told in one frame: frames of all devices are read in turns. */
const toldAtOnce = 8;
/** A closed port is told within this time, where it is told: before that nobody is told that anything is sent. */
const provingMs = 100;
const nothing = new Uint8Array();

/**
 * The levels of one universe over sACN (ANSI E1.31): 44 packets a second while they move, then one a second. Unless its driver says otherwise nothing
 * is sent before the first level, so that a test of the connection darkens no stage.
 */
export class SacnLink implements DeviceLink {
  readonly proves = false;
  private readonly socket: Socket;
  private readonly universe: Universe;
  private discovery: NodeJS.Timeout | undefined;
  private proving: NodeJS.Timeout | undefined;
  private isProved = false;
  private isOpen = false;
  private isSending = false;
  private isEnded = false;
  private sentAt = -Infinity;
  private unchanged = 0;
  private toldAt = -Infinity;
  private told: Uint8Array | undefined;
  private toldState = '';

  constructor(
    private readonly address: LinkAddress,
    private readonly link: DriverDocument['link'],
    private readonly framing: Extract<Framing, { kind: 'sacn' }>,
    private readonly events: LinkEvents,
  ) {
    this.universe = universeAt(address, framing);
    this.universe.users += 1;
    this.socket = udpSocket(address, link, () => {
      this.isOpen = true;
      events.onOpen();
      this.proving = setTimeout(() => this.onProved(), provingMs);
      // After a break the levels are what they were.
      const { output, isNew } = this.universe;
      if (isNew && framing.begins === 'zeros') output.begin();
      this.universe.isNew = false;
      if (output.isUsed) this.begin();
    });
    this.socket.on('error', this.onError);
  }

  write(message: Outgoing): Written {
    if (message.kind !== 'dmx') return { ok: false, stuck: false, reason: 'Only levels can be sent here.' };
    const { change } = message;
    const now = performance.now();
    this.universe.output.change(change, now);
    if (change.do === 'end') {
      const last = this.packet(now, true);
      this.terminate();
      this.tell(now);
      return { ok: true, bytes: last };
    }
    this.unchanged = 0;
    this.begin();
    return { ok: true, bytes: this.packet(now, false) };
  }

  forget(): void {}
  pause(): void {}
  resume(): void {}

  rest(): Uint8Array {
    return nothing;
  }

  close(): void {
    if (this.isEnded) return;
    this.universe.users -= 1;
    if (this.universe.users === 0) this.terminate();
    else this.rests();
    clearTimeout(this.proving);
    this.isEnded = true;
    // What was sent last leaves before the socket closes.
    setImmediate(() => closed(this.socket));
  }

  /** Sends at once where a packet may go out, else with the next one. */
  private begin(): void {
    if (!this.isOpen || this.isEnded) return;
    if (!this.isSending) {
      this.isSending = true;
      this.announce();
      this.discovery = setInterval(() => this.announce(), discoveryMs);
    }
    const now = performance.now();
    if (now - this.sentAt >= packetMs) this.send(now);
    else levelClock.set(this, levelClock.turnAfter(this.sentAt), true, () => this.send(performance.now()));
  }

  private send(now: number): void {
    const { output } = this.universe;
    const isFading = output.isFading;
    this.put(this.packet(now, false));
    this.sentAt = now;
    this.unchanged = isFading ? 0 : this.unchanged + 1;
    const isSettled = this.unchanged > repeats;
    const next = isSettled ? now + keepAliveMs : levelClock.turnAfter(now);
    levelClock.set(this, next, !isSettled, () => this.send(performance.now()));
    if (now - this.toldAt >= tellEveryMs || !isFading) this.tell(now);
  }

  private packet(now: number, isTerminated: boolean): Uint8Array {
    const { cid, output, sequence } = this.universe;
    const { universe, priority, sourceName } = this.framing;
    const slots = output.slotsAt(now);
    return encodeSacn({
      cid,
      sourceName,
      priority,
      sequence,
      isPreview: false,
      isTerminated,
      universe,
      startCode: 0,
      slots,
    });
  }

  private put(bytes: Uint8Array): void {
    this.universe.sequence = (this.universe.sequence + 1) & 0xff;
    this.socket.send(bytes, this.onSent);
  }

  /** This connection sends nothing more by itself. */
  private rests(): void {
    levelClock.stop(this);
    clearInterval(this.discovery);
  }

  /** 6.2.6: three packets that say that this source ends. */
  private terminate(): void {
    this.rests();
    if (!this.isSending || this.isEnded) return;
    this.isSending = false;
    for (let n = 0; n < terminations; n += 1) this.put(this.packet(performance.now(), true));
  }

  /** 4.3: to everybody, where the levels go to a group; a device with an address of its own needs no list. */
  private announce(): void {
    if (this.link.delivery !== 'multicast' || !this.address.host.startsWith('239.')) return;
    const { sourceName, universe } = this.framing;
    const bytes = encodeSacnUniverses(this.universe.cid, sourceName, [universe]);
    const socket = createSocket('udp4');
    const { port, host } = { port: this.address.port, host: discoveryGroup };
    socket.on('error', () => closed(socket));
    socket.bind({ port: 0, ...(this.link.localAddress === '' ? {} : { address: this.link.localAddress }) }, () => {
      if (this.link.localAddress !== '') socket.setMulticastInterface(this.link.localAddress);
      socket.send(bytes, port, host, () => closed(socket));
    });
  }

  private onProved(): void {
    this.isProved = true;
    this.tell(performance.now());
  }

  /** Tells what is sent now, as far as it changed. */
  private tell(now: number): void {
    if (!this.isProved || (!this.universe.output.isUsed && this.told === undefined)) return;
    this.toldAt = now;
    const { output } = this.universe;
    const levels = output.levelsAt(now);
    const told: string[] = [];
    for (const [n, level] of levels.entries()) if (this.told?.[n] !== level) told.push(`level ${n + 1} ${level}`);
    this.told = levels;
    const state = `blackout ${output.isBlackedOut ? 'on' : 'off'}|output ${this.isSending ? 'on' : 'off'}`;
    if (state !== this.toldState) told.push(...state.split('|'));
    this.toldState = state;
    if (told.length === 0) return;
    const frames: Arrived[] = [];
    for (let from = 0; from < told.length; from += toldAtOnce) {
      const says = told.slice(from, from + toldAtOnce).map((text) => ({ kind: 'text', text }) as const);
      frames.push({ raw: nothing, says, isOwn: true });
    }
    this.events.onArrived(frames);
  }

  private readonly onSent = (error: NodeJS.ErrnoException | null): void => {
    if (error) this.onError(error);
  };

  private readonly onError = (error: NodeJS.ErrnoException): void =>
    this.end(causeOfSocketError(error.code), error.code);

  private end(cause: DownCause, detail?: string): void {
    if (this.isEnded) return;
    this.close();
    this.events.onEnd(cause, detail);
  }
}

function closed(socket: Socket): void {
  try {
    socket.close();
  } catch {
    // It was closed before, or never came to be open.
  }
}
