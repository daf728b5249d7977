import type { AddressInfo } from 'node:net';
import { WebSocket } from 'ws';
import { decodePicture, type PictureHead, type RelayMessage, type ViewerMessage } from '../../src/core/picture';
import { pictureRelayAt, type PictureRelay } from '../../src/engine';
import { servePictures } from '../../src/pictures';
import { onTestFinished, until } from './rig';

const token = 'of this test';

/** The relay of pictures in this process, on a port of its own, and the engine’s way to it. */
export async function picturesHere(): Promise<{ readonly relay: PictureRelay; readonly url: string }> {
  const { server, stop } = await servePictures({ port: 0, token, admits: () => true });
  const { port } = server.address() as AddressInfo;
  const relay = pictureRelayAt(port, token, (why) => {
    throw new Error(why);
  });
  onTestFinished(() => {
    relay.stop();
    stop();
  });
  return { relay, url: `ws://127.0.0.1:${port}/pictures/live` };
}

/** A screen that shows pictures. Unless it is told otherwise it draws each at once. */
export class PictureScreen {
  readonly got: { readonly head: PictureHead; readonly bytes: Uint8Array; readonly came: number }[] = [];
  readonly heard: RelayMessage[] = [];
  private readonly shown = new Map<string, number>();

  private constructor(
    readonly socket: WebSocket,
    public draws = true,
  ) {
    socket.on('message', (data: Buffer, isBinary) => {
      if (!isBinary) return void this.heard.push(JSON.parse(String(data)) as RelayMessage);
      const picture = decodePicture(data);
      if (!picture.ok) throw new Error('A picture was cut off.');
      this.got.push({ ...picture.value, came: Date.now() });
      if (this.draws) this.drawn(picture.value.head);
    });
  }

  static async open(url: string): Promise<PictureScreen> {
    const socket = new WebSocket(url);
    onTestFinished(() => socket.terminate());
    const screen = new PictureScreen(socket);
    await new Promise((resolve, reject) => socket.once('open', resolve).once('error', reject));
    return screen;
  }

  show(key: string, width = 320): void {
    this.shown.set(key, width);
    this.sayShown();
  }

  hide(key: string): void {
    this.shown.delete(key);
    this.sayShown();
  }

  drawn({ key, n }: PictureHead): void {
    this.say({ t: 'drawn', key, n });
  }

  say(message: ViewerMessage): void {
    this.socket.send(JSON.stringify(message));
  }

  /** The next picture that fits, of those that come after the first `from`. */
  async next(from = this.got.length, fits: (bytes: Uint8Array) => boolean = () => true, withinMs?: number) {
    const find = () => this.got.slice(from).find(({ bytes }) => fits(bytes));
    const found = await until(find, (each) => each !== undefined, withinMs);
    if (!found) throw new Error('No picture came.');
    return found;
  }

  async problem(key: string, why: string, withinMs?: number) {
    const find = () => this.heard.find((each) => each.t === 'problem' && each.key === key && each.why === why);
    return until(find, (each) => each !== undefined, withinMs);
  }

  private sayShown(): void {
    this.say({ t: 'show', pictures: [...this.shown].map(([key, width]) => ({ key, width })) });
  }
}
