import { maxPictureSources, readPictureAddress, type PictureSource } from '../../core/picture';
import { addressKey, readingId, stillKey } from '../../core/show';
import type { Aims } from '../aim/aims';
import type { Connections } from '../devices/connections';
import type { PictureRelay } from '../network/picture-relay';
import type { LinkChange, ShowChange } from '../parts';
import type { RunningShow } from '../show/running-show';
import type { StillPlaces } from './still-places';

interface Sources {
  readonly show: RunningShow;
  readonly relay: PictureRelay;
  readonly places: StillPlaces;
  readonly connections: Connections;
  readonly aims: Aims;
}

/** What belongs together changes together: a show that is loaded, a camera that reports where its picture is. */
const settleMs = 30;
const usualEveryMs = 1000;

/** Keeps the relay told where the pictures of the show are. */
export class LivePictures {
  /** By device, the readings that say where its pictures are. */
  private asked: ReadonlyMap<string, readonly string[]> = new Map();
  private told = '';
  private soon: NodeJS.Timeout | undefined;

  constructor(private readonly sources: Sources) {
    sources.aims.listen({ onAim: () => this.lookSoon() });
  }

  start(): void {
    this.look();
  }

  stop(): void {
    clearTimeout(this.soon);
    this.sources.relay.stop();
  }

  onShow({ kind }: ShowChange): void {
    if (kind === 'device' || kind === 'control') this.lookSoon();
  }

  onLink({ isPassing }: LinkChange): void {
    if (!isPassing) this.lookSoon();
  }

  onReadings(device: string, keys: readonly string[]): void {
    const asked = this.asked.get(device);
    if (asked?.some((key) => keys.includes(key))) this.lookSoon();
  }

  private lookSoon(): void {
    this.soon ??= setTimeout(() => this.look(), settleMs);
  }

  private look(): void {
    clearTimeout(this.soon);
    this.soon = undefined;
    const asked = new Map<string, readonly string[]>();
    const list = [...this.ofDevices(asked), ...this.ofAddresses()].slice(0, maxPictureSources);
    this.asked = asked;
    const text = JSON.stringify(list);
    if (text === this.told) return;
    this.told = text;
    this.sources.relay.setSources(list);
  }

  private *ofDevices(asked: Map<string, readonly string[]>): Generator<PictureSource> {
    const { show, relay, places, connections } = this.sources;
    for (const device of show.devices.values()) {
      const { id, data } = device;
      const document = show.driverOf(device)?.document;
      for (const [name, still] of Object.entries(document?.stills ?? {})) {
        const keys = places.readingsOf(still);
        if (keys.length > 0) asked.set(id, [...(asked.get(id) ?? []), ...keys]);
        const place = places.placeOf(device, still);
        // Of a device that is not there no picture is true, whatever is handed out.
        const off = !connections.isReached(id) ? 'not-connected' : place ? undefined : 'no-address';
        const { everyMs, widths } = still;
        yield {
          key: relay.keyOf(readingId({ device: id, key: stillKey(name) })),
          title: `${data.tag}: ${still.title}`,
          ...(off ? { off } : {}),
          ...(place ?? { host: data.host || '-', port: 80, path: '/' }),
          everyMs,
          ...(widths ? { widths } : {}),
        };
      }
    }
  }

  private *ofAddresses(): Generator<PictureSource> {
    const { show, relay } = this.sources;
    const seen = new Set<string>();
    for (const { data } of show.controls.values()) {
      if (data.shows?.kind !== 'address') continue;
      const { url, everyMs = usualEveryMs } = data.shows;
      const place = readPictureAddress(url);
      const id = addressKey(data.shows);
      if (typeof place === 'string' || seen.has(id)) continue;
      seen.add(id);
      yield { key: relay.keyOf(id), title: url, ...place, everyMs };
    }
  }
}
