import type { DeviceStatus } from '../../core/live';
import { isWell } from '../../core/session';
import { ownId } from '../../core/show';
import { localTime } from '../../core/watch';
import type { ShowChange } from '../parts';
import type { RunningShow } from '../show/running-show';
import type { ReadingStore } from './readings';

/** How often the clocks are entered anew, so that they are right again after the computer's clock or summer time has changed. */
const againMs = 60_000;

/** Keeps what the program itself says up to date: the time of day, the time since the show began, and how many devices are there. */
export class OwnReadings {
  private timer: NodeJS.Timeout | undefined;
  /** A local date and time, `2026-06-14T10:00`. */
  private beginsAt: string | undefined;
  private zone: string | undefined;

  constructor(
    private readonly readings: ReadingStore,
    private readonly statuses: ReadonlyMap<string, DeviceStatus>,
    private readonly show: RunningShow,
  ) {}

  start(): void {
    this.readings.report(ownId, [{ key: 'running', value: true }], Date.now());
    this.onStatuses();
    this.tick();
  }

  stop(): void {
    clearTimeout(this.timer);
  }

  onShow({ kind }: ShowChange): void {
    const { beginsAt, zone } = this.show;
    if (kind !== 'show' || (beginsAt === this.beginsAt && zone === this.zone)) return;
    this.beginsAt = beginsAt;
    this.zone = zone;
    this.clocks();
  }

  /** Devices have come or gone. */
  onStatuses(): void {
    const words = [...this.statuses.values()].map(({ link }) => link.word).filter((word) => word !== 'off');
    const up = words.filter(isWell).length;
    const changes = [
      { key: 'devicesUp', value: up },
      { key: 'devicesDown', value: words.length - up },
    ].filter(({ key, value }) => this.readings.fresh(ownId, key) !== value);
    if (changes.length > 0) this.readings.report(ownId, changes, Date.now());
  }

  private tick(): void {
    this.clocks();
    // At the turn of each minute, so that midnight is one of them.
    this.timer = setTimeout(() => this.tick(), againMs - (Date.now() % againMs) + 1);
    this.timer.unref();
  }

  private clocks(): void {
    const at = Date.now();
    const began = this.beginsAt === undefined ? undefined : localTime(`${this.beginsAt}:00`, this.zone);
    this.readings.report(
      ownId,
      [
        { key: 'timeOfDay', value: secondsOfDay(at, this.zone) },
        ...(began === undefined ? [] : [{ key: 'showTime', value: (at - began) / 1000 }]),
      ],
      at,
      began === undefined ? ['showTime'] : [],
    );
  }
}

/** How long the day has lasted by the clocks of a zone. */
function secondsOfDay(at: number, zone: string | undefined): number {
  const parts = new Intl.DateTimeFormat('en-GB', {
    hour: 'numeric',
    minute: 'numeric',
    second: 'numeric',
    hourCycle: 'h23',
    ...(zone === undefined ? {} : { timeZone: zone }),
  }).formatToParts(at);
  const of = (type: string) => Number(parts.find((part) => part.type === type)?.value ?? 0);
  return of('hour') * 3600 + of('minute') * 60 + of('second') + (at % 1000) / 1000;
}
