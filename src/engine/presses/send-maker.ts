import type { CompiledDriver } from '../../core/driver';
import { fail, type Problem, type Result } from '../../core/result';
import { isLive, resolveParams, type ControlRecord, type DeviceRecord, type SendSpec } from '../../core/show';
import { prepare } from '../devices/prepare';
import type { PreparedSend } from '../devices/session-types';
import type { RunningShow } from '../show/running-show';

type Values = ControlRecord['data']['values'];

/** A command of a control, ready to be sent. */
export interface MadeSend {
  /** Absent when it is not in the rig. */
  readonly device: DeviceRecord | undefined;
  /** Its bytes, or why they cannot be made; absent without a device or its driver. */
  readonly prepared: Result<PreparedSend, Problem> | undefined;
}

/** Makes the bytes of what controls send, once for each send: records never change. */
export class SendMaker {
  private readonly made = new WeakMap<
    SendSpec,
    {
      readonly driver: CompiledDriver;
      /** On a shift level the same command may stand beside other values. */
      readonly values: Values;
      readonly result: Result<PreparedSend, Problem>;
    }
  >();

  constructor(private readonly show: RunningShow) {}

  make(spec: SendSpec, values: Values): MadeSend {
    const device = this.show.deviceOf(spec.device);
    const driver = device && this.show.driverOf(device);
    if (!driver) return { device, prepared: undefined };
    const known = this.made.get(spec);
    if (known?.driver === driver && known.values === values) return { device, prepared: known.result };
    const open = Object.entries(spec.params).find(([, argument]) => isLive(argument))?.[0];
    const result =
      open === undefined
        ? prepare(driver, spec.command, resolveParams(spec.params, values))
        : nobodyKnows(driver, spec, open);
    this.made.set(spec, { driver, values, result });
    return { device, prepared: result };
  }

  /** True for a command that can spoil a show. */
  isRisky(send: { readonly device: string; readonly command: string }): boolean {
    const device = this.show.deviceOf(send.device);
    return (device && this.show.driverOf(device)?.commands.get(send.command)?.command.risky) ?? false;
  }
}

/** What a value is looked up from is not known now. */
function nobodyKnows(driver: CompiledDriver, { command }: SendSpec, param: string): Result<never, Problem> {
  const title = driver.commands.get(command)?.command.params[param]?.title ?? param;
  return fail({ path: param, message: `“${title}” has no value: what it is taken from is not known now.` });
}
