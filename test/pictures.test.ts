import { spawn } from 'node:child_process';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import type { PageView } from '../src/core/live';
import type { PictureSource } from '../src/core/picture';
import type { ShowRecord } from '../src/core/show';
import { startFleetRig } from './support/fleet';
import { picturesHere, PictureScreen } from './support/pictures';
import { inProcessProber } from './support/prober';
import { controlRecord, pageRecord } from './support/records';
import { onTestFinished, TestClient, until } from './support/rig';

/** Live pictures, from the device to the screen: over real sockets, against servers that are not ours where the protocol is. */

const keyOf = (letter: string) => letter.repeat(22);
const source = (port: number, more: Partial<PictureSource> = {}): PictureSource => ({
  key: keyOf('a'),
  title: 'A',
  host: '127.0.0.1',
  port,
  path: '/',
  everyMs: 50,
  ...more,
});
const svg = (text: string) => `<svg xmlns="http://www.w3.org/2000/svg"><text>${text}</text></svg>`;
const said = (bytes: Uint8Array) => new TextDecoder().decode(bytes);
const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

async function serve(answer: (req: IncomingMessage, res: ServerResponse) => void) {
  const asked: string[] = [];
  const server = createServer((req, res) => {
    asked.push(req.url ?? '');
    answer(req, res);
  });
  onTestFinished(() => {
    server.closeAllConnections();
    server.close();
  });
  await new Promise<void>((resolve) => void server.listen(0, '127.0.0.1', resolve));
  return { asked, port: (server.address() as AddressInfo).port };
}

/** A server in Python that sends a stream of JPEG pictures as cameras do: ten a second, without lengths, in pieces. */
async function streamFromPython(files: readonly Buffer[]): Promise<number> {
  const program = `
import base64, http.server, itertools, sys, time
pictures = [base64.b64decode(line) for line in sys.stdin.read().split()]
class Camera(http.server.BaseHTTPRequestHandler):
    def do_GET(self):
        self.send_response(200)
        self.send_header('Content-Type', 'multipart/x-mixed-replace;boundary=--frame')
        self.end_headers()
        try:
            for picture in itertools.cycle(pictures):
                whole = b'--frame\\r\\nContent-Type: image/jpeg\\r\\n\\r\\n' + picture + b'\\r\\n'
                for at in range(0, len(whole), 1000):
                    self.wfile.write(whole[at:at + 1000])
                time.sleep(0.1)
        except OSError:
            pass
    def log_message(self, *_): pass
server = http.server.ThreadingHTTPServer(('127.0.0.1', 0), Camera)
print(server.server_port, flush=True)
server.serve_forever()
`;
  const child = spawn('python3', ['-c', program], { stdio: ['pipe', 'pipe', 'inherit'] });
  onTestFinished(() => void child.kill());
  child.stdin.end(files.map((file) => file.toString('base64')).join('\n'));
  return new Promise((resolve) => child.stdout.once('data', (text) => resolve(Number(text))));
}

const jpeg = (width: number, colour: string) =>
  sharp({ create: { width, height: Math.round((width * 9) / 16), channels: 3, background: colour } })
    .jpeg()
    .toBuffer();

describe('a stream of pictures from a foreign server', () => {
  it('is followed as it comes, at the width of each screen, by all screens over one connection, and left when nobody looks', async () => {
    const port = await streamFromPython([await jpeg(1280, 'red'), await jpeg(1280, 'blue')]);
    const { relay, url } = await picturesHere();
    relay.setSources([source(port)]);
    const [small, large] = [await PictureScreen.open(url), await PictureScreen.open(url)];
    await until(
      () => {
        small.show(keyOf('a'), 160);
        return small.got.length;
      },
      (count) => count > 0,
    );
    large.show(keyOf('a'), 1280);
    await small.next(8);
    await large.next(8);
    const widthOf = async ({ got }: PictureScreen) => (await sharp(got.at(-1)?.bytes).metadata()).width;
    expect([await widthOf(small), await widthOf(large)]).toEqual([160, 1280]);
    expect(small.got.map(({ head }) => head.n)).toEqual(small.got.map((_, n) => n + 1));
    // Pictures of ten a second are not held up: each is of the moment in which it comes.
    const ages = small.got.slice(2).map(({ head, came }) => came - head.at);
    expect(ages.sort((a, b) => a - b)[Math.floor(ages.length / 2)]).toBeLessThan(300);
    small.hide(keyOf('a'));
    await wait(300);
    const before = small.got.length;
    await large.next();
    await wait(300);
    expect(small.got.length).toBe(before);
  });

  it('gives a screen that is slow the newest picture next, and none in between', async () => {
    const colours = ['red', 'green', 'blue', 'white', 'black'];
    const port = await streamFromPython(await Promise.all(colours.map((each) => jpeg(320, each))));
    const { relay, url } = await picturesHere();
    relay.setSources([source(port)]);
    const screen = await PictureScreen.open(url);
    screen.draws = false;
    await wait(200);
    screen.show(keyOf('a'));
    const first = await screen.next(0);
    await wait(700);
    expect(screen.got).toHaveLength(1);
    screen.drawn(first.head);
    const second = await screen.next(1);
    expect(second.head.n).toBe(2);
    expect(second.head.at - first.head.at).toBeGreaterThan(300);
    await wait(300);
    expect(screen.got).toHaveLength(2);
  });
});

describe('pictures that are handed out one by one', () => {
  it('are fetched as often as said while somebody looks, and not otherwise', async () => {
    let n = 0;
    const server = await serve((_, res) => void res.end(svg(String((n += 1)))));
    const { relay, url } = await picturesHere();
    relay.setSources([source(server.port)]);
    const screen = await PictureScreen.open(url);
    await wait(300);
    expect(server.asked).toEqual([]);
    screen.show(keyOf('a'));
    await screen.next(3);
    screen.hide(keyOf('a'));
    await wait(2500);
    const before = server.asked.length;
    await wait(500);
    expect(server.asked.length).toBe(before);
  });

  it('are asked for at the smallest width that is enough for all who look', async () => {
    const server = await serve((req, res) => void res.end(svg(req.url ?? '')));
    const { relay, url } = await picturesHere();
    relay.setSources([source(server.port, { path: '/v?w={width}', widths: [320, 640, 1280] })]);
    const [one, two] = [await PictureScreen.open(url), await PictureScreen.open(url)];
    await wait(200);
    one.show(keyOf('a'), 200);
    await one.next(0, (bytes) => said(bytes).includes('w=320'));
    two.show(keyOf('a'), 500);
    await one.next(0, (bytes) => said(bytes).includes('w=640'));
    two.hide(keyOf('a'));
    const from = one.got.length;
    await one.next(from, (bytes) => said(bytes).includes('w=320'));
  });

  it('are not sent again when they are the same; the screen is told that they are still true', async () => {
    const server = await serve((_, res) => void res.end(svg('same')));
    const { relay, url } = await picturesHere();
    relay.setSources([source(server.port)]);
    const screen = await PictureScreen.open(url);
    await wait(200);
    screen.show(keyOf('a'));
    await until(
      () => screen.heard.filter(({ t }) => t === 'same').length,
      (count) => count > 3,
    );
    expect(screen.got).toHaveLength(1);
  });
});

describe('a source that gives no picture', () => {
  const big = Buffer.alloc(5 * 1024 * 1024, 1);
  it.each<[string, string, (req: IncomingMessage, res: ServerResponse) => void]>([
    ['is silent', 'late', () => undefined],
    ['hands out something else', 'no-picture', (_, res) => void res.end('<!doctype html>')],
    ['hands out too much', 'too-large', (_, res) => void res.end(big)],
    [
      'wants a password',
      'sign-in',
      (_, res) => void res.writeHead(401, { 'www-authenticate': 'Basic realm="x"' }).end(),
    ],
    ['has none there', 'refused', (_, res) => void res.writeHead(404).end()],
    [
      'begins a stream and stops',
      'ended',
      (_, res) => {
        res.writeHead(200, { 'content-type': 'multipart/x-mixed-replace; boundary=b' });
        res.end(`--b\r\n\r\n${svg('one')}\r\n--b\r\n\r\n`);
      },
    ],
  ])('because it %s is told on the picture, and tried again with growing waits', async (_, why, answer) => {
    const server = await serve(answer);
    const { relay, url } = await picturesHere();
    relay.setSources([source(server.port)]);
    const screen = await PictureScreen.open(url);
    await wait(200);
    screen.show(keyOf('a'));
    await screen.problem(keyOf('a'), why);
    const begun = server.asked.length;
    await wait(2000);
    // After half a second, and after one more: not again and again.
    expect(server.asked.length - begun).toBeGreaterThanOrEqual(why === 'late' ? 0 : 1);
    expect(server.asked.length - begun).toBeLessThanOrEqual(3);
  });

  it('because nothing listens there is told, and comes back by itself when something does', async () => {
    const { port } = await serve(() => undefined);
    const { relay, url } = await picturesHere();
    relay.setSources([source(1, { key: keyOf('b') }), source(port)]);
    const screen = await PictureScreen.open(url);
    await wait(200);
    screen.show(keyOf('b'));
    expect(await screen.problem(keyOf('b'), 'unreachable')).toMatchObject({ detail: 'ECONNREFUSED' });
    const back = await serve((_, res) => void res.end(svg('back')));
    relay.setSources([source(back.port, { key: keyOf('b') })]);
    await screen.next(0);
  });

  it('because it does not exist says so, and a screen that sends invalid messages is disconnected', async () => {
    const { relay, url } = await picturesHere();
    relay.setSources([]);
    const screen = await PictureScreen.open(url);
    screen.show(keyOf('z'));
    await until(
      () => screen.heard.some(({ t }) => t === 'unknown'),
      (is) => is,
    );
    const ended = new Promise((resolve) => screen.socket.once('close', resolve));
    screen.socket.send('nonsense');
    expect(await ended).toBe(1007);
  });
});

describe('pictures on a page', () => {
  const shows = (id: string, more: object) => controlRecord(id, { page: 'page-a', type: 'readout', ...more } as never);
  const liveKey = async (client: TestClient, control: string) => {
    const face = () => (client.topic('page:page-a') as PageView | undefined)?.faces[control]?.shown;
    const shown = await until(face, (each) => each?.kind === 'picture' && each.live !== undefined);
    return shown?.kind === 'picture' ? (shown.live ?? '') : '';
  };

  it('come from the device, from its stand-in while rehearsing, and from any address; of a device that is gone comes none', async () => {
    const other = await serve((_, res) => void res.end(svg('elsewhere')));
    const { relay, url } = await picturesHere();
    const records: ShowRecord[] = [
      pageRecord('page-a', 'A'),
      shows('still', { shows: { kind: 'still', device: 'dev-C1', still: 'view' } }),
      shows('address', { shows: { kind: 'address', url: `http://127.0.0.1:${other.port}/x`, everyMs: 100 } }),
    ];
    const real = await serve((_, res) => void res.end(svg('real')));
    const options = { stillPort: real.port, stillPath: '/still' };
    const f = await startFleetRig(['C1'], records, inProcessProber, [], { C1: { options } }, relay);
    await f.linkIs('C1', 'up');
    const client = await TestClient.open(f.rig.url.replace('/live', '/live?as=panel'));
    void client.follow('page:page-a');
    const screen = await PictureScreen.open(url);
    const [still, address] = [await liveKey(client, 'still'), await liveKey(client, 'address')];
    expect(still).not.toBe(address);
    screen.show(still);
    screen.show(address);
    await screen.next(0, (bytes) => said(bytes).includes('real'));
    await screen.next(0, (bytes) => said(bytes).includes('elsewhere'));
    expect(other.asked[0]).toBe('/x');

    f.client.say({ t: 'aim', aim: 'rehearse' });
    await screen.next(0, (bytes) => said(bytes).includes('aria-label') && !said(bytes).includes('real'), 20_000);
    f.client.say({ t: 'aim', aim: 'live' });
    await screen.next(screen.got.length, (bytes) => said(bytes).includes('real'), 20_000);

    await f.operate('C1', 'power', { on: false });
    await screen.problem(still, 'not-connected', 20_000);
    const asked = real.asked.length;
    await wait(1200);
    expect(real.asked.length).toBe(asked);
    await f.operate('C1', 'power', { on: true });
    await screen.next(screen.got.length, (bytes) => said(bytes).includes('real'), 20_000);
  });

  it('come from the outputs of switcher, multiviewer, titles and encoder, and from cameras as a stream', async () => {
    const { relay, url } = await picturesHere();
    const stills = [
      ['SW1', 'program'],
      ['SW1', 'preview'],
      ['M1', 'picture'],
      ['T1', 'preview'],
      ['E1', 'output'],
      ['C1', 'view'],
    ] as const;
    const controls = stills.map(([tag, still]) =>
      shows(`${tag}-${still}`, { shows: { kind: 'still', device: `dev-${tag}`, still } }),
    );
    const f = await startFleetRig(
      ['SW1', 'M1', 'T1', 'E1', 'C1'],
      [pageRecord('page-a', 'A'), ...controls],
      inProcessProber,
      [],
      {},
      relay,
    );
    const port = f.fleet.pagePort;
    const optionsOf = (tag: string): Record<string, string | number> => {
      const site = `/${tag.toLowerCase()}`;
      if (tag === 'SW1')
        return {
          picturePort: port,
          programPath: `${site}/live?view=program`,
          previewPath: `${site}/live?view=preview`,
        };
      if (tag === 'C1') return { stillPort: port, streamPath: `${site}/live?width=640` };
      return { picturePort: port, picturePath: `${site}/live` };
    };
    f.rig.edit({
      title: 'Pictures',
      changes: [...f.rig.engine.running.show.devices.values()].map((from) => ({
        op: 'update' as const,
        from,
        to: { ...from, data: { ...from.data, options: optionsOf(from.data.tag) } },
      })),
    });
    for (const tag of ['SW1', 'T1', 'E1', 'C1']) await f.linkIs(tag, 'up');
    const client = await TestClient.open(f.rig.url.replace('/live', '/live?as=panel'));
    void client.follow('page:page-a');
    const screen = await PictureScreen.open(url);
    const keys: Record<string, string> = {};
    for (const [tag, still] of stills)
      screen.show((keys[`${tag}-${still}`] = await liveKey(client, `${tag}-${still}`)));
    const newest = (name: string) => screen.got.filter(({ head }) => head.key === keys[name]).at(-1);
    await until(
      () => stills.map(([tag, still]) => newest(`${tag}-${still}`)?.head.type),
      (types) => types.every((type) => type !== undefined),
      20_000,
    );
    expect(newest('C1-view')?.head.type).toBe('image/jpeg');
    // What is seen follows what is done.
    await f.operate('SW1', 'operate', { verb: 'take', input: 5 });
    await until(
      () => said(newest('SW1-program')?.bytes ?? new Uint8Array()),
      (text) => text.includes('>5<'),
    );
    await f.operate('E1', 'operate', { verb: 'record', on: true });
    await until(
      () => said(newest('E1-output')?.bytes ?? new Uint8Array()),
      (text) => text.includes('recording'),
    );
  });
});
