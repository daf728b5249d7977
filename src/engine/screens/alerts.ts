import type { Alert } from '../../core/live';
import type { AsRun } from '../record/as-run';
import type { DiskReserve } from '../record/disk-reserve';
import type { Connections } from '../devices/connections';
import type { Inlets } from '../inlets/inlets';
import type { Hub } from './hub';
import type { LedgerFile } from '../presses/ledger-file';
import type { LinkRecord } from '../record/link-record';
import type { StatusBoard } from '../topics/status-board';
import type { ShowIntake } from '../show/show-intake';
import type { RunningShow } from '../show/running-show';

interface Sources {
  readonly asRun: AsRun;
  readonly ledger: LedgerFile;
  readonly reserve: DiskReserve;
  readonly links: LinkRecord;
  readonly connections: Connections;
  readonly show: RunningShow;
  readonly hub: Hub;
  readonly intake: ShowIntake;
  readonly status: StatusBoard;
  readonly inlets: Pick<Inlets, 'failing'>;
}

const lookEveryMs = 1000;
/** Not at once: a start has enough to do. */
const reserveAfterMs = 5000;
const reserveEveryMs = 60_000;
/** What came within this is worth telling. */
const lately = 60_000;
/** More connections than this from one address are hardly meant. */
const manyConnections = 60;

/** Names what is wrong with the program itself, and what loads it down, where somebody looks first. */
export class Alerts {
  private told: readonly Alert[] = [];
  private readonly timers: NodeJS.Timeout[] = [];

  constructor(private readonly sources: Sources) {}

  start(): void {
    const take = () => void this.sources.reserve.take();
    this.timers.push(
      setInterval(() => this.look(), lookEveryMs),
      setTimeout(take, reserveAfterMs),
      setInterval(take, reserveEveryMs),
    );
  }

  get all(): readonly Alert[] {
    return [...this.written(), ...this.kept(), ...this.loads()];
  }

  stop(): void {
    for (const timer of this.timers) clearTimeout(timer);
  }

  private look(): void {
    const now = this.written();
    if (JSON.stringify(now) === JSON.stringify(this.told)) return;
    this.told = now;
    this.sources.status.set({ alerts: now });
  }

  private written(): Alert[] {
    const { asRun, ledger, intake } = this.sources;
    const alerts: Alert[] = [];
    if (ledger.isFailing || asRun.isJournalFailing)
      alerts.push({
        code: 'not-kept',
        text: 'The data folder cannot be written: after a crash, what is held now would not be stopped. Make room on the disk.',
      });
    if (asRun.failure !== undefined)
      alerts.push({ code: 'not-recorded', text: `The as-run is not being written. ${asRun.failure}` });
    const locked = intake.unreadablePasswords;
    if (locked > 0)
      alerts.push({
        code: 'passwords-unreadable',
        text: `${locked === 1 ? 'The password of one device' : `The passwords of ${locked} devices`} cannot be read: secret.key in the data folder is missing, damaged or from another folder. Put the right file back and restart, or enter the passwords again.`,
      });
    return alerts;
  }

  private kept(): Alert[] {
    const { asRun } = this.sources;
    const alerts: Alert[] = [];
    if (asRun.setAside !== undefined)
      alerts.push({
        code: 'record-set-aside',
        text: `The as-run was damaged. It was renamed to ${asRun.setAside}, and a new one was begun; nothing was deleted.`,
      });
    if (asRun.rowsBeyond > 0)
      alerts.push({
        code: 'record-full',
        text: `The as-run is ${asRun.rowsBeyond} rows over its limit. Export it if you need them, then delete the oldest rows on the As-run screen (or POST /api/record/prune).`,
      });
    return alerts;
  }

  private loads(): Alert[] {
    const { links, connections, show, hub } = this.sources;
    const alerts: Alert[] = links.flapping.map(({ device, changes }) => ({
      code: 'link-unsteady',
      text: `The link of ${device} keeps dropping (${changes} changes). Check its cable, power and address, and whether another program is using the device.`,
    }));
    const now = Date.now();
    for (const [id, session] of connections.sessions) {
      if (now - session.floodedAt > lately) continue;
      const tag = show.devices.get(id)?.data.tag ?? id;
      const text = `${tag} reports faster than it can be read, so that what it says comes late. Lower its report rate, or poll it less often.`;
      alerts.push({ code: 'device-floods', text });
    }
    for (const who of hub.floodedSince(now - lately))
      alerts.push({
        code: 'screen-floods',
        text: `${who} sends more than the engine takes; some of it was not looked at. Reload or close that screen.`,
      });
    for (const { address, count } of hub.addresses)
      if (count > manyConnections)
        alerts.push({
          code: 'many-connections',
          text: `${count} screens are open from ${address}. Close the tabs that nobody looks at.`,
        });
    for (const { name, why } of this.sources.inlets.failing)
      alerts.push({ code: 'inlet-closed', text: `The inlet “${name}” cannot listen. ${why}` });
    return alerts;
  }
}
