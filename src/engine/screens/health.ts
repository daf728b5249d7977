import type { Aim, DeviceStatus, HealthResponse, Alert } from '../../core/live';
import type { DeviceSession } from '../devices/device-session';

interface Sources {
  readonly aim: Aim;
  readonly recording: boolean;
  readonly alerts: readonly Alert[];
  readonly processes: HealthResponse['processes'];
  readonly statuses: ReadonlyMap<string, DeviceStatus>;
  readonly sessions: ReadonlyMap<string, DeviceSession>;
}

/** How the program is: well when every process runs, the record is written and every device that is on is reached. */
export function healthOf({ aim, recording, alerts, processes, statuses, sessions }: Sources): HealthResponse {
  const links = [...statuses].map(([device, { tag, name, link, since, grades, remark }]) => ({
    device,
    tag,
    name,
    link,
    since,
    grades,
    faults: sessions.get(device)?.faultCount ?? 0,
    remark,
  }));
  const ok =
    recording &&
    processes.every((each) => each.state === 'running') &&
    links.every(({ link }) => ['up', 'one-way', 'off'].includes(link.word));
  return { ok, aim, processes, links, recording, alerts: [...alerts] };
}
