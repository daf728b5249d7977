import { commandsOfDrive } from '../../core/driver';
import { isAtPlace, placeKeys } from '../../core/preset';
import {
  noPreset,
  presetCalled,
  presetMissed,
  presetReached,
  type DeviceRecord,
  type PresetRecord,
  type SendSpec,
} from '../../core/show';
import type { PreparedSend } from '../devices/session-types';
import type { ReadingStore } from '../devices/readings';
import type { LinkChange, ShowChange } from '../parts';
import type { SentCommand } from '../presses/presses';
import type { RunningShow } from '../show/running-show';

interface Sources {
  readonly show: RunningShow;
  readonly readings: ReadingStore;
}

/** What is known of one camera's presets. */
interface Camera {
  /** The readings that say where it is. */
  keys: ReadonlySet<string>;
  /** Where it was sent last, while it is on its way. */
  called: number;
  missed: number;
  /** Recalled or stored last: of several presets at one place it is the one that is meant. */
  last: number;
  /** How often it was told to move. */
  moves: number;
  /** When it was told last, in milliseconds since 1970. */
  movedAt: number;
  /** The commands by which it is sent there, where that is not the recall of a number. */
  sends: readonly SendSpec[];
  timer?: NodeJS.Timeout;
}

/**
 * Says of each camera which preset it has reached, which one it is on its way to, and which one it did not reach in its time, as readings of
 * the camera. A preset is reached when the camera is where it was when the preset was stored, no matter what sent it there.
 */
export class PresetStates {
  private readonly cameras = new Map<string, Camera>();

  constructor(private readonly sources: Sources) {}

  stop(): void {
    for (const { timer } of this.cameras.values()) clearTimeout(timer);
    this.cameras.clear();
  }

  onShow(change: ShowChange): void {
    if (change.kind === 'preset') for (const device of this.cameras.keys()) this.look(device);
    if (change.kind === 'device') this.renew(change.id, change.now);
  }

  onLink({ device }: LinkChange): void {
    // A driver may be another since.
    if (this.cameras.has(device)) this.look(device);
    else this.renew(device, this.sources.show.devices.get(device));
  }

  onReadings(device: string, keys: readonly string[]): void {
    const camera = this.cameras.get(device);
    if (camera && keys.some((key) => camera.keys.has(key))) this.look(device);
  }

  /** A command has left for a device, by whatever way. */
  onCommand(device: string, { id, given }: PreparedSend): void {
    const camera = this.cameras.get(device);
    const document = camera && this.sources.show.documentOf(device);
    const { presets, drives = {}, keeps = {} } = document ?? {};
    if (!camera || !presets) return;
    const number = given[presets.param];
    if (id === presets.recall && typeof number === 'number') {
      noteMove(camera);
      return this.call(device, number);
    }
    const moves = [
      ...Object.values(drives).flatMap(commandsOfDrive),
      ...(keeps[presets.keep ?? '']?.sends ?? []).map(({ command }) => command),
    ];
    if (!moves.includes(id)) return;
    noteMove(camera);
    // Somebody steers it, unless this is how it is sent to the preset: it is on its way to none any more.
    if (!camera.sends.some((send) => send.command === id && isIn(send.params, given)))
      this.end(device, camera, noPreset);
  }

  /** How a command ended: a camera that refuses a preset is not on its way to it. */
  readonly onSent = (sent: readonly SentCommand[]): void => {
    for (const { device, command, params, outcome } of sent) {
      const camera = this.cameras.get(device);
      const presets = camera && this.sources.show.documentOf(device)?.presets;
      if (!presets || command !== presets.recall || camera.called !== params[presets.param]) continue;
      if (outcome === 'refused' || outcome === 'lost' || outcome === 'skipped')
        this.giveUp(device, camera.called, outcome === 'skipped');
      // Where nothing says where it should be, nothing says either that it is there.
      else if (
        outcome !== 'late' &&
        !this.presetsOf(device).some(({ data }) => data.number === camera.called && data.place)
      )
        this.end(device, camera, noPreset);
    }
  };

  /** A camera is on its way to a preset: by its number, or by its position. */
  call(device: string, number: number, sends: readonly SendSpec[] = []): void {
    const camera = this.cameras.get(device);
    const within = this.sources.show.documentOf(device)?.presets?.reachedWithinMs;
    if (!camera || within === undefined) return;
    clearTimeout(camera.timer);
    camera.called = number;
    camera.last = number;
    camera.missed = noPreset;
    camera.sends = sends;
    camera.timer = setTimeout(() => this.end(device, camera, number), within);
    camera.timer.unref();
    this.look(device);
  }

  /** How often a camera was told to move. While this stays the same, it is where it was, unless it is on its way. */
  movesOf(device: string): number {
    return this.cameras.get(device)?.moves ?? 0;
  }

  /** When a camera was told to move last, in milliseconds since 1970: what it said before that is not where it is. */
  movedAt(device: string): number {
    return this.cameras.get(device)?.movedAt ?? 0;
  }

  /** A preset was stored where the camera is. */
  store(device: string, number: number): void {
    const camera = this.cameras.get(device);
    if (camera) camera.last = number;
  }

  /** A camera is not sent to a preset after all. @param isQuiet nobody wanted it so: it is not called missed either */
  giveUp(device: string, number: number, isQuiet: boolean): void {
    const camera = this.cameras.get(device);
    if (camera?.called === number) this.end(device, camera, isQuiet ? noPreset : number);
  }

  private renew(device: string, record: DeviceRecord | undefined): void {
    const before = this.cameras.get(device);
    clearTimeout(before?.timer);
    this.cameras.delete(device);
    const document = record && this.sources.show.documentOf(device);
    if (!document?.presets) return;
    this.cameras.set(device, {
      keys: new Set(placeKeys(document)),
      called: noPreset,
      missed: noPreset,
      last: noPreset,
      moves: 0,
      movedAt: 0,
      sends: [],
    });
    this.look(device);
  }

  private end(device: string, camera: Camera, missed: number): void {
    clearTimeout(camera.timer);
    if (camera.called === noPreset && camera.missed === missed) return;
    camera.called = noPreset;
    camera.missed = missed;
    this.look(device);
  }

  private presetsOf(device: string): PresetRecord[] {
    return [...this.sources.show.presets.values()].filter(({ data }) => data.device === device);
  }

  /** Works out anew what is said of a camera. */
  private look(device: string): void {
    const { show, readings } = this.sources;
    const camera = this.cameras.get(device);
    const document = show.documentOf(device);
    if (!camera || !document) return;
    const keys = placeKeys(document);
    camera.keys = new Set(keys);
    const fresh = (key: string) => readings.fresh(device, key);
    const isKnown = keys.length > 0 && keys.every((key) => fresh(key) !== undefined);
    const there = isKnown
      ? this.presetsOf(device).filter(({ data }) => data.place && isAtPlace(document, data.place, fresh))
      : [];
    const reached = there.find(({ data }) => data.number === camera.last) ?? there[0];
    if (reached && reached.data.number === camera.called) {
      clearTimeout(camera.timer);
      camera.called = noPreset;
    }
    const now = new Map([
      [presetReached, reached?.data.number ?? noPreset],
      [presetCalled, camera.called],
      [presetMissed, camera.missed],
    ]);
    if (!isKnown) now.delete(presetReached);
    const gone = isKnown || readings.get({ device, key: presetReached }) === undefined ? [] : [presetReached];
    const changes = [...now].filter(([key, value]) => fresh(key) !== value).map(([key, value]) => ({ key, value }));
    if (changes.length + gone.length > 0) readings.report(device, changes, Date.now(), gone);
  }
}

const isIn = (params: SendSpec['params'], given: Readonly<Record<string, unknown>>): boolean =>
  Object.entries(params).every(([name, value]) => given[name] === value);

function noteMove(camera: Camera): void {
  camera.moves += 1;
  camera.movedAt = Date.now();
}
