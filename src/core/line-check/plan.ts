import { commandText, readingTitle, splitKey, type DriverDocument } from '../driver';
import { labelNow, readingsOfFace } from '../face';
import { macrosOf } from '../macro';
import type { Reading } from '../reading';
import {
  canonicalJson,
  ownDevice,
  inputNames,
  ownDocumentOf,
  sourcesOf,
  withEngineReadings,
  ownId,
  resolveParams,
  readingId,
  type ControlRecord,
  type DeviceRecord,
  type MacroRecord,
  type PageRecord,
  type PresetRecord,
  type ReadingRef,
  type ShowRecord,
  type SnapshotRecord,
} from '../show';
import { contextsOf, type ControlInContext } from './contexts';
import { gearItems, inletItem } from './ways-in';
import { fingerprintOf } from './fingerprint';
import { nowhere, type CheckItem, type Proof } from './item';
import { commandItemOf, CommandUses, isConfirmedByReadings, type CommandUse } from './uses';

interface PlanSources {
  readonly records: readonly ShowRecord[];
  /** The driver document as the device uses it. */
  readonly documentOf: (device: DeviceRecord) => DriverDocument | undefined;
  /** Something can stand in for a device with this driver. */
  readonly canRehearse: (driver: string) => boolean;
}

/**
 * Everything that a show relies on, each once, with the ways in which it can be proved or the reason why it cannot: the connection of every
 * device, every command with its values, everything that is shown on controls, every tie, tally lamp, display, panel, inlet and piece of hand
 * gear.
 */
export function planLineCheck(sources: PlanSources): CheckItem[] {
  return new Planner(sources).plan();
}

class Planner {
  private readonly devices = new Map<string, DeviceRecord>();
  private readonly pages = new Map<string, PageRecord>();
  private readonly macros: ReadonlyMap<string, MacroRecord>;
  private readonly controls: ControlRecord[] = [];
  private readonly snapshots: SnapshotRecord[] = [];
  /** What the program itself can be told. */
  private readonly own: DriverDocument;
  /** Devices whose tally is known. */
  private readonly tied: ReadonlySet<string>;
  /** What feeds an input, by switcher and number. */
  private readonly ties = new Map<string, string>();

  constructor(private readonly sources: PlanSources) {
    for (const record of sources.records) {
      if (record.kind === 'device') this.devices.set(record.id, record);
      else if (record.kind === 'page') this.pages.set(record.id, record);
      else if (record.kind === 'control') this.controls.push(record);
      else if (record.kind === 'snapshot') this.snapshots.push(record);
      else if (record.kind === 'tie') this.ties.set(`${record.data.switcher} ${record.data.input}`, record.data.source);
    }
    this.own = ownDocumentOf(sources.records);
    this.tied = sourcesOf(sources.records);
    this.macros = new Map(macrosOf(sources.records).map((macro) => [macro.id, macro]));
  }

  plan(): CheckItem[] {
    const presets = this.sources.records.filter((record): record is PresetRecord => record.kind === 'preset');
    const uses = new CommandUses(this.documentOf, presets);
    const indications: CheckItem[] = [];
    const known = { documentOf: this.documentOf, roleOf: (id: string) => this.devices.get(id)?.data.role };
    for (const control of this.controls) {
      const page = this.pages.get(control.data.page);
      if (!page) continue;
      const seen = new Set<string>();
      for (const each of contextsOf(control, page, known)) {
        uses.addControl(each);
        const { runs } = each.data.responses;
        const macro = runs && this.macros.get(runs.macro);
        const by = { control: control.id, page: page.id };
        if (macro) uses.addMacro(macro, resolveParams(runs.params, each.data.values), by, (id) => this.macros.get(id));
        const indication = this.indication(each, page);
        if (!indication || seen.has(indication.fingerprint)) continue;
        seen.add(indication.fingerprint);
        indications.push(indication);
      }
    }
    for (const macro of this.macros.values()) uses.addMacro(macro, {}, {}, (id) => this.macros.get(id));
    for (const record of this.sources.records) if (record.kind === 'watch') uses.addWatch(record);
    return [
      ...[...this.devices.values()].map((device) => this.connection(device)),
      ...[...uses.all].map(([key, use]) => this.command(key, use)),
      ...indications,
      ...this.sources.records.flatMap((record) => this.others(record)),
      ...gearItems(this.sources.records),
    ];
  }

  private readonly documentOf = (id: string): DriverDocument | undefined => {
    if (id === ownId) return this.own;
    const device = this.devices.get(id);
    const document = device && this.sources.documentOf(device);
    return document && withEngineReadings(document, this.tied.has(id));
  };

  private tag(id: string): string {
    return (id === ownId ? ownDevice : this.devices.get(id))?.data.tag ?? '?';
  }

  private canRehearse(id: string): boolean {
    // What the program itself does with snapshots goes to stand-ins there.
    if (id === ownId)
      return this.snapshots.every(({ data }) => data.parts.every(({ device: of }) => this.canRehearse(of)));
    const device = this.devices.get(id);
    return device !== undefined && this.sources.canRehearse(device.data.driver);
  }

  /** What a result about a device depends on besides the item itself. */
  private ground(id: string): unknown {
    if (id === ownId) return this.snapshots.map(({ data: { number, parts } }) => [number, parts]);
    const device = this.devices.get(id);
    if (!device) return null;
    const { host, port, driver, options, through, enabled, user, additions } = device.data;
    const gateway = through && this.devices.get(through.device)?.data.host;
    const document = this.documentOf(id);
    return { host, port, driver, options, through, gateway, enabled, user, additions, version: document?.version };
  }

  private connection({ id, data }: DeviceRecord): CheckItem {
    const base = {
      ...nowhere,
      id: `connection:${id}`,
      kind: 'connection' as const,
      title: 'Connection',
      devices: [id],
    };
    const fingerprint = fingerprintOf(this.ground(id));
    if (!data.enabled) return { ...base, proofs: [], fingerprint, why: 'It is switched off in the rig.' };
    return { ...base, proofs: [{ by: 'test' }], fingerprint };
  }

  private command(key: string, { send, controls, pages, macros, fault, open }: CommandUse): CheckItem {
    const document = this.documentOf(send.device);
    const isOn = send.device === ownId || this.devices.get(send.device)?.data.enabled === true;
    const proofs: Proof[] = [];
    const command = document?.commands[send.command];
    if (command && fault === undefined && open === undefined) {
      if (isOn && command.harmless) proofs.push({ by: 'query', send });
      else if (isOn && !command.risky && !command.stop && isConfirmedByReadings(document, send.command))
        proofs.push({ by: 'put-back', send });
      if (isOn && command.confirm) proofs.push({ by: 'use' });
      if (this.canRehearse(send.device)) proofs.push({ by: 'rehearsal', send });
    }
    const isOnlyUsed = proofs.length === 1 && proofs[0]?.by === 'use';
    const why =
      fault ??
      open ??
      (isOnlyUsed
        ? 'It is proved when somebody uses it: nothing stands in for the device in a rehearsal.'
        : proofs.length > 0
          ? undefined
          : this.whyNot(command !== undefined, isOn));
    return {
      id: commandItemOf(key),
      kind: 'command',
      title: commandText(document, send.command, send.params),
      devices: [send.device, ...(send.device === ownId ? this.keptBy(send.params) : [])],
      pages: [...pages],
      controls: [...controls],
      macros: [...macros],
      panels: [],
      proofs,
      ...(why === undefined ? {} : { why }),
      ...(fault === undefined ? {} : { fault }),
      fingerprint: fingerprintOf([this.ground(send.device), send]),
    };
  }

  /** The devices that a command about snapshots goes to: those of the snapshots that it names, else those of all. */
  private keptBy(params: Readonly<Record<string, unknown>>): string[] {
    const named = [params.snapshot, params.from, params.to].filter((number) => number !== undefined);
    const meant = this.snapshots.filter(({ data }) => named.length === 0 || named.includes(data.number));
    return [...new Set(meant.flatMap(({ data }) => data.parts.map(({ device }) => device)))];
  }

  private whyNot(isThere: boolean, isOn: boolean): string {
    if (!isThere) return 'The command no longer exists.';
    if (!isOn) return 'The device is switched off in the rig, and nothing stands in for it.';
    return 'The device does not report what it changes, and nothing stands in for it in a rehearsal.';
  }

  /** What a control shows of devices: its lamp, its label, its position, its list, its picture. */
  private indication(
    { control, data, context, picked, shift }: ControlInContext,
    page: PageRecord,
  ): CheckItem | undefined {
    const found = new Map(readingsOfFace(data, this.documentOf).map((ref) => [readingId(ref), ref]));
    const readings = this.toReport(data, [...found.values()]);
    const lights = data.lamps.some(({ show }) => show !== undefined);
    if (readings.length === 0 && !lights) return undefined;
    const shownOwn = [...found.values()].flatMap(({ device, key }) =>
      device === ownId && key.startsWith('snapshot[') ? [splitKey(key).index ?? 0] : [],
    );
    // How a snapshot stands is seen at the devices that it is about.
    const kept = shownOwn.flatMap((snapshot) => this.keptBy({ snapshot }));
    const devices = [...new Set([...readings.map(({ device }) => device), ...kept])];
    const missing = devices.filter((id) => !this.devices.has(id));
    const off = devices.filter((id) => this.devices.get(id)?.data.enabled === false);
    const proofs: Proof[] = [];
    if (missing.length === 0) {
      if (off.length === 0 && (readings.length > 0 || kept.length === 0)) proofs.push({ by: 'reported', readings });
      if ((lights || data.range?.reading) && devices.length > 0 && devices.every((id) => this.canRehearse(id)))
        proofs.push({ by: 'lamp', control: control.id, context });
    }
    const level = page.data.shifts?.find(({ id }) => id === shift)?.name;
    const place = [level, picked === undefined ? undefined : this.tag(picked)].filter((part) => part !== undefined);
    const fault = missing.length > 0 ? 'A device that it shows is no longer in the rig.' : undefined;
    const why =
      fault ??
      (proofs.length === 0 ? `${off.map((id) => this.tag(id)).join(', ')} is switched off in the rig.` : undefined);
    return {
      id: `indication:${control.id}:${context}`,
      kind: 'indication',
      title: `${this.labelOf(data)}${place.length > 0 ? ` (${place.join(', ')})` : ''}`,
      devices,
      pages: [page.id],
      controls: [control.id],
      macros: [],
      panels: [],
      proofs,
      ...(why === undefined ? {} : { why }),
      ...(fault === undefined ? {} : { fault }),
      fingerprint: fingerprintOf([devices.map((id) => this.ground(id)), shownPart(data)]),
    };
  }

  /**
   * The readings whose report proves that they are shown: those of devices, of a list only its first item, for lists are as long as they happen
   * to be, and no pictures, which are fetched only while somebody looks.
   */
  private toReport({ list }: ControlRecord['data'], refs: readonly ReadingRef[]): ReadingRef[] {
    const listed = list && this.documentOf(list.device)?.lists[list.list];
    const families = new Set(
      listed ? [listed.items, ...listed.texts, ...(listed.picture ? [listed.picture] : [])] : [],
    );
    const seen = new Set<string>();
    return refs.filter(({ device, key }) => {
      if (device === ownId) return false;
      const { family } = splitKey(key);
      if (!families.has(family)) return true;
      if (seen.has(family)) return false;
      seen.add(family);
      return true;
    });
  }

  /** The label as far as it is known without any device: inputs are called by what feeds them. */
  private labelOf(data: ControlRecord['data']): string {
    const text = labelNow(data, (ref) => this.assumed(ref), this.documentOf)
      .map((segment) => segment.text)
      .join('')
      .trim();
    return /[\p{L}\p{N}]/u.test(text) ? text : `${data.type[0]?.toUpperCase() ?? ''}${data.type.slice(1)}`;
  }

  /** What a reading probably says. */
  private assumed({ device, key }: ReadingRef): Reading | undefined {
    const { family, index } = splitKey(key);
    const source = family === inputNames ? this.ties.get(`${device} ${index}`) : undefined;
    const value =
      source === undefined ? readingTitle(this.documentOf(device), key) : this.devices.get(source)?.data.name;
    return value === undefined ? undefined : { value, freshness: 'fresh', at: 0 };
  }

  private others(record: ShowRecord): CheckItem[] {
    const { id } = record;
    switch (record.kind) {
      case 'tie': {
        const { switcher, source, input } = record.data;
        const ask = `Does input ${input} of ${this.tag(switcher)} show ${this.named(source)}?`;
        const names: Proof = { by: 'names', switcher, input, source };
        const title = `${this.tag(source)} feeds input ${input} of ${this.tag(switcher)}`;
        const proofs: Proof[] = [names, { by: 'person', asks: ask }];
        const fingerprint = fingerprintOf([record.data, this.ground(switcher), this.ground(source)]);
        return [{ ...nowhere, id: `tie:${id}`, kind: 'tie', title, devices: [switcher, source], proofs, fingerprint }];
      }
      case 'panel': {
        const proofs: Proof[] = [
          { by: 'screen', panel: id },
          { by: 'person', asks: `Does the panel “${record.data.name}” show its pages, and does a press act at once?` },
        ];
        const fingerprint = fingerprintOf(record.data);
        const { pages } = record.data;
        return [
          {
            ...nowhere,
            pages,
            panels: [id],
            id: `panel:${id}`,
            kind: 'panel',
            title: record.data.name,
            devices: [],
            proofs,
            fingerprint,
          },
        ];
      }
      case 'inlet':
        return [inletItem(record)];
      case 'device':
        return [...this.tallyLamp(record), ...this.displays(record)];
      default:
        return [];
    }
  }

  private tallyLamp(device: DeviceRecord): CheckItem[] {
    const { id } = device;
    if (!this.documentOf(id)?.tallyLamp) return [];
    const proofs: Proof[] = [
      {
        by: 'person',
        asks: `Put ${this.named(id)} on air. Does the tally lamp on the device light, and go out afterwards?`,
      },
    ];
    return [
      {
        ...nowhere,
        id: `tally:${id}`,
        kind: 'tally',
        title: 'Tally lamp',
        devices: [id],
        proofs,
        fingerprint: fingerprintOf(this.ground(id)),
      },
    ];
  }

  private displays({ id, data }: DeviceRecord): CheckItem[] {
    if (!this.documentOf(id)?.displays) return [];
    return (data.displays ?? []).map(({ number, switcher, input, name }) => {
      const shows = name === undefined ? `the name of input ${input} of ${this.tag(switcher)}` : `“${name}”`;
      return {
        ...nowhere,
        id: `display:${id}:${number}`,
        kind: 'display',
        title: `Display ${number}`,
        devices: [id, switcher],
        proofs: [
          {
            by: 'person',
            asks: `Does display ${number} of ${this.tag(id)} show ${shows}, and its lamp when that is on air?`,
          },
        ],
        fingerprint: fingerprintOf([this.ground(id), number, switcher, input, name]),
      };
    });
  }

  private named(id: string): string {
    return `${this.tag(id)} ${this.devices.get(id)?.data.name ?? ''}`.trim();
  }
}

/** What of a control its indication depends on. */
const shownPart = ({ label, lamps, values, range, list, presets, shows, responses }: ControlRecord['data']): string =>
  canonicalJson({ label, lamps, values, range, list, presets, shows, tap: responses.tap });
