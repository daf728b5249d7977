import type { CompiledDriver, DriverDocument, DriverShelf } from '../../core/driver';
import {
  ownDocument,
  ownId,
  type ControlRecord,
  type DeviceRecord,
  type MacroRecord,
  type PageRecord,
  type PanelRecord,
  type ShowDifference,
  type ShowRecord,
  type TieRecord,
} from '../../core/show';

/** Who hears of changes in the running show. Each is told after the change has been entered. */
interface ShowListener {
  readonly onDevice: (id: string, now: DeviceRecord | undefined, before: DeviceRecord | undefined) => void;
  readonly onPage: (id: string, now: PageRecord | undefined, before: PageRecord | undefined) => void;
  readonly onControl: (id: string, now: ControlRecord | undefined, before: ControlRecord | undefined) => void;
  readonly onShow: () => void;
  readonly onTies?: () => void;
  readonly onPanels?: () => void;
  readonly onMacro?: (id: string) => void;
}

/** The show that the engine runs, kept up to date by differences. */
export class RunningShow {
  readonly devices = new Map<string, DeviceRecord>();
  readonly pages = new Map<string, PageRecord>();
  readonly controls = new Map<string, ControlRecord>();
  readonly ties = new Map<string, TieRecord>();
  readonly panels = new Map<string, PanelRecord>();
  readonly macros = new Map<string, MacroRecord>();
  private readonly byPage = new Map<string, Map<string, ControlRecord>>();
  name = '';
  beginsAt: string | undefined;

  constructor(
    private readonly drivers: DriverShelf,
    private readonly listener: ShowListener,
  ) {}

  /** How a device is spoken to: its driver with its options and its own commands. */
  driverOf(device: DeviceRecord): CompiledDriver | undefined {
    return this.drivers.for(device.data);
  }

  /** The document of a device as it is used here; of what the program itself says, too. */
  readonly documentOf = (id: string): DriverDocument | undefined => {
    if (id === ownId) return ownDocument;
    const device = this.devices.get(id);
    return device && this.driverOf(device)?.document;
  };

  controlsOf(page: string): ReadonlyMap<string, ControlRecord> {
    return this.byPage.get(page) ?? none;
  }

  apply({ puts, removes }: ShowDifference): void {
    for (const { kind, id } of removes) this.remove(kind, id);
    for (const record of puts) this.put(record);
  }

  private put(record: ShowRecord): void {
    switch (record.kind) {
      case 'show':
        this.name = record.data.name;
        this.beginsAt = record.data.beginsAt;
        return this.listener.onShow();
      case 'device': {
        const before = this.devices.get(record.id);
        this.devices.set(record.id, record);
        return this.listener.onDevice(record.id, record, before);
      }
      case 'page': {
        const before = this.pages.get(record.id);
        this.pages.set(record.id, record);
        return this.listener.onPage(record.id, record, before);
      }
      case 'control': {
        const before = this.controls.get(record.id);
        this.enter(record, before);
        return this.listener.onControl(record.id, record, before);
      }
      case 'tie':
        this.ties.set(record.id, record);
        return this.listener.onTies?.();
      case 'panel':
        this.panels.set(record.id, record);
        return this.listener.onPanels?.();
      case 'macro':
        this.macros.set(record.id, record);
        return this.listener.onMacro?.(record.id);
    }
  }

  private remove(kind: ShowRecord['kind'], id: string): void {
    if (kind === 'device') {
      const before = this.devices.get(id);
      this.devices.delete(id);
      this.listener.onDevice(id, undefined, before);
    } else if (kind === 'page') {
      const before = this.pages.get(id);
      this.pages.delete(id);
      this.listener.onPage(id, undefined, before);
    } else if (kind === 'control') {
      const before = this.controls.get(id);
      this.controls.delete(id);
      if (before) this.byPage.get(before.data.page)?.delete(id);
      this.listener.onControl(id, undefined, before);
    } else if (kind === 'tie') {
      this.ties.delete(id);
      this.listener.onTies?.();
    } else if (kind === 'panel') {
      this.panels.delete(id);
      this.listener.onPanels?.();
    } else if (kind === 'macro') {
      this.macros.delete(id);
      this.listener.onMacro?.(id);
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
