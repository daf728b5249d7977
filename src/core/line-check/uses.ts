import { actOf, checkValue, indexesOf, splitKey, steer, takesReading, type DriverDocument } from '../driver';
import { sendsOfStep, valuesOf } from '../macro';
import { recallSends } from '../preset';
import type { Scalar } from '../result';
import {
  canonicalJson,
  isLive,
  resolveArgument,
  resolveParams,
  sendsOfControl,
  type ControlRecord,
  type MacroRecord,
  type PresetRecord,
  type SendSpec,
  type WatchRecord,
  stickSettings,
} from '../show';
import { sendsOfWatch } from '../watch';
import type { ControlInContext } from './contexts';
import type { CheckSend } from './item';

type DocumentOf = (device: string) => DriverDocument | undefined;

/** A command with its values, and everything that sends it. */
export interface CommandUse {
  readonly send: CheckSend;
  readonly controls: Set<string>;
  readonly pages: Set<string>;
  readonly macros: Set<string>;
  /** Why it cannot be sent as it is. */
  fault: string | undefined;
  /** Why its values are not known before it is sent. */
  open: string | undefined;
}

/** The commands of a show, each with its values once, by device, command and values. */
export class CommandUses {
  readonly all = new Map<string, CommandUse>();

  constructor(
    private readonly documentOf: DocumentOf,
    private readonly presets: readonly PresetRecord[] = [],
  ) {}

  addControl({ data, control }: ControlInContext): void {
    const page = data.page;
    const by = { control: control.id, page };
    for (const send of sendsOfControl({ responses: data.responses })) this.addSend(send, data.values, by);
    const { range, drive, list, presets } = data;
    if (range)
      this.add(range.send, { ...resolveParams(range.send.params, data.values), [range.param]: this.middle(range) }, by);
    if (drive) this.addDrive(drive, by);
    if (list) this.addList(list, by);
    if (presets) this.addPresets(presets, by);
  }

  /** What a watch sends itself. */
  addWatch({ data }: WatchRecord): void {
    for (const send of sendsOfWatch(data)) this.addSend(send, {}, {});
  }

  /** The commands of a macro and of those that it begins, with these parameters. */
  addMacro(
    macro: MacroRecord,
    given: Readonly<Record<string, Scalar>>,
    by: { readonly control?: string; readonly page?: string },
    macroOf: (id: string) => MacroRecord | undefined,
    depth = 0,
  ): void {
    const values = valuesOf(macro.data, given);
    for (const step of macro.data.segments.flatMap(({ steps }) => steps)) {
      for (const { device, command, params } of sendsOfStep(step)) {
        const entries = Object.entries(params).map(
          ([name, argument]) => [name, resolveArgument(argument, values)] as const,
        );
        const known = entries.flatMap(([name, value]) => (value === undefined ? [] : [[name, value] as const]));
        const isOpen = known.length < entries.length;
        const use = this.add({ device, command }, Object.fromEntries(known), { ...by, macro: macro.id }, isOpen);
        if (isOpen) use.open = 'A value of it is looked up when the macro sends it.';
      }
      const { does } = step;
      const called = does.is === 'macro' ? macroOf(does.macro) : undefined;
      // Macros that begin each other in a ring are found while editing; here they end after a few rounds.
      if (!called || does.is !== 'macro' || depth > 8) continue;
      const passed = Object.entries(does.params).flatMap(([name, argument]) => {
        const value = resolveArgument(argument, values);
        return value === undefined ? [] : [[name, value] as const];
      });
      this.addMacro(called, Object.fromEntries(passed), { ...by }, macroOf, depth + 1);
    }
  }

  private addSend(
    { params, ...send }: SendSpec,
    values: Readonly<Record<string, Scalar>>,
    by: { readonly control?: string; readonly page?: string },
  ): void {
    const isOpen = Object.values(params).some(isLive);
    const use = this.add(send, resolveParams(params, values), by, isOpen);
    if (isOpen) use.open = 'A value of it is looked up when it is sent.';
  }

  private add(
    { device, command }: Pick<SendSpec, 'device' | 'command'>,
    params: Readonly<Record<string, Scalar>>,
    by: { readonly control?: string; readonly page?: string; readonly macro?: string },
    isOpen = false,
  ): CommandUse {
    const send = { device, command, params: { ...params } };
    const key = keyOf(send);
    let use = this.all.get(key);
    if (!use) {
      const fault = isOpen ? undefined : faultOf(this.documentOf(device), send);
      use = { send, controls: new Set(), pages: new Set(), macros: new Set(), fault, open: undefined };
      this.all.set(key, use);
    }
    if (by.control !== undefined) use.controls.add(by.control);
    if (by.page !== undefined) use.pages.add(by.page);
    if (by.macro !== undefined) use.macros.add(by.macro);
    return use;
  }

  /** A value in the middle of a fader's range that its command takes; its beginning, where only a reading says how far it goes. */
  private middle({ send, param, min, max, most }: NonNullable<ControlRecord['data']['range']>): Scalar {
    const shape = this.documentOf(send.device)?.commands[send.command]?.params[param]?.value;
    const middle = most ? min : (min + max) / 2;
    return shape?.type === 'decimal' ? middle : Math.round(middle);
  }

  private addDrive(
    { device, drive, axes, ...settings }: NonNullable<ControlRecord['data']['drive']>,
    by: { readonly control: string; readonly page: string },
  ): void {
    const document = this.documentOf(device);
    const [x, y] = [axes === 'along' ? 0 : 0.5, axes === 'across' ? 0 : 0.5];
    const steering =
      document && steer(document, drive, x, y, stickSettings({ axes, ...settings }, undefined, { slow: false }));
    this.add({ device, command: steering?.command ?? drive }, steering?.params ?? {}, by);
  }

  /** The recall of each preset that a control shows. */
  private addPresets(
    { device }: NonNullable<ControlRecord['data']['presets']>,
    by: { readonly control: string; readonly page: string },
  ): void {
    for (const preset of this.presets) {
      const { data } = preset;
      if (device === undefined ? !data.favourite : data.device !== device) continue;
      const document = this.documentOf(data.device);
      for (const send of document ? recallSends(document, preset) : [])
        this.add(send, resolveParams(send.params, {}), by);
    }
  }

  private addList(
    { device, list }: NonNullable<ControlRecord['data']['list']>,
    by: { readonly control: string; readonly page: string },
  ): void {
    const document = this.documentOf(device);
    const definition = document?.lists[list];
    if (!document || !definition) return;
    const index = document.readings[definition.items]?.index;
    const [first] = index ? indexesOf(index) : [];
    const item = first === undefined ? undefined : { index: first, value: '' };
    for (const [n, act] of definition.acts.entries()) {
      const takesValue = Object.values(act.params).some((each) => typeof each === 'object' && each.item === 'value');
      const made = takesValue ? undefined : actOf(document, list, n, item, undefined);
      if (made?.ok) this.add({ device, command: made.value.command }, made.value.params, by);
      else
        this.add({ device, command: act.command }, {}, by, true).open =
          'It needs an item that is chosen from the list when the show runs.';
    }
  }
}

const keyOf = ({ device, command, params }: CheckSend): string => `${device}:${command}:${canonicalJson(params)}`;

export const commandItemOf = (key: string): string => `command:${key}`;

/** The id of the item that is about a command with these values. */
export const itemOfSend = (send: CheckSend): string => commandItemOf(keyOf(send));

/** Why a command cannot be sent as it is, if it cannot. */
function faultOf(document: DriverDocument | undefined, { command: id, params }: CheckSend): string | undefined {
  if (!document) return 'The device or its driver is missing.';
  const command = document.commands[id];
  if (!command) return `The driver has no command “${id}” any more.`;
  for (const [name, definition] of Object.entries(command.params)) {
    const value = params[name];
    if (value === undefined) {
      if (definition.optional || definition.default !== undefined || takesReading(definition)) continue;
      return `“${definition.title}” has no value.`;
    }
    const checked = checkValue(definition.value, value);
    if (!checked.ok) return `“${definition.title}” ${checked.error}.`;
  }
  return undefined;
}

/** True when every reading that confirms a command is one that the driver has. */
export function isConfirmedByReadings(document: DriverDocument, command: string): boolean {
  const confirm = document.commands[command]?.confirm;
  return (
    confirm?.by === 'readings' && confirm.all.every(({ reading }) => splitKey(reading).family in document.readings)
  );
}
