import type { DeviceRecord } from '../../core/show';

/** Where a private stand-in of a device is reached, and what it wants to be called with. */
export interface Place {
  readonly host: string;
  readonly port: number;
  readonly user: string;
  readonly password: string;
  readonly options: Readonly<Record<string, string | number>>;
}

export interface RehearsalPlaces {
  /** By device; what has none cannot be rehearsed. */
  readonly places: Readonly<Record<string, Place>>;
  /** The port of the pages on which the stand-ins are seen and operated by hand. */
  readonly pagePort: number;
}

/** Who starts private stand-ins for a rehearsal. */
export interface Rehearsals {
  /** Arranges a stand-in for each of these devices; what is there already stays as it is. */
  readonly arrange: (devices: readonly DeviceRecord[]) => Promise<RehearsalPlaces>;
  readonly end: () => Promise<void>;
}

/** What the process that starts the stand-ins has to know about the devices. */
export const orderOf = (devices: readonly DeviceRecord[]) =>
  devices.map(({ id, data: { tag, name, driver, through } }) => ({
    id,
    tag,
    name,
    driver,
    ...(through ? { through: through.device } : {}),
  }));

const answerWithinMs = 10_000;

/** The process that runs them, on a loopback port, with the token of this start. */
export function rehearsalsAt(port: number, token: string): Rehearsals {
  const call = async (method: 'POST' | 'DELETE', body?: unknown): Promise<Response> => {
    const answer = await fetch(`http://127.0.0.1:${port}/`, {
      method,
      headers: { authorization: `Bearer ${token}`, 'content-type': 'application/json' },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      signal: AbortSignal.timeout(answerWithinMs),
    });
    if (!answer.ok) throw new Error(`The rehearsal’s process answered with ${answer.status}.`);
    return answer;
  };
  return {
    arrange: async (devices) => {
      return (await (await call('POST', orderOf(devices))).json()) as RehearsalPlaces;
    },
    end: async () => void (await call('DELETE')),
  };
}
