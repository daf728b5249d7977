import type { HealthResponse } from '../../core/live';
import type { Aims } from '../aim/aims';
import type { Connections } from '../devices/connections';
import type { AsRun } from '../record/as-run';
import type { Alerts } from './alerts';

interface Sources {
  readonly aims: Aims;
  readonly connections: Connections;
  readonly asRun: AsRun;
  readonly alerts: Alerts;
  readonly processes: HealthResponse['processes'];
  readonly failures: HealthResponse['failures'];
}

/** How the program is: well when every process runs, the record is written and every device that is on is reached. */
export function healthOf({ aims: { aim }, connections, asRun, alerts, processes, failures }: Sources): HealthResponse {
  const { statuses, sessions } = connections;
  const { recording } = asRun;
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
    links.every(({ link }) => ['up', 'one-way', 'not checked', 'off'].includes(link.word));
  return { ok, aim, processes, links, recording, failures, alerts: [...alerts.all] };
}
