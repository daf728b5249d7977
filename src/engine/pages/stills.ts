import { fail, ok, type Result } from '../../core/result';
import type { DeviceRecord } from '../../core/show';
import type { Prober } from '../network/prober-client';
import type { RunningShow } from '../show/running-show';
import type { StillPlaces } from './still-places';

interface StillPicture {
  readonly type: string;
  readonly bytes: Buffer;
}

interface Sources {
  readonly show: RunningShow;
  readonly prober: Prober;
  readonly places: StillPlaces;
}

const timeoutMs = 3000;
const proberIsGone = 'The part of the program that fetches pictures does not answer. Try again in a moment.';

/** Takes single pictures of what devices see, for what is kept: those that a panel shows come from the relay. */
export class Stills {
  constructor(private readonly sources: Sources) {}

  /**
   * A picture of what a device sees now.
   * @returns why there is none, as a sentence, where there is none
   */
  async take(device: DeviceRecord, name: string): Promise<Result<StillPicture, string>> {
    const { show, prober, places } = this.sources;
    const still = show.driverOf(device)?.document.stills[name];
    if (!still) return fail('Its driver does not define a picture.');
    const place = places.placeOf(device, still);
    if (!place) return fail('The camera has not reported the address of its picture yet.');
    const { stream: _, ...from } = place;
    const asked = await prober.ask({ do: 'picture', ...from, timeoutMs }).catch(() => undefined);
    if (!asked) return fail(proberIsGone);
    if (asked.error !== undefined) return fail(asked.error);
    return ok({ type: asked.type, bytes: Buffer.from(asked.bytes, 'base64') });
  }
}
