import { z } from 'zod';
import { HttpStandin, readByHand, standinPage, type HttpAnswer, type HttpAsked, type StandinOptions } from '../kit';
import { viewerBody, viewerCss, viewerScript } from './page';

export const viewerUser = 'wall';
export const viewerPassword = 'slack-water-5';
const otherPassword = 'neap-tide-6';

interface ViewerOptions extends StandinOptions {
  readonly name: string;
  readonly monitors: readonly string[];
  /** Whether it wants a name and a password. */
  readonly signsIn: boolean;
}

/** What a viewer can show: each is a device's and a channel's name with a slash between them, and must be written exactly so. */
const viewerSources = [
  'Control boat/Program',
  'Control boat/Preview',
  'Control boat/Multiviewer',
  'Start/Tower',
  'Finish/Line',
  'Pontoon/Interview',
  'Club house/Table',
  'Office/Results',
] as const;

const modes = ['full', 'window', 'off'] as const;
type Mode = (typeof modes)[number];

interface Monitor {
  readonly name: string;
  readonly source: string;
  readonly mode: Mode;
  readonly volume: number;
  /** It goes with the source of its group. */
  readonly inGroup: boolean;
}

const operation = z.strictObject({ verb: z.literal('set'), query: z.string() });

/** A viewer on a wall of monitors: key and value pairs over HTTP. Nothing is reported; it is asked. */
export class ViewerStandin extends HttpStandin {
  readonly title = 'Wall viewer';
  private monitors: readonly Monitor[];
  private group = '';

  constructor(private readonly viewer: ViewerOptions) {
    super(viewer);
    this.monitors = viewer.monitors.map((name) => ({ name, source: '', mode: 'off', volume: 50, inGroup: false }));
  }

  page = (): string =>
    standinPage({ tag: this.tag, title: this.title, css: viewerCss, body: viewerBody, script: viewerScript });
  protected own = () => ({
    name: this.viewer.name,
    monitors: this.monitors,
    sources: viewerSources,
    group: this.group,
  });

  protected byHand(asked: unknown): string | undefined {
    return readByHand(operation, asked, ({ query }) => this.set(new URLSearchParams(query)));
  }

  protected answer({ method, path, headers, body }: HttpAsked): HttpAnswer {
    if (this.viewer.signsIn && headers.authorization !== this.expected)
      return { ...text(401, 'error=sign in'), headers: { 'www-authenticate': 'Basic realm="viewer"' } };
    if (this.faults.taken) return text(423, 'error=the viewer is being set up at its own keyboard');
    const [place = '', query = ''] = path.split('?', 2);
    // What is asked for may stand in the address or in the body, whichever its sender likes.
    const pairs = new URLSearchParams(method === 'POST' ? body : query);
    switch (place) {
      case '/about':
        return text(
          200,
          `model=${this.faults.otherModel ? 'Shopwindow' : 'Gable'}\nversion=2.4\nname=${this.viewer.name}`,
        );
      case '/list':
        return text(
          200,
          [
            ...this.monitors.map(({ name }, n) => `monitor.${n + 1}.name=${name}`),
            ...viewerSources.map((source, n) => `source.${n + 1}=${source}`),
          ].join('\n'),
        );
      case '/state':
        return text(200, this.stateText());
      case '/set': {
        const refusal = this.set(pairs);
        return refusal === undefined ? text(200, 'done=1') : text(400, `error=${refusal}`);
      }
      default:
        return text(404, `error=there is nothing at ${place}`);
    }
  }

  private get expected(): string {
    const password = this.faults.otherPassword ? otherPassword : viewerPassword;
    return `Basic ${Buffer.from(`${viewerUser}:${password}`).toString('base64')}`;
  }

  private stateText(): string {
    const lines = this.monitors.flatMap(({ source, mode, volume, inGroup }, n) => {
      const at = `monitor.${n + 1}`;
      return [
        `${at}.source=${source}`,
        `${at}.mode=${mode}`,
        `${at}.volume=${volume}`,
        `${at}.group=${inGroup ? 1 : 0}`,
      ];
    });
    const [first] = this.monitors;
    const same = this.monitors.every(({ source }) => source === first?.source) ? first?.source : '';
    const isDark = this.monitors.every(({ mode }) => mode === 'off');
    // What all of them show, where that is the same.
    return [...lines, `group=${this.group}`, `all.source=${same ?? ''}`, `all.off=${isDark ? 1 : 0}`].join('\n');
  }

  /** Any order, and only the address is compulsory: `at` is a number, `all` or `group`. */
  private set(pairs: URLSearchParams): string | undefined {
    const known = new Set(['at', 'source', 'mode', 'volume', 'join']);
    for (const key of pairs.keys()) if (!known.has(key)) return `${key} is not known`;
    const at = pairs.get('at');
    if (at === null) return 'at is missing';
    const number = Number(at);
    if (at !== 'all' && at !== 'group' && !this.monitors[number - 1]) return `there is no monitor ${at}`;
    const source = pairs.get('source');
    if (source && !viewerSources.some((each) => each === source)) return `there is no source ${source}`;
    const mode = pairs.get('mode');
    if (mode !== null && !modes.some((each) => each === mode)) return 'mode is full, window or off';
    const volume = pairs.get('volume');
    if (volume !== null && !/^(100|\d{1,2})$/.test(volume)) return 'volume is 0 to 100';
    const join = pairs.get('join');
    if (join !== null && join !== '0' && join !== '1') return 'join is 0 or 1';
    if (at === 'group' && source !== null) this.group = source;
    this.monitors = this.monitors.map((monitor, n) => {
      const isMeant = at === 'all' || (at === 'group' ? monitor.inGroup : n === number - 1);
      if (!isMeant) return monitor;
      const inGroup = join === null ? monitor.inGroup : join === '1';
      const shown = source ?? (join === '1' ? this.group || monitor.source : monitor.source);
      // What gets a source while it is off shows it in a window.
      const begins = source && mode === null && monitor.mode === 'off' ? 'window' : monitor.mode;
      const next = (mode as Mode | null) ?? begins;
      return {
        ...monitor,
        inGroup,
        source: shown,
        mode: next,
        volume: volume === null ? monitor.volume : Number(volume),
      };
    });
    this.tell();
    return undefined;
  }
}

const text = (status: number, body: string): HttpAnswer => ({ status, body, type: 'text/plain; charset=utf-8' });
