import {
  compileParsed,
  type CompiledDriver,
  type DriverDocument,
  type DriverParameter,
  type DriverShelf,
} from '../../core/driver';
import {
  ownDevice,
  ownDocumentFor,
  ownId,
  usualLimits,
  withEngineReadings,
  type ControlRecord,
  type DeviceRecord,
  type FrameRate,
  type GlideTime,
  type InletRecord,
  type HealthLimits,
  type MacroRecord,
  type PageRecord,
  type PanelRecord,
  type PresetRecord,
  type BindingRecord,
  type ShowDifference,
  type ShowRecord,
  type SnapshotRecord,
  type TieRecord,
  type VariableRecord,
  type WatchRecord,
} from '../../core/show';
import { blackReason } from '../../core/snapshot';
import { isKnownZone } from '../../core/watch';
import type { ShowChange } from '../parts';

/** The show that the engine runs, kept up to date by differences. */
export class RunningShow {
  readonly devices = new Map<string, DeviceRecord>();
  readonly pages = new Map<string, PageRecord>();
  readonly controls = new Map<string, ControlRecord>();
  readonly ties = new Map<string, TieRecord>();
  readonly panels = new Map<string, PanelRecord>();
  readonly macros = new Map<string, MacroRecord>();
  readonly snapshots = new Map<string, SnapshotRecord>();
  readonly presets = new Map<string, PresetRecord>();
  readonly bindings = new Map<string, BindingRecord>();
  readonly variables = new Map<string, VariableRecord>();
  readonly watches = new Map<string, WatchRecord>();
  readonly inlets = new Map<string, InletRecord>();
  private readonly byPage = new Map<string, Map<string, ControlRecord>>();
  name = '';
  beginsAt: string | undefined;
  healthLimits: HealthLimits = usualLimits;
  glide: GlideTime | undefined;
  /** The time zone in which schedules count; that of the computer when absent. */
  zone: string | undefined;
  /** In which frames are counted. */
  rate: FrameRate = '25';
  /** How the program itself is told something; made when it is first asked for after snapshots, variables or watches have changed. */
  private own: CompiledDriver | undefined;
  /** Devices that ties make the sources of inputs. */
  private tied: ReadonlySet<string> | undefined;

  constructor(
    private readonly drivers: DriverShelf,
    private readonly onChange: (change: ShowChange) => void,
  ) {}

  /** How a device is spoken to: its driver with its options and its own commands. */
  driverOf(device: DeviceRecord): CompiledDriver | undefined {
    if (device.id === ownId) return this.ownDriver;
    return this.drivers.for(device.data);
  }

  /** The document of a device as it is used here; of what the program itself says, too. */
  readonly documentOf = (id: string): DriverDocument | undefined => {
    if (id === ownId) return this.ownDriver?.document;
    const device = this.devices.get(id);
    const document = device && this.driverOf(device)?.document;
    return document && withEngineReadings(document, this.sources.has(id));
  };

  /** A device of the rig, or the program itself. */
  paramOf(device: string, command: string, param: string): DriverParameter | undefined {
    return this.documentOf(device)?.commands[command]?.params[param];
  }

  readonly deviceOf = (id: string): DeviceRecord | undefined => (id === ownId ? ownDevice : this.devices.get(id));

  /** True for the number of a snapshot that would show only black. */
  readonly isBlack = (snapshot: number): boolean => {
    const found = [...this.snapshots.values()].find(({ data }) => data.number === snapshot);
    return found !== undefined && blackReason(found.data.parts, this.documentOf) !== undefined;
  };

  private get sources(): ReadonlySet<string> {
    return (this.tied ??= new Set([...this.ties.values()].map(({ data }) => data.source)));
  }

  private get ownDriver(): CompiledDriver | undefined {
    if (!this.own) {
      const compiled = compileParsed(
        ownDocumentFor({
          snapshots: this.snapshots.values(),
          variables: this.variables.values(),
          watches: this.watches.values(),
        }),
      );
      this.own = compiled.ok ? compiled.value : undefined;
    }
    return this.own;
  }

  deviceByTag(tag: string): DeviceRecord | undefined {
    return tag === ownDevice.data.tag ? ownDevice : [...this.devices.values()].find(({ data }) => data.tag === tag);
  }

  readonly roleOf = (id: string): string | undefined => this.devices.get(id)?.data.role;

  /** The document of the device with this tag. */
  documentOfTag(tag: string): DriverDocument | undefined {
    const device = this.deviceByTag(tag);
    return device && this.documentOf(device.id);
  }

  controlsOf(page: string): ReadonlyMap<string, ControlRecord> {
    return this.byPage.get(page) ?? none;
  }

  apply({ puts, removes }: ShowDifference): void {
    for (const { kind, id } of removes) this.remove(kind, id);
    for (const record of puts) this.put(record);
  }

  private put(record: ShowRecord): void {
    const { id } = record;
    switch (record.kind) {
      case 'show':
        this.name = record.data.name;
        this.beginsAt = record.data.beginsAt;
        this.healthLimits = record.data.health ?? usualLimits;
        this.glide = record.data.glide;
        this.zone = knownZone(record.data.zone);
        this.rate = record.data.rate ?? '25';
        return this.onChange({ kind: 'show' });
      case 'device': {
        const before = this.devices.get(id);
        this.devices.set(id, record);
        return this.onChange({ kind: 'device', id, now: record, before });
      }
      case 'page': {
        const before = this.pages.get(id);
        this.pages.set(id, record);
        return this.onChange({ kind: 'page', id, now: record, before });
      }
      case 'control': {
        const before = this.controls.get(id);
        this.enter(record, before);
        return this.onChange({ kind: 'control', id, now: record, before });
      }
      case 'tie':
        this.ties.set(id, record);
        this.tied = undefined;
        return this.onChange({ kind: 'tie', id });
      case 'panel':
        this.panels.set(id, record);
        return this.onChange({ kind: 'panel', id });
      case 'macro':
        this.macros.set(id, record);
        return this.onChange({ kind: 'macro', id });
      case 'snapshot':
        this.snapshots.set(id, record);
        this.own = undefined;
        return this.onChange({ kind: 'snapshot', id });
      case 'preset':
        this.presets.set(id, record);
        return this.onChange({ kind: 'preset', id });
      case 'binding':
        this.bindings.set(id, record);
        return this.onChange({ kind: 'binding', id });
      case 'variable':
        this.variables.set(id, record);
        this.own = undefined;
        return this.onChange({ kind: 'variable', id });
      case 'watch':
        this.watches.set(id, record);
        this.own = undefined;
        return this.onChange({ kind: 'watch', id });
      case 'inlet':
        this.inlets.set(id, record);
        return this.onChange({ kind: 'inlet', id });
    }
  }

  private remove(kind: ShowRecord['kind'], id: string): void {
    switch (kind) {
      case 'show':
        return;
      case 'device': {
        const before = this.devices.get(id);
        this.devices.delete(id);
        return this.onChange({ kind, id, now: undefined, before });
      }
      case 'page': {
        const before = this.pages.get(id);
        this.pages.delete(id);
        return this.onChange({ kind, id, now: undefined, before });
      }
      case 'control': {
        const before = this.controls.get(id);
        this.controls.delete(id);
        if (before) this.byPage.get(before.data.page)?.delete(id);
        return this.onChange({ kind, id, now: undefined, before });
      }
      case 'tie':
        this.ties.delete(id);
        this.tied = undefined;
        return this.onChange({ kind, id });
      case 'panel':
        this.panels.delete(id);
        return this.onChange({ kind, id });
      case 'macro':
        this.macros.delete(id);
        return this.onChange({ kind, id });
      case 'preset':
        this.presets.delete(id);
        return this.onChange({ kind, id });
      case 'binding':
        this.bindings.delete(id);
        return this.onChange({ kind, id });
      case 'inlet':
        this.inlets.delete(id);
        return this.onChange({ kind, id });
      case 'snapshot':
      case 'variable':
      case 'watch':
        for (const records of [this.snapshots, this.variables, this.watches]) records.delete(id);
        this.own = undefined;
        return this.onChange({ kind, id });
    }
  }

  private enter(record: ControlRecord, before: ControlRecord | undefined): void {
    if (before && before.data.page !== record.data.page) this.byPage.get(before.data.page)?.delete(record.id);
    this.controls.set(record.id, record);
    const { page } = record.data;
    const own = this.byPage.get(page);
    if (own) own.set(record.id, record);
    else this.byPage.set(page, new Map([[record.id, record]]));
  }
}

const none: ReadonlyMap<string, ControlRecord> = new Map();

/** A show from another computer may be in a zone that this one does not have. */
const knownZone = (zone: string | undefined): string | undefined =>
  zone !== undefined && isKnownZone(zone) ? zone : undefined;
