import type { DriverDocument } from '../../core/driver';
import type { Scalar } from '../../core/result';
import type { DeviceRecord } from '../../core/show';
import type { Aims } from '../aim/aims';
import type { ReadingStore } from '../devices/readings';
import type { RunningShow } from '../show/running-show';

type Still = DriverDocument['stills'][string];

/** Where a device hands a picture out, and as whom it is asked. */
interface StillPlace {
  readonly host: string;
  readonly port: number;
  readonly path: string;
  /** Where it hands out a stream of pictures. */
  readonly stream?: string;
  readonly user?: string;
  readonly password?: string;
}

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
  readonly passwordOf: (device: string) => string;
  readonly aims: Aims;
}

/** Finds where the pictures of devices are: of the device itself, or of what stands in for it in a rehearsal. */
export class StillPlaces {
  constructor(private readonly sources: Sources) {}

  /** `undefined` while the device has not said it, or nobody has set it. */
  placeOf({ id, data }: DeviceRecord, still: Still): StillPlace | undefined {
    const { aims, passwordOf } = this.sources;
    const place = aims.placeOf(id)?.place;
    const given = { ...this.defaultsOf(id), ...data.options, ...place?.options };
    const valueOf = (part: Still['path'] | Still['port']) => {
      if (typeof part !== 'object') return part;
      return 'option' in part ? given[part.option] : this.sources.readings.fresh(id, part.reading);
    };
    const port = Number(valueOf(still.port));
    const path = pathIn(valueOf(still.path));
    const stream = still.stream === undefined ? undefined : pathIn(valueOf(still.stream));
    const host = place?.host ?? data.host;
    // A device behind a gateway has no address of its own.
    if (host === '' || !(port > 0 && port < 65_536) || (path ?? stream) === undefined) return undefined;
    const { user, password } = place ?? { user: data.user, password: passwordOf(id) };
    return {
      host,
      port,
      path: path ?? stream ?? '',
      ...(stream === undefined ? {} : { stream }),
      ...(user === '' ? {} : { user, password }),
    };
  }

  /** The readings that say where a picture is. */
  readingsOf({ port, path, stream }: Still): string[] {
    return [port, path, stream].flatMap((part) =>
      typeof part === 'object' && 'reading' in part ? [part.reading] : [],
    );
  }

  private defaultsOf(id: string): Readonly<Record<string, Scalar>> {
    const { show } = this.sources;
    const device = show.devices.get(id);
    const options = (device && show.driverOf(device)?.document.options) ?? {};
    return Object.fromEntries(Object.entries(options).map(([name, option]) => [name, option.default]));
  }
}

const pathIn = (value: Scalar | undefined): string | undefined =>
  typeof value === 'string' && /^\/\S*$/.test(value) ? value : undefined;
